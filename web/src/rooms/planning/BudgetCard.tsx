import { fixed, plural } from '../../ui/numbers';
import { bag } from '../../ui/units';
import classes from './Plan.module.css';
import type { Budget } from './queries';

/** What the comparison takes: coffee, water, filters, minutes, sips, caffeine. */
export function BudgetCard({ budget }: { budget: Budget }) {
  const [low, high] = budget.caffeine_flight_mg as [number, number];
  const [dayLow, dayHigh] = budget.caffeine_day_mg as [number, number];
  return (
    <section className="card" aria-labelledby="budget">
      <h2 id="budget">What it takes</h2>
      <dl className={classes.totals}>
        <Total value={String(budget.brews)} unit="brews" />
        <Total value={bag(budget.coffee_g)} unit="of coffee" />
        <Total value={hours(budget.minutes)} unit="hours, one person" />
        <Total value={`${fixed(dayLow, 0)}–${fixed(dayHigh, 0)}`} unit="mg caffeine a taster" />
      </dl>
      <table className={classes.need}>
        <tbody>
          {budget.coffees.map((c) => (
            <tr key={c.coffee}>
              <th scope="row">{c.coffee || 'coffee not named'}</th>
              <td className="num">{bag(c.total_g)}</td>
              <td className="quiet small">
                {parts(c)}
                {c.stock_g !== null && (
                  <span data-short={(c.short_g ?? 0) > 0 || undefined}>; {bag(c.stock_g)} on the shelf</span>
                )}
              </td>
            </tr>
          ))}
          <Line name="Water" value={`${fixed(budget.water_g / 1000, 1)} L`} note="brews, dial-in and bypass" />
          {Object.entries(budget.filters).map(([name, count]) => (
            <Line key={name} name={name} value={String(count)} note="filters" />
          ))}
          <Line
            name="Each taster"
            value={plural(budget.cups_per_taster, 'cup')}
            note={`${budget.cups_per_flight} a flight, ${budget.sips_per_taster} sips, ${fixed(budget.drunk_g_per_taster, 0)} g drunk`}
          />
          <Line name="Caffeine a flight" value={`${fixed(low, 0)}–${fixed(high, 0)} mg`} note="at the share drunk" />
        </tbody>
      </table>
      {budget.warnings.map((w) => (
        <p key={w} className={classes.warned}>
          {w}
        </p>
      ))}
      <p className="quiet small">{budget.guidance}</p>
    </section>
  );
}

function parts(c: Budget['coffees'][number]): string {
  const shown: [number, string][] = [
    [c.brews_g, 'brews'],
    [c.dial_in_g, 'dial-in'],
    [c.purge_g, 'purge'],
    [c.sieve_g, 'sieve'],
  ];
  return shown
    .filter(([g]) => g > 0)
    .map(([g, word]) => `${fixed(g, 0)} ${word}`)
    .join(' + ');
}

const hours = (minutes: number) => `${Math.floor(minutes / 60)}:${String(Math.round(minutes % 60)).padStart(2, '0')}`;

function Total({ value, unit }: { value: string; unit: string }) {
  return (
    <div>
      <dd className="num">{value}</dd>
      <dt>{unit}</dt>
    </div>
  );
}

function Line({ name, value, note }: { name: string; value: string; note: string }) {
  return (
    <tr>
      <th scope="row">{name}</th>
      <td className="num">{value}</td>
      <td className="quiet small">{note}</td>
    </tr>
  );
}
