import { Button } from '@mantine/core';
import { useEffect, useState } from 'react';
import { NumberField, numberOf } from '../../ui/fields';
import { clock } from '../../ui/numbers';
import { useSend } from '../../ui/useSend';
import { CoolingCurve } from './CoolingCurve';
import { type Flight, openPass, type PassName, setCupTemperature } from './queries';
import classes from './Taste.module.css';

type Pass = Flight['passes'][number];

const timeOf = (iso: string) => new Date(iso).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' });

/** One temperature for all cups, and which pass is open by it. */
export function PassesCard({ flight }: { flight: Flight }) {
  const [text, setText] = useState('');
  const save = useSend(async () => setCupTemperature(flight, numberOf('cup_temperature_c', text)), {
    onDone: () => setText(''),
  });
  const open = useSend((name: PassName) => openPass(flight.id, name));
  useEverySecond();
  const asked = flight.passes.filter((p) => p.asked);
  const waiting = asked.filter((p) => !p.open);
  return (
    <section className="card" aria-labelledby="passes">
      <h2 id="passes">{heading(asked)}</h2>
      {Number(flight.cup_temperature_c) > 65 && (
        <p className={classes.trouble}>Read at {flight.cup_temperature_c} °C: above 65 °C scalds. Let the cups cool.</p>
      )}
      {flight.cooling ? (
        <CoolingCurve flight={flight} />
      ) : (
        <p className="quiet small">
          {flight.cup_temperature_c === null
            ? 'Measure one cup for the whole flight. Two readings some minutes apart tell when each pass opens.'
            : `Read at ${flight.cup_temperature_c} °C. Read the same cup again in some minutes to see when each pass opens.`}
        </p>
      )}
      {flight.status === 'open' && (
        <form
          className={classes.temperature}
          onSubmit={(e) => {
            e.preventDefault();
            save.mutate();
          }}
        >
          <NumberField aria-label="Cup temperature" placeholder="cup" unit="°C" value={text} onText={setText} />
          <Button type="submit" variant="default" disabled={!text.trim()} loading={save.isPending}>
            Read now
          </Button>
          {waiting.map((p) => (
            <Button key={p.name} variant="default" loading={open.isPending} onClick={() => open.mutate(p.name)}>
              Open the {p.name} pass {p.known ? 'early' : 'now'}
            </Button>
          ))}
        </form>
      )}
    </section>
  );
}

/** "Warm pass opens in 3:40", "Hot pass is open". */
function heading(asked: Pass[]): string {
  const next = asked.find((p) => !p.open && p.opens_at);
  if (next) {
    const left = (Date.parse(next.opens_at!) - Date.now()) / 1000;
    const name = next.name.charAt(0).toUpperCase() + next.name.slice(1);
    return left > 0 ? `${name} pass opens in ${clock(left)}` : `${name} pass is due`;
  }
  const open = asked.filter((p) => p.open);
  if (!asked.length) return 'Cup temperature';
  if (!open.length) return `${asked[0]!.name.charAt(0).toUpperCase()}${asked[0]!.name.slice(1)} pass is not open yet`;
  const closes = open.at(-1)!.closes_at;
  const till = closes && Date.parse(closes) > Date.now() ? `, until ${timeOf(closes)}` : '';
  return `${open.map((p) => p.name).join(' and ')} pass open${till}`.replace(/^./, (c) => c.toUpperCase());
}

function useEverySecond() {
  const [, tick] = useState(0);
  useEffect(() => {
    const timer = window.setInterval(() => tick((n) => n + 1), 1000);
    return () => window.clearInterval(timer);
  }, []);
}
