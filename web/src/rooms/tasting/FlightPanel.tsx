import { Button } from '@mantine/core';
import { useState } from 'react';
import { Link } from 'react-router';
import { Confirm } from '../../ui/Confirm';
import { NumberField, numberOf } from '../../ui/fields';
import { plural } from '../../ui/numbers';
import { useTellDeleted } from '../../ui/tell';
import { useSend } from '../../ui/useSend';
import { CoinTray } from './CoinTray';
import { MarksForm } from './MarksForm';
import { closeFlight, type Flight, removeFlight, setCupTemperature } from './queries';
import classes from './Taste.module.css';
import { TasterLinks } from './TasterLinks';

/** One flight, from poured to flipped. */
export function FlightPanel({ flight, onGone }: { flight: Flight; onGone: () => void }) {
  const tellDeleted = useTellDeleted();
  const [fixing, setFixing] = useState(false);
  const close = useSend(() => closeFlight(flight.id));
  const remove = useSend(() => removeFlight(flight.id), {
    onDone: (done) => {
      tellDeleted(`Flight ${flight.number}`, done.change_id);
      onGone();
    },
  });
  const wanted = flight.cups.length * flight.sheets.length;
  const scored = flight.sheets.reduce((sum, s) => sum + s.scored, 0);
  return (
    <>
      <h1>{headline(flight)}</h1>
      <p className="quiet" style={{ marginBottom: 14 }}>
        {explain(flight, scored, wanted)}
      </p>
      <div className={classes.panel}>
        <div className={classes.left}>
          <CoinTray flight={flight} />
          {flight.status === 'open' && flight.blinding === 'shuffle' && <PouringGuide flight={flight} />}
          {(flight.status === 'closed' || fixing) && <MarksForm flight={flight} onDone={() => setFixing(false)} />}
          {flight.status === 'flipped' && !fixing && (
            <div className={classes.buttons}>
              <Button size="md" component={Link} to={`/trials/${flight.trial_id}/verdict`}>
                Read the verdict
              </Button>
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
                  <Button size="md" onClick={askFirst} loading={close.isPending}>
                    Close the flight
                  </Button>
                )}
              </Confirm>
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
          <TasterLinks flight={flight} />
          <CupTemperature key={flight.rev} flight={flight} />
        </div>
      </div>
    </>
  );
}

function headline(f: Flight): string {
  if (f.status === 'open') return `Flight ${f.number} is being tasted`;
  if (f.status === 'closed') return `Turn the cups of flight ${f.number}`;
  return `Flight ${f.number} is flipped`;
}

function explain(f: Flight, scored: number, wanted: number): string {
  const so = `${scored} of ${wanted} cups scored`;
  if (f.blinding === 'open') return `${so}. Labels are in sight: these scores are kept apart from blind ones.`;
  if (f.status === 'open') return `${so}. Which cup is which is known to nobody here, not even to the bench.`;
  if (f.status === 'closed') return `Scores are locked, ${so}. Enter the mark you find under each code card.`;
  return `${so}. The key is known.`;
}

function PouringGuide({ flight }: { flight: Flight }) {
  return (
    <section className="card" aria-labelledby="pouring">
      <h2 id="pouring">Marks under the servers</h2>
      <p className="quiet small">
        Mark them, have somebody shuffle them out of sight, set the {plural(flight.cups.length, 'code card')} in front,
        pour by card. Alone: shuffle with eyes shut.
      </p>
      <ol className={classes.marks}>
        {flight.marks.map((m) => (
          <li key={m.mark}>
            <span className={classes.mark}>{m.mark}</span>
            {m.label}
          </li>
        ))}
      </ol>
    </section>
  );
}

const timeOf = (iso: string) => new Date(iso).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' });

function CupTemperature({ flight }: { flight: Flight }) {
  const [text, setText] = useState(flight.cup_temperature_c === null ? '' : String(flight.cup_temperature_c));
  const save = useSend(async () => setCupTemperature(flight, numberOf('cup_temperature_c', text)));
  return (
    <form
      className={`card ${classes.temperature}`}
      onSubmit={(e) => {
        e.preventDefault();
        save.mutate();
      }}
    >
      <NumberField label="Cup temperature" unit="°C" value={text} onText={setText} />
      <Button type="submit" variant="default" disabled={!text.trim()} loading={save.isPending}>
        Read now
      </Button>
      {Number(flight.cup_temperature_c) > 65 && (
        <p className={classes.trouble}>Above 65 °C scalds: let the cups cool first.</p>
      )}
      {flight.passes.length ? (
        <dl className={classes.passes}>
          {flight.passes.map((p) => (
            <div key={p.name}>
              <dt>
                {p.name} pass, {p.from_c}–{p.to_c} °C
              </dt>
              <dd className="num">
                {p.opens_at === null
                  ? 'not in this room'
                  : `${timeOf(p.opens_at)}–${p.closes_at ? timeOf(p.closes_at) : ''}`}
              </dd>
            </div>
          ))}
        </dl>
      ) : (
        <p className="quiet small">
          {flight.cup_temperature_c === null || flight.status !== 'open'
            ? 'One cup speaks for all.'
            : 'Read the same cup again in some minutes: two readings tell when each pass opens.'}
        </p>
      )}
    </form>
  );
}
