import { clock, fixed } from '../../ui/numbers';
import classes from './Along.module.css';
import type { LiveBrew } from './queries';

/** Step by step: what was planned, what was marked, and what was outside the tolerances. */
export function PlanAgainstActual({ brew }: { brew: LiveBrew }) {
  const done = new Map(brew.marks.filter((m) => m.kind === 'step_done').map((m) => [m.index, m]));
  const off = new Map(brew.deviations.map((d) => [d.index, d.outside]));
  return (
    <section className={`card ${classes.against}`} aria-label="Plan against actual">
      <h2>Plan against actual</h2>
      <table>
        <thead>
          <tr>
            <th scope="col">step</th>
            <th scope="col">planned</th>
            <th scope="col">actual</th>
          </tr>
        </thead>
        <tbody>
          {brew.steps.map((s) => {
            const mark = done.get(s.index);
            return (
              <tr key={s.index} data-off={off.get(s.index) || undefined}>
                <th scope="row">{s.text}</th>
                <td className="num">
                  {clock(s.end_s)}
                  {s.to_g !== null && ` · ${fixed(s.to_g, 0)} g`}
                </td>
                <td className="num">
                  {mark ? clock(mark.at_s) : 'not marked'}
                  {s.to_g !== null && mark?.reading_g != null && ` · ${fixed(mark.reading_g, 0)} g`}
                  {off.get(s.index) && <span className={classes.offWord}> off plan</span>}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </section>
  );
}
