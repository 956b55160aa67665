import { Penny } from '../../ui/Penny';
import type { Flight } from './queries';
import classes from './Taste.module.css';

/** The flight's cups by code, with how many have scored each; after the flip, the other side of each penny. */
export function CoinTray({ flight }: { flight: Flight }) {
  const tasters = flight.sheets.length;
  const flipped = flight.cups.every((c) => c.letter !== null);
  return (
    <ul className={classes.tray} aria-label="Cups of the flight">
      {flight.cups.map((cup, i) => (
        <li key={cup.code} className={classes.coin}>
          <span
            className={classes.flip}
            data-flipped={flipped}
            style={{ animationDelay: `${(flight.cups.length - 1 - i) * 180}ms` }}
          >
            <Penny
              stamp={cup.letter ?? cup.code}
              size={82}
              label={cup.letter ? `Cup ${cup.code} was ${cup.label}` : `Cup ${cup.code}`}
            />
          </span>
          {flipped && (
            <span className={classes.was}>
              <span className="num">{cup.code}</span> {cup.label}
            </span>
          )}
          <span className="num">
            {cup.scored} of {tasters}
          </span>
          <span className={classes.progress} aria-hidden>
            <span style={{ width: `${tasters ? (100 * cup.scored) / tasters : 0}%` }} />
          </span>
        </li>
      ))}
    </ul>
  );
}
