import { Button, Select } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { fixed } from '../../ui/numbers';
import { messageOf, tellDone } from '../../ui/tell';
import { useSend } from '../../ui/useSend';
import classes from './Grind.module.css';
import {
  type Band,
  type Comparison,
  comparisonQuery,
  type Grind,
  type GrindRoom,
  type Measure,
  makeMatch,
} from './queries';

const TOLD = ['d50', 'in_band', 'in_band_in', 'fines', 'coarse', 'span', 'd10', 'd90', 'recovery'];

type TwoGrindsProps = {
  room: GrindRoom;
  first: Grind;
  second: Grind | undefined;
  band: Band;
  onPick: (which: 'first' | 'second', id: string) => void;
};

/** Two grinds against each other: whether they are matched, what differs, and the sample that would tell more. */
export function TwoGrinds({ room, first, second, band, onPick }: TwoGrindsProps) {
  const options = room.grinds.map((g) => ({ value: g.id, label: g.coffee ? `${g.name} · ${g.coffee}` : g.name }));
  return (
    <section className={`card ${classes.two}`} aria-labelledby="two-grinds">
      <h2 id="two-grinds">Two grinds</h2>
      <div className={classes.pickers}>
        <Select
          className={classes.pickFirst!}
          label="First"
          data={options}
          allowDeselect={false}
          value={first.id}
          onChange={(id) => id && onPick('first', id)}
        />
        <Select
          className={classes.pickSecond!}
          label="Second"
          placeholder="sample another grind"
          data={options.filter((o) => o.value !== first.id)}
          allowDeselect={false}
          value={second?.id ?? null}
          onChange={(id) => id && onPick('second', id)}
        />
      </div>
      {second ? <Against first={first} second={second} band={band} /> : <Alone grind={first} />}
    </section>
  );
}

function Against({ first, second, band }: { first: Grind; second: Grind; band: Band }) {
  const found = useQuery(comparisonQuery(first.id, second.id, band));
  if (found.isError) return <p className={classes.trouble}>{messageOf(found.error)}</p>;
  if (!found.data) return null;
  return (
    <>
      <Matched comparison={found.data} first={first} second={second} band={band} />
      <Figures first={first} second={second} comparison={found.data} />
      <p className="quiet small">
        First: {first.said}
        {weibullOf(first)}. Second: {second.said}
        {weibullOf(second)}.
      </p>
    </>
  );
}

type MatchedProps = { comparison: Comparison; first: Grind; second: Grind; band: Band };

function Matched({ comparison, first, second, band }: MatchedProps) {
  const make = useSend(() => makeMatch(first.id, second.id, band), {
    onDone: () => tellDone('Matched. The translator goes by it now.'),
  });
  const next = comparison.to_try;
  return (
    <div className={classes.matched} data-matched={String(comparison.matched)} role="status">
      <p className={classes.said}>{comparison.said}</p>
      {next && (
        <>
          <p className="small">{next.why}</p>
          <Button
            component={Link}
            to={`/grind/sample?${draftOf(next.dial_id, next.setting, second)}&against=${first.id}`}
          >
            Sample {next.dial} at {next.setting_written}
          </Button>
        </>
      )}
      {comparison.is_kept && (
        <p className="small">
          Kept as a matched setting: <Link to="/kit/translator">the translator</Link> goes by it.
        </p>
      )}
      {comparison.can_match && !comparison.is_kept && (
        <Button loading={make.isPending} onClick={() => make.mutate()}>
          Keep as a matched setting
        </Button>
      )}
    </div>
  );
}

/** A sample form filled as the last one of this grinder was. */
export function draftOf(dialId: string, setting: number, like: Grind): string {
  const last = like.samples.at(-1)!;
  const filled = new URLSearchParams({ dial: dialId, setting: String(setting), mass: String(last.mass_in_g) });
  if (like.coffee_id) filled.set('coffee', like.coffee_id);
  if (last.stack_id) filled.set('stack', last.stack_id);
  return filled.toString();
}

function Figures({ first, second, comparison }: { first: Grind; second: Grind; comparison: Comparison }) {
  const change = (code: string) => comparison.changes.find((c) => c.code === code);
  return (
    <table className={classes.figures}>
      <thead>
        <tr>
          <th scope="col">
            <span className="sr-only">Measure</span>
          </th>
          <th scope="col">First</th>
          <th scope="col">Second</th>
          <th scope="col">Second less first, 95 %</th>
        </tr>
      </thead>
      <tbody>
        {TOLD.map((code) => {
          const [a, b] = [first, second].map((g) => g.measures.find((m) => m.code === code)!) as [Measure, Measure];
          return (
            <tr key={code}>
              <th scope="row">{a.label}</th>
              <td className="num">{told(a)}</td>
              <td className="num">{told(b)}</td>
              <td className="num">
                {change(code)?.said ?? '–'}
                <span className={classes.between}>{change(code)?.between}</span>
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

const weibullOf = ({ weibull }: Grind) =>
  weibull
    ? `; Weibull (Rosin–Rammler) of ${fixed(weibull.size_um, 0)} µm, evenness ${fixed(weibull.evenness, 2)}, off by ${fixed(weibull.misfit_pct, 1)} points at most`
    : '';

function Alone({ grind }: { grind: Grind }) {
  return (
    <>
      <table className={classes.figures}>
        <tbody>
          {TOLD.map((code) => {
            const m = grind.measures.find((x) => x.code === code)!;
            return (
              <tr key={code}>
                <th scope="row">{m.label}</th>
                <td className="num">{told(m)}</td>
                <td className="num">
                  {m.figure &&
                    `${fixed(m.figure.interval[0], placesOf(m))} to ${fixed(m.figure.interval[1], placesOf(m))}`}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <p className="quiet small">{grind.said}. Sample a second setting, or another grinder, to compare.</p>
    </>
  );
}

const placesOf = (m: Measure) => (m.unit === 'µm' ? 0 : m.unit === '%' ? 1 : 2);

/** A figure with its unit, or the bounds that are all a stack can tell. */
function told(m: Measure): string {
  if (m.figure) return `${fixed(m.figure.value, placesOf(m))}${m.unit ? ` ${m.unit}` : ''}`;
  const [low, high] = m.between_um;
  if (low && high) return `${low} to ${high} µm`;
  if (low) return `above ${low} µm`;
  return high ? `below ${high} µm` : '–';
}
