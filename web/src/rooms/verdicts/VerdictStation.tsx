import { Button } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { Link, useParams } from 'react-router';
import { LikingIntervals } from '../../charts/liking/LikingIntervals';
import { Loaded } from '../../ui/Loading';
import { dayAndTime, plural } from '../../ui/numbers';
import { Penny } from '../../ui/Penny';
import { ByTaster } from './ByTaster';
import { type Judged, type VerdictAnswer, verdictQuery } from './queries';
import { DifferencesTable, MeasuredTable } from './Tables';
import classes from './Verdict.module.css';

/** Verdict: what to brew tomorrow, how sure that is, and what would settle the rest. */
export function VerdictStation() {
  const { id = '' } = useParams();
  const verdict = useQuery(verdictQuery(id));
  return (
    <Loaded query={verdict}>
      {(v) =>
        v.blind ? (
          <Shown trialId={id} judged={v.blind} answer={v} />
        ) : v.sighted ? (
          <SightedOnly trialId={id} judged={v.sighted} answer={v} />
        ) : (
          <NotYet trialId={id} answer={v} />
        )
      }
    </Loaded>
  );
}

function Shown({ trialId, judged, answer }: { trialId: string; judged: Judged; answer: VerdictAnswer }) {
  return (
    <>
      <Headline judged={judged} />
      <section className={`card ${classes.next}`} aria-labelledby="next">
        <div>
          <h2 id="next">Until tomorrow</h2>
          <p>{judged.lean.text}</p>
        </div>
        <Button component={Link} to={`/trials/${trialId}/brew`} variant="default" size="md" flex="none">
          Brew again
        </Button>
      </section>
      <div className={classes.grid}>
        <div className={classes.column}>
          {' '}
          <section className="card" aria-labelledby="liking">
            <div className={classes.cardHead}>
              <h2 id="liking">Blind liking, 1 to 9</h2>
              <span className="quiet small">95 % intervals</span>
            </div>
            <LikingIntervals setups={judged.setups} />
          </section>
          <section className="card" aria-labelledby="tasters">
            <h2 id="tasters">By taster</h2>
            <ByTaster judged={judged} />
          </section>
        </div>
        <div className={classes.column}>
          <section className="card" aria-labelledby="measured">
            <h2 id="measured">What was measured</h2>
            <MeasuredTable setups={judged.setups} />
            {answer.sighted && <SideBySide blind={judged} sighted={answer.sighted} />}
          </section>
          <section className="card" aria-labelledby="differences">
            <h2 id="differences">Differences</h2>
            <DifferencesTable judged={judged} />
          </section>
        </div>
      </div>
      <Earlier answer={answer} />
    </>
  );
}

function Headline({ judged }: { judged: Judged }) {
  return (
    <header className={classes.head}>
      <h1>{judged.verdict.headline}</h1>
      <p className={classes.text}>{judged.verdict.text}</p>
      <p className="quiet small">
        {plural(judged.tasters, 'taster')}, {plural(judged.brews, 'brew')}, {plural(judged.flights, 'flight')}; a lead
        below {judged.smallest_difference} points does not matter here.
      </p>
    </header>
  );
}

function SideBySide({ blind, sighted }: { blind: Judged; sighted: Judged }) {
  const order = (j: Judged) =>
    j.setups.map((s) => (
      <li key={s.setup}>
        <Penny stamp={s.setup} size={28} />
        <span className="num">{s.mean?.toFixed(1)}</span>
      </li>
    ));
  return (
    <div className={classes.sides}>
      <h2>Labels in sight, and not</h2>
      <p className="quiet small">Kept apart, never pooled.</p>
      <dl>
        <dt>in sight</dt>
        <dd>
          <ol>{order(sighted)}</ol>
        </dd>
        <dt>blind</dt>
        <dd>
          <ol>{order(blind)}</ol>
        </dd>
      </dl>
    </div>
  );
}

function SightedOnly({ trialId, judged, answer }: { trialId: string; judged: Judged; answer: VerdictAnswer }) {
  return (
    <>
      <header className={classes.head}>
        <h1>With labels in sight only: {lowerFirst(judged.verdict.headline)}</h1>
        <p className={classes.text}>
          People routinely guess wrong once the labels are gone. {judged.verdict.text}{' '}
          <Link to={`/trials/${trialId}/taste`}>Pour a blind flight</Link> before you rely on it.
        </p>
      </header>
      <section className="card">
        <h2>Sighted liking, 1 to 9</h2>
        <LikingIntervals setups={judged.setups} />
      </section>
      <Earlier answer={answer} />
    </>
  );
}

const lowerFirst = (text: string) => text.charAt(0).toLowerCase() + text.slice(1);

function NotYet({ trialId, answer }: { trialId: string; answer: VerdictAnswer }) {
  const waiting = answer.flights_to_flip
    ? 'A flight is closed: turn the cups and enter the marks.'
    : answer.flights_open
      ? 'A flight is being tasted. Close it when everybody is done.'
      : 'Nothing has been tasted yet.';
  return (
    <div className="card">
      <h1>No verdict yet</h1>
      <p className="quiet">{waiting}</p>
      <Button mt="md" size="md" component={Link} to={`/trials/${trialId}/taste`}>
        Taste
      </Button>
    </div>
  );
}

function Earlier({ answer }: { answer: VerdictAnswer }) {
  if (!answer.earlier.length) return null;
  return (
    <details className={classes.earlier}>
      <summary>{plural(answer.earlier.length, 'earlier verdict')}, before something was added or corrected</summary>
      <ul>
        {answer.earlier.map((e) => (
          <li key={e.judged_at}>
            {dayAndTime(e.judged_at)}: {e.sighted && 'sighted, '}
            {e.headline}
          </li>
        ))}
      </ul>
    </details>
  );
}
