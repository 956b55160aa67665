import { Button } from '@mantine/core';
import { useState } from 'react';
import { Link } from 'react-router';
import { blindingOf } from '../../api/words';
import { Confirm } from '../../ui/Confirm';
import { NextLink } from '../../ui/NextLink';
import { fixed, plural, timeOf } from '../../ui/numbers';
import { useTellDeleted } from '../../ui/tell';
import { useSend } from '../../ui/useSend';
import { CoinTray } from './CoinTray';
import { MarksForm } from './MarksForm';
import { PassesCard } from './PassesCard';
import { closeFlight, type Flight, flipFlight, removeFlight, sayShuffled } from './queries';
import { SealCard } from './SealCard';
import classes from './Taste.module.css';
import { TasterLinks } from './TasterLinks';
import { useFlightEvents } from './useFlightEvents';

/** One flight, from poured to flipped. */
export function FlightPanel({ flight, onGone }: { flight: Flight; onGone: () => void }) {
  const tellDeleted = useTellDeleted();
  const [fixing, setFixing] = useState(false);
  const [turning, setTurning] = useState(false);
  const close = useSend(() => closeFlight(flight.id));
  const unseal = useSend(() => flipFlight(flight.id, []), { onDone: () => setTurning(true) });
  const full = useFlightEvents(flight.id, flight.status !== 'flipped');
  const remove = useSend(() => removeFlight(flight.id), {
    onDone: (done) => {
      tellDeleted(`Flight ${flight.number}`, done.change_id);
      onGone();
    },
  });
  const wanted = flight.sheets.reduce((sum, s) => sum + s.of, 0);
  const scored = flight.sheets.reduce((sum, s) => sum + s.scored, 0);
  const [so, meaning] = explain(flight, scored, wanted);
  return (
    <>
      <h1>{headline(flight)}</h1>
      <p className="quiet" style={{ marginBottom: 14 }}>
        <span>{so}</span> <span>{meaning}</span>
        {full && <span role="status"> Many pages are open on this bench: this one looks again every 4 seconds.</span>}
      </p>
      <div className={classes.panel}>
        <div className={classes.left}>
          {isToShuffle(flight) && <ReadyToPour flight={flight} />}
          <CoinTray flight={flight} turning={turning} />
          {flight.status === 'open' && <PassesCard flight={flight} />}
          {flight.status === 'open' && ['open', 'broken'].includes(flight.blinding) && <ReadyToPour flight={flight} />}
          {flight.status === 'open' && flight.blinding === 'shuffle' && !isToShuffle(flight) && (
            <details>
              <summary>Marks under the servers</summary>
              <ReadyToPour flight={flight} />
            </details>
          )}
          {flight.blinding === 'shuffle' && (flight.status === 'closed' || fixing) && (
            <MarksForm
              flight={flight}
              onDone={() => {
                setFixing(false);
                setTurning(true);
              }}
            />
          )}
          {flight.blinding === 'runner' && flight.status === 'closed' && (
            <div className={classes.buttons}>
              <Button size="md" loading={unseal.isPending} onClick={() => unseal.mutate()}>
                Flip the pennies
              </Button>
            </div>
          )}
          {flight.costs.length > 0 && (
            <ul className={classes.costs} aria-label="What it cost">
              {flight.costs.map((c) => (
                <li key={c}>{c}</li>
              ))}
            </ul>
          )}
          {flight.late.length > 0 && <LateScores flight={flight} />}
          {flight.status === 'flipped' && !fixing && (
            <div className={classes.buttons}>
              <NextLink to={`/trials/${flight.trial_id}/verdict`} takesFocus={turning}>
                Read the verdict
              </NextLink>
              {flight.blinding === 'shuffle' && (
                <Button size="md" variant="default" onClick={() => setFixing(true)}>
                  Correct the marks
                </Button>
              )}
            </div>
          )}
          <div className={classes.buttons}>
            {flight.status === 'open' && (
              <Confirm
                question="Close the flight?"
                detail={`All scores are locked for good. ${scored} of ${wanted} cups are scored${scored < wanted ? '; the rest stay unscored' : ''}.`}
                verb="Close and lock"
                onYes={() => close.mutate()}
              >
                {(askFirst) => (
                  <Button
                    size="md"
                    variant={flight.seal?.link ? 'default' : 'filled'}
                    onClick={askFirst}
                    loading={close.isPending}
                  >
                    Close the flight
                  </Button>
                )}
              </Confirm>
            )}
            {flight.status === 'open' && (
              <>
                <Button size="md" variant="default" component={Link} to={`/flights/${flight.id}/tablet`}>
                  Share one tablet
                </Button>
                <Button size="md" variant="default" component={Link} to={`/flights/${flight.id}/paper`}>
                  Paper sheets and labels
                </Button>
              </>
            )}
            <Confirm
              question={`Delete flight ${flight.number}?`}
              detail="Its scores leave the verdict with it. It can be undone."
              verb="Delete the flight"
              onYes={() => remove.mutate()}
            >
              {(askFirst) => (
                <Button size="md" variant="subtle" color="red" onClick={askFirst}>
                  Delete the flight
                </Button>
              )}
            </Confirm>
          </div>
        </div>
        <div className={classes.left}>
          {flight.seal && <SealCard flight={flight} />}
          <TasterLinks flight={flight} />
        </div>
      </div>
    </>
  );
}

function headline(f: Flight): string {
  if (isToShuffle(f)) return `Pour flight ${f.number}`;
  if (f.status === 'open') return `Flight ${f.number} is being tasted`;
  if (f.status === 'closed')
    return f.blinding === 'runner' ? `Flip flight ${f.number}` : `Turn over the servers of flight ${f.number}`;
  return `Flight ${f.number} is flipped`;
}

/** Whether the servers still stand in an order that somebody knows. */
const isToShuffle = (f: Flight) => f.status === 'open' && f.blinding === 'shuffle' && !f.shuffled_at;

/** How far it is, and what that means for whoever hosts it. */
function explain(f: Flight, scored: number, wanted: number): [string, string] {
  const so = `${f.method_label}: ${scored} of ${wanted} done.`;
  const how = blindingOf(f.blinding);
  if (how?.elsewhere) return [so, how.about];
  if (f.blinding === 'broken') return [so, 'The seal was broken: graded sighted, kept apart from blind scores.'];
  if (f.blinding === 'open') return [so, 'Labels are in sight: these scores are kept apart from blind ones.'];
  const runner = f.blinding === 'runner';
  if (f.status === 'open') {
    return runner
      ? [so, `Which cup is which is on the runner's phone only${f.host_tastes ? '; you are tasting too' : ''}.`]
      : f.shuffled_at
        ? [so, `Shuffled at ${timeOf(f.shuffled_at)}: nobody here knows which cup is which.`]
        : [so, ''];
  }
  const locked = `Scores locked: ${scored} of ${wanted}.`;
  if (f.status === 'closed')
    return [locked, runner ? "The runner's seal can be opened." : 'Enter the mark you find under each code card.'];
  return [so, 'The key is known.'];
}

/** Before the first sip: which brew stands in which marked server, what is stirred in, and the shuffle, said by whoever did it. */
function ReadyToPour({ flight }: { flight: Flight }) {
  const shuffle = useSend(() => sayShuffled(flight.id));
  const rounds = [...new Set(flight.marks.map((m) => m.round))];
  const sighted = flight.blinding !== 'shuffle';
  return (
    <section className="card" aria-labelledby="pouring">
      <h2 id="pouring">{sighted ? 'Which brew is under which code' : 'Marks under the servers'}</h2>
      <p className="quiet small">
        {sighted
          ? 'Labels are in sight in this flight.'
          : `Mark them, have somebody shuffle them out of sight, set the ${plural(flight.cups.length, 'code card')} in front, pour by card. Alone: eyes shut.`}
        {rounds.length > 1 && ' Shuffle within each round only.'}
        {flight.options.own_sets &&
          ' Each taster gets the cups named beside them: one of the servers is left out, another for each.'}
      </p>
      {rounds.map((round) => (
        <div key={round}>
          {rounds.length > 1 && <h3 className={classes.roundOf}>Round {round}</h3>}
          <ol className={classes.marks}>
            {sighted
              ? flight.cups
                  .filter((c) => c.round === round)
                  .map((c) => (
                    <li key={c.code}>
                      <span className={classes.mark}>{c.code}</span>
                      {c.label}
                    </li>
                  ))
              : flight.marks
                  .filter((m) => m.round === round)
                  .map((m) => (
                    <li key={m.mark}>
                      <span className={classes.mark}>{m.mark}</span>
                      {m.label}
                      {m.add_water_g !== null && (
                        <>
                          {' '}
                          <b className={classes.stirIn}>stir in {fixed(m.add_water_g, 1)} g of hot water</b>
                        </>
                      )}
                    </li>
                  ))}
            {flight.references
              .filter((r) => r.round === round)
              .map((r) => (
                <li key={`r${r.round}`}>
                  <span className={classes.mark}>R</span>
                  {r.label}, the reference
                </li>
              ))}
          </ol>
        </div>
      ))}
      {isToShuffle(flight) && (
        <div className={`${classes.buttons} ${classes.shuffled}`}>
          <Button size="md" loading={shuffle.isPending} onClick={() => shuffle.mutate()}>
            They are shuffled
          </Button>
        </div>
      )}
    </section>
  );
}

/** What came after the lock: shown apart, never judged. */
function LateScores({ flight }: { flight: Flight }) {
  return (
    <details className="card">
      <summary>{plural(flight.late.length, 'late score')}, not judged</summary>
      <ul className={classes.costs}>
        {flight.late.map((l) => (
          <li key={`${l.taster}${l.code}${l.attribute}${l.received_at}`}>
            {l.taster}, cup {l.code}: {l.attribute.replace('_', ' ')} <span className="num">{l.value ?? l.text}</span>
          </li>
        ))}
      </ul>
    </details>
  );
}
