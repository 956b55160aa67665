import { Button } from '@mantine/core';
import { useEffect, useState } from 'react';
import { Refused } from '../../api/client';
import { NumberField, numberOf } from '../../ui/fields';
import { clock, timeOf } from '../../ui/numbers';
import { heat, scalds, scaldsAbove } from '../../ui/units';
import { useSend } from '../../ui/useSend';
import { CoolingCurve } from './CoolingCurve';
import { type Flight, openPass, type PassName, readTemperature, takeBackTemperature } from './queries';
import classes from './Taste.module.css';
import { readingOf } from './temperatures';

type Pass = Flight['passes'][number];

/** How warm the cups are, for all or each by its code, and which pass is open by it. */
export function PassesCard({ flight }: { flight: Flight }) {
  const open = useSend((name: PassName) => openPass(flight.id, name));
  const takeBack = useSend(() => takeBackTemperature(flight.id));
  useEverySecond();
  const asked = flight.passes.filter((p) => p.asked);
  const waiting = asked.filter((p) => !p.open);
  const again = waiting.find((p) => !p.closed && p.opens_at)?.read_again_at;
  return (
    <section className="card" aria-labelledby="passes">
      <h2 id="passes">{heading(asked)}</h2>
      {again && (
        <p className="quiet">
          Read the cups again at {timeOf(again)}: until then that time is good to a fifth, after it to a twentieth.
        </p>
      )}
      {scalds(Number(flight.cup_temperature_c)) && (
        <p className={classes.trouble}>
          Read at {heat(Number(flight.cup_temperature_c))}: above {scaldsAbove()} scalds. Let the cups cool.
        </p>
      )}
      {flight.cups_said.map((said) => (
        <p key={said} className={classes.trouble} role="status">
          {said}
        </p>
      ))}
      {flight.cooling ? (
        <CoolingCurve flight={flight} />
      ) : (
        <p className="quiet small">
          {flight.cup_temperature_c === null
            ? 'Measure one cup for the whole flight. Two readings some minutes apart tell when each pass opens.'
            : `Read at ${heat(flight.cup_temperature_c)}. Read the same cup again in some minutes to see when each pass opens.`}
        </p>
      )}
      {flight.status === 'open' && (
        <>
          <Thermometer flight={flight} />
          <div className={classes.temperature}>
            {flight.cup_temperature_c !== null && (
              <Button variant="subtle" loading={takeBack.isPending} onClick={() => takeBack.mutate()}>
                Take back {heat(flight.cup_temperature_c)}
              </Button>
            )}
            {waiting.map((p) => (
              <Button key={p.name} variant="default" loading={open.isPending} onClick={() => open.mutate(p.name)}>
                {p.closed ? `Open the ${p.name} pass again` : `Open the ${p.name} pass ${p.known ? 'early' : 'now'}`}
              </Button>
            ))}
          </div>
        </>
      )}
    </section>
  );
}

/** One field for all cups, or one a cup; what can hardly have been read is asked for again. */
function Thermometer({ flight }: { flight: Flight }) {
  const [each, setEach] = useState(false);
  const [texts, setTexts] = useState<Record<string, string>>({});
  const [doubted, setDoubted] = useState<Refused | null>(null);
  const codes = each ? flight.cups.map((c) => c.code).sort() : [''];
  const save = useSend(
    async (sure: boolean) => readTemperature(flight.id, readingOf(texts, codes, each, sure, numberOf)),
    {
      onDone: () => {
        setTexts({});
        setDoubted(null);
      },
      onTrouble: (error) => {
        if (!(error instanceof Refused) || error.status !== 422) return false;
        setDoubted(error);
        return true;
      },
    },
  );
  const put = (code: string) => (text: string) => {
    setDoubted(null);
    setTexts((now) => ({ ...now, [code]: text }));
  };
  const filled = codes.some((code) => texts[code]?.trim());
  return (
    <form
      className={classes.thermometer}
      onSubmit={(e) => {
        e.preventDefault();
        save.mutate(false);
      }}
    >
      <div className={classes.temperature}>
        {codes.map((code) => (
          <NumberField
            key={code}
            aria-label={code ? `Temperature of cup ${code}` : 'Cup temperature'}
            placeholder={code || 'cup'}
            unit="°C"
            value={texts[code] ?? ''}
            onText={put(code)}
          />
        ))}
        <Button type="submit" variant="default" disabled={!filled} loading={save.isPending}>
          Read now
        </Button>
        <Button variant="subtle" aria-pressed={each} onClick={() => setEach(!each)}>
          {each ? 'One for all cups' : 'Each cup'}
        </Button>
      </div>
      {doubted && (
        <p role="alert" className={classes.trouble}>
          {doubted.sentences().join(' ')}{' '}
          <Button size="compact-sm" variant="default" onClick={() => save.mutate(true)}>
            Keep it anyway
          </Button>
        </p>
      )}
    </form>
  );
}

/** "Warm pass opens in 3:40", "Hot pass is open". */
function heading(asked: Pass[]): string {
  const next = asked.find((p) => !p.open && !p.closed && p.opens_at);
  if (next) {
    const left = (Date.parse(next.opens_at!) - Date.now()) / 1000;
    const name = next.name.charAt(0).toUpperCase() + next.name.slice(1);
    return left > 0 ? `${name} pass opens in ${clock(left)}` : `${name} pass is due`;
  }
  const open = asked.filter((p) => p.open);
  if (!asked.length) return 'Cup temperature';
  if (asked.every((p) => p.closed)) return 'The cups are below every pass';
  const waits = asked.find((p) => !p.closed)!.name;
  if (!open.length) return `${waits.charAt(0).toUpperCase()}${waits.slice(1)} pass is not open yet`;
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
