import { Lines } from '../../ui/Lines';
import { chance, clock, fixed } from '../../ui/numbers';
import { Penny } from '../../ui/Penny';
import { ratio } from '../../ui/units';
import type { Judged } from './queries';
import classes from './Verdict.module.css';

type MeasuredRow = Pick<
  Judged['setups'][number],
  'setup' | 'name' | 'brew_ratio' | 'tds' | 'extraction_yield' | 'total_time_s' | 'served'
>;

/** What each setup measured, in the order given. */
export function MeasuredTable({ setups }: { setups: MeasuredRow[] }) {
  const wide = setups.filter((s) => s.extraction_yield?.note || s.tds?.note);
  return (
    <Lines className={classes.scroll} label="What each setup measured">
      <table className={classes.table}>
        <thead>
          <tr>
            <th scope="col">setup</th>
            <th scope="col">ratio</th>
            <th scope="col">TDS, %</th>
            <th scope="col">yield, %</th>
            <th scope="col">time</th>
          </tr>
        </thead>
        <tbody>
          {setups.map((s) => (
            <tr key={s.setup}>
              <th scope="row">
                <Penny stamp={s.setup} size={26} label={`${s.setup}, ${s.name}`} />
              </th>
              <td className="num">{ratio(s.brew_ratio)}</td>
              <td className="num">
                {s.tds ? `${fixed(s.tds.value)} ± ${fixed(s.tds.half_width)}` : 'not read'}
                {s.served && (
                  <p className="quiet small">
                    served {fixed(s.served.tds_pct)}, +{fixed(s.served.added_water_g, 1)} g water
                  </p>
                )}
              </td>
              <td className="num">
                {s.extraction_yield
                  ? `${fixed(s.extraction_yield.value, 1)} ± ${fixed(s.extraction_yield.half_width, 1)}`
                  : 'not read'}
              </td>
              <td className="num">{clock(s.total_time_s)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {wide.length > 0 && (
        <p className="quiet small">
          {wide.map((s) => s.setup).join(', ')}: {(wide[0]!.extraction_yield?.note || wide[0]!.tds?.note)!}
        </p>
      )}
    </Lines>
  );
}

/** The same difference with the better liked setup first. */
function leaderFirst(d: Judged['differences'][number]) {
  if (d.estimate >= 0) return d;
  return { ...d, a: d.b, b: d.a, estimate: -d.estimate, interval: [-d.interval[1]!, -d.interval[0]!] };
}

/** Each pair's difference in points; p and the rest lie one fold below. */
export function DifferencesCard({ judged, folded }: { judged: Judged; folded: boolean }) {
  const rows = judged.differences.map(leaderFirst);
  if (!rows.length) return null;
  const table = (
    <>
      <Lines className={classes.scroll} label="Differences of pairs">
        <table className={classes.table}>
          <thead>
            <tr>
              <th scope="col">pair</th>
              <th scope="col">points</th>
              <th scope="col">95 % interval</th>
            </tr>
          </thead>
          <tbody>
            {rows.map((d) => (
              <tr key={d.a + d.b}>
                <PairHead a={d.a} b={d.b} />
                <td className="num">{fixed(d.estimate, 1)}</td>
                <td className="num">
                  {fixed(d.interval[0], 1)} to {fixed(d.interval[1], 1)}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </Lines>
      <HowSure judged={judged} rows={rows} />
    </>
  );
  return (
    <section className="card" aria-labelledby="differences">
      <h2 id="differences">Differences</h2>
      {folded ? (
        <details>
          <summary>Every pair, {rows.length} in all</summary>
          {table}
        </details>
      ) : (
        table
      )}
    </section>
  );
}

type Rows = { judged: Judged; rows: Judged['differences'] };

function HowSure({ judged, rows }: Rows) {
  return (
    <details>
      <summary>How sure: p, and the chance they are equivalent</summary>
      <Lines className={classes.scroll} label="How sure of each pair">
        <table className={classes.table}>
          <thead>
            <tr>
              <th scope="col">pair</th>
              <th scope="col">p, adjusted</th>
              <th scope="col">p, of these cups</th>
              <th scope="col">chance they are equivalent</th>
            </tr>
          </thead>
          <tbody>
            {rows.map((d) => (
              <tr key={d.a + d.b}>
                <PairHead a={d.a} b={d.b} />
                <td className="num">{pValue(d.p_adjusted)}</td>
                <td className="num">{pValue(d.p_permutation)}</td>
                <td className="num">{chance(d.probability_practically_equal)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </Lines>
      <p className="quiet small">{judged.differences_note}</p>
      <p className="quiet small">
        Adjusted p speaks of another brew and this kind of panel; the other says whether the panel could tell these
        particular cups apart.
      </p>
    </details>
  );
}

const pValue = (p: number) => (p < 0.001 ? '<0.001' : fixed(p, 3));

function PairHead({ a, b }: { a: string; b: string }) {
  return (
    <th scope="row">
      <span className={classes.pair}>
        <Penny stamp={a} size={24} />−<Penny stamp={b} size={24} />
      </span>
    </th>
  );
}
