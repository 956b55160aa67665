import { clock, fixed, percent, ratio } from '../../ui/numbers';
import { Penny } from '../../ui/Penny';
import { Sideways } from '../../ui/Sideways';
import type { Judged } from './queries';
import classes from './Verdict.module.css';

/** What each setup measured, best liked first. */
export function MeasuredTable({ setups }: { setups: Judged['setups'] }) {
  return (
    <Sideways className={classes.scroll} label="What each setup measured">
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
              <td className="num">{s.tds ? `${fixed(s.tds.value)} ± ${fixed(s.tds.half_width)}` : 'not read'}</td>
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
    </Sideways>
  );
}

/** The same difference with the better liked setup first. */
function leaderFirst(d: Judged['differences'][number]) {
  if (d.estimate >= 0) return d;
  return { ...d, a: d.b, b: d.a, estimate: -d.estimate, interval: [-d.interval[1]!, -d.interval[0]!] };
}

/** Each pair's difference with what is known of it. */
export function DifferencesTable({ judged }: { judged: Judged }) {
  return (
    <>
      <Sideways className={classes.scroll} label="Differences of pairs">
        <table className={classes.table}>
          <thead>
            <tr>
              <th scope="col">pair</th>
              <th scope="col">points</th>
              <th scope="col">95 % interval</th>
              <th scope="col">p, adjusted</th>
              <th scope="col">chance they are equivalent</th>
            </tr>
          </thead>
          <tbody>
            {judged.differences.map(leaderFirst).map((d) => (
              <tr key={d.a + d.b}>
                <th scope="row">
                  <span className={classes.pair}>
                    <Penny stamp={d.a} size={24} />−<Penny stamp={d.b} size={24} />
                  </span>
                </th>
                <td className="num">{fixed(d.estimate, 1)}</td>
                <td className="num">
                  {fixed(d.interval[0], 1)} to {fixed(d.interval[1], 1)}
                </td>
                <td className="num">{d.p_adjusted < 0.001 ? '<0.001' : fixed(d.p_adjusted, 3)}</td>
                <td className="num">{percent(d.probability_practically_equal)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </Sideways>
      <p className="quiet small">{judged.differences_note}</p>
      <p className="quiet small">
        For another brew and this kind of panel. Whether the panel could tell these particular cups apart is another
        question: permutation p{' '}
        {judged.differences.map((d) => `${d.a}−${d.b} ${d.p_permutation.toFixed(3)}`).join(', ')}.
      </p>
    </>
  );
}
