import { Penny } from '../../ui/Penny';
import type { Judged } from './queries';
import classes from './Verdict.module.css';

const LIFT_PX = 15;
const TOO_CLOSE_POINTS = 0.6;

/** Pennies that would cover each other are lifted in turn. */
function spread(means: Record<string, number>) {
  let before = Number.NEGATIVE_INFINITY;
  let lift = 0;
  return Object.entries(means)
    .sort((a, b) => a[1] - b[1])
    .map(([letter, mean]) => {
      lift = mean - before < TOO_CLOSE_POINTS ? lift + 1 : 0;
      before = mean;
      return { letter, mean, lift };
    });
}

/** Each taster's mean liking of each setup as pennies on one line: who agrees, who does not. */
export function ByTaster({ judged }: { judged: Judged }) {
  return (
    <ul className={classes.tasters}>
      {judged.by_taster.map((row) => (
        <li key={row.taster}>
          <span className={classes.tasterName}>{row.taster}</span>
          <span className={classes.line}>
            {spread(row.means).map(({ letter, mean, lift }) => (
              <span
                key={letter}
                className={classes.stand}
                style={{ left: `${((mean - 1) / 8) * 100}%`, marginTop: -lift * LIFT_PX }}
                title={`${row.taster} liked ${letter} ${mean.toFixed(1)}`}
              >
                <Penny stamp={letter} size={24} label={`${letter} ${mean.toFixed(1)}`} />
              </span>
            ))}
          </span>
        </li>
      ))}
      <li aria-hidden>
        <span />
        <span className={classes.line} data-ticks>
          {[1, 3, 5, 7, 9].map((step) => (
            <span key={step} className={`num ${classes.tick}`} style={{ left: `${((step - 1) / 8) * 100}%` }}>
              {step}
            </span>
          ))}
        </span>
      </li>
    </ul>
  );
}
