import { Button } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { Confirm } from '../../ui/Confirm';
import { Loaded } from '../../ui/Loading';
import { plural } from '../../ui/numbers';
import { useSend } from '../../ui/useSend';
import classes from './Drill.module.css';
import { laid, leftOver, placesOf, read, toPour, touched } from './drilling';
import { answerRound, beginRound, type Drill, drillQuery, removeDrill, turnCups } from './queries';

/** One exercise: pour, shuffle, answer, turn over, see how it compares with guessing. */
export function DrillPage() {
  const { id = '' } = useParams();
  const drill = useQuery(drillQuery(id));
  return (
    <main className={classes.page}>
      <Loaded query={drill}>{(d) => <Whole key={`${d.id} ${d.now?.number ?? 0}`} drill={d} />}</Loaded>
    </main>
  );
}

function Whole({ drill }: { drill: Drill }) {
  const navigate = useNavigate();
  const remove = useSend(removeDrill, { leaves: true, onDone: () => navigate('/palate') });
  return (
    <>
      <header className={classes.head}>
        <div>
          <h1>{drill.word}</h1>
          <p className="quiet">{drill.cups.map((c) => `${c.mark}: ${c.name}`).join(' · ')}</p>
        </div>
        <Link to="/palate">All of Palate</Link>
      </header>
      {drill.now ? drill.now.answer ? <Turn drill={drill} /> : <Answer drill={drill} /> : <Between drill={drill} />}
      <footer className={classes.foot}>
        <p className="quiet" role="status">
          {drill.text}
        </p>
        <Confirm
          question="Delete this drill?"
          detail={`${plural(drill.rounds, 'round')} go with it. It can be undone from the history.`}
          verb="Delete it"
          onYes={() => remove.mutate(drill.id)}
        >
          {(ask) => (
            <Button variant="subtle" size="compact-sm" onClick={ask}>
              Delete
            </Button>
          )}
        </Confirm>
      </footer>
    </>
  );
}

function Between({ drill }: { drill: Drill }) {
  const begin = useSend(beginRound);
  const { last } = drill;
  return (
    <section className="card">
      {last ? (
        <>
          <h2>
            Round {last.number}: {last.right} of {last.of}
          </h2>
          <ol className={classes.shown}>
            {placesOf(last.marks.length).map((name, place) => (
              <li key={name}>
                <b>{last.marks[place]}</b>
                <span>{drill.cups.find((c) => c.mark === last.marks[place])!.name}</span>
                <span className="quiet small">{said(drill, place)}</span>
              </li>
            ))}
          </ol>
        </>
      ) : (
        <p>
          The cups carry a letter underneath. Shuffle them, or let somebody else, until you do not know which is which.
        </p>
      )}
      <Button size="lg" fullWidth loading={begin.isPending} onClick={() => begin.mutate(drill.id)}>
        {last ? 'Another round' : 'Set out the first round'}
      </Button>
    </section>
  );
}

/** What was answered for the cup that stood there. */
function said(drill: Drill, place: number): string {
  const { answer } = drill.last!;
  if (drill.kind === 'order') return `you put it ${answer.indexOf(place) + 1} of ${answer.length}`;
  if (drill.kind === 'match') return `you said ${drill.cups[answer[place]!]!.name}`;
  return answer[0] === place ? 'you chose it' : '';
}

function Answer({ drill }: { drill: Drill }) {
  const { number, set_out } = drill.now!;
  const names = placesOf(set_out.length);
  const [order, setOrder] = useState<number[]>([]);
  const [words, setWords] = useState<(number | null)[]>(set_out.map(() => null));
  const send = useSend(answerRound);
  const given = drill.kind === 'match' ? (words.every((w) => w !== null) ? words : null) : order;
  const whole = given && given.length === (drill.kind === 'order' || drill.kind === 'match' ? set_out.length : 1);
  const touch = (place: number) => setOrder(drill.kind === 'order' ? touched(order, place) : [place]);
  return (
    <section className="card">
      <p>
        Pour <b>{toPour(set_out)}</b> into like cups, the letter underneath. Shuffle them, set them in a row, taste from
        the left.
      </p>
      <h2>{drill.question}</h2>
      {drill.kind === 'match' ? (
        <ul className={classes.rows}>
          {names.map((name, place) => (
            <li key={name}>
              <span>{name}</span>
              <span className={classes.marks}>
                {drill.cups.map((cup, word) => (
                  <button
                    key={cup.mark}
                    type="button"
                    aria-pressed={words[place] === word}
                    onClick={() => setWords(laid(words, place, words[place] === word ? null : word))}
                  >
                    {cup.name}
                  </button>
                ))}
              </span>
            </li>
          ))}
        </ul>
      ) : (
        <div className={classes.cups}>
          {names.map((name, place) => (
            <button key={name} type="button" aria-pressed={order.includes(place)} onClick={() => touch(place)}>
              <span>{name}</span>
              {drill.kind === 'order' && <b>{order.includes(place) ? order.indexOf(place) + 1 : '–'}</b>}
            </button>
          ))}
        </div>
      )}
      <Button
        size="lg"
        fullWidth
        disabled={!whole}
        loading={send.isPending}
        onClick={() => send.mutate({ id: drill.id, body: { number, answer: given as number[] } })}
      >
        That is my answer
      </Button>
    </section>
  );
}

function Turn({ drill }: { drill: Drill }) {
  const { number, set_out } = drill.now!;
  const names = placesOf(set_out.length);
  const [marks, setMarks] = useState<(string | null)[]>(set_out.map(() => null));
  const send = useSend(turnCups);
  const kinds = [...new Set(set_out)];
  return (
    <section className="card">
      <h2>Turn the cups over</h2>
      <p>Your answer stands. Which letter is under each, from the left?</p>
      <ul className={classes.rows}>
        {names.map((name, place) => (
          <li key={name}>
            <span>{name}</span>
            <span className={classes.marks}>
              {kinds.map((mark) => (
                <button
                  key={mark}
                  type="button"
                  aria-label={`${name} is ${mark}`}
                  aria-pressed={marks[place] === mark}
                  disabled={marks[place] !== mark && !leftOver(marks, set_out).includes(mark) && marks[place] === null}
                  onClick={() => setMarks(read(marks, place, mark, set_out))}
                >
                  {mark}
                </button>
              ))}
            </span>
          </li>
        ))}
      </ul>
      <div className={classes.both}>
        <Button variant="default" size="lg" onClick={() => setMarks(set_out.map(() => null))}>
          Read them again
        </Button>
        <Button
          size="lg"
          disabled={marks.includes(null)}
          loading={send.isPending}
          onClick={() => send.mutate({ id: drill.id, body: { number, marks: marks as string[] } })}
        >
          That is what they say
        </Button>
      </div>
    </section>
  );
}
