import { FAN, wedges } from './fan';
import classes from './Sheet.module.css';

const STEPS = wedges(9);
const WORDS = [
  'dislike extremely',
  'dislike very much',
  'dislike',
  'dislike slightly',
  'neither',
  'like slightly',
  'like',
  'like very much',
  'like extremely',
];

/** Liking on the edge of the coin: nine reeds from dislike to like. Nothing is struck until one is touched. */
export function Liking({ value, onScore }: { value: number | null; onScore: (value: number | null) => void }) {
  return (
    <div>
      <div className={classes.row}>
        <b id="liking">How much do you like it?</b>
        {value === null && <span className={classes.unscored}>not scored</span>}
      </div>
      <div
        className={classes.fan}
        role="radiogroup"
        aria-labelledby="liking"
        data-untouched={value === null || undefined}
      >
        <svg viewBox={`0 0 ${FAN.width} ${FAN.height}`} aria-hidden>
          {STEPS.map(({ path }, i) => (
            <path
              key={path}
              d={path}
              data-chosen={value === i + 1 || undefined}
              data-under={(value ?? 0) > i || undefined}
            />
          ))}
          <text className={classes.face} x={FAN.width / 2} y={FAN.height - 52} textAnchor="middle">
            {value ?? ''}
          </text>
          <text className={classes.faceWord} x={FAN.width / 2} y={FAN.height - 26} textAnchor="middle">
            {value === null ? 'touch the edge' : WORDS[value - 1]}
          </text>
        </svg>
        {STEPS.map(({ x, y }, i) => (
          <label
            key={WORDS[i]}
            className={classes.reed}
            style={{ left: `${(100 * x) / FAN.width}%`, top: `${(100 * y) / FAN.height}%` }}
          >
            <input
              type="radio"
              name="liking"
              aria-label={String(i + 1)}
              aria-describedby={`like-${i}`}
              checked={value === i + 1}
              onChange={() => onScore(i + 1)}
            />
            <span aria-hidden>{i + 1}</span>
            <span className="sr-only" id={`like-${i}`}>
              {WORDS[i]}
            </span>
          </label>
        ))}
      </div>
    </div>
  );
}
