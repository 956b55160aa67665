import { chance, fixed } from '../../ui/numbers';
import { hueOf, Penny } from '../../ui/Penny';
import classes from './LikingIntervals.module.css';

type Ranked = {
  setup: string;
  name: string;
  mean: number | null;
  interval: number[] | null;
  probability_best: number | null;
};

const STEPS = [1, 2, 3, 4, 5, 6, 7, 8, 9];

/** Per cent along the 1-to-9 scale. */
const along = (points: number) => `${((points - 1) / 8) * 100}%`;

/** Setups on the 1-to-9 scale as they are given, each with its 95 % interval. */
export function LikingIntervals({ setups }: { setups: Ranked[] }) {
  return (
    <div className={classes.plot} role="table" aria-label="Liking by setup">
      {setups.map((s) => (
        <div key={s.setup} className={classes.row} role="row">
          <div className={classes.who} role="rowheader">
            <Penny stamp={s.setup} size={44} />
            <span>
              <b>{s.name}</b>
              <span className="small quiet">best: {chance(s.probability_best)}</span>
            </span>
          </div>
          <div
            className={classes.track}
            role="cell"
            aria-label={
              s.interval
                ? `${fixed(s.mean, 1)}, interval ${fixed(s.interval[0], 1)} to ${fixed(s.interval[1], 1)}`
                : fixed(s.mean, 1)
            }
          >
            {STEPS.map((step) => (
              <span key={step} className={classes.grid} style={{ left: along(step) }} />
            ))}
            {s.interval && (
              <span
                className={classes.interval}
                style={{
                  left: along(s.interval[0]!),
                  width: `${((s.interval[1]! - s.interval[0]!) / 8) * 100}%`,
                  background: hueOf(s.setup),
                }}
              />
            )}
            {s.mean !== null && (
              <span className={classes.mean} style={{ left: along(s.mean), background: hueOf(s.setup) }} />
            )}
          </div>
          <span className={`num ${classes.value}`} role="cell">
            {fixed(s.mean, 1)}
            {s.interval && (
              <small>
                {fixed(s.interval[0], 1)}–{fixed(s.interval[1], 1)}
              </small>
            )}
          </span>
        </div>
      ))}
      <div className={classes.row} aria-hidden>
        <span />
        <div className={classes.ticks}>
          {STEPS.map((step) => (
            <span key={step} className="num" style={{ left: along(step) }}>
              {step}
            </span>
          ))}
        </div>
        <span />
      </div>
    </div>
  );
}
