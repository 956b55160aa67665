import { useEffect, useState } from 'react';
import { Penny } from '../../ui/Penny';
import type { Flight } from './queries';
import classes from './Taste.module.css';

const TURN_MS = 420;

/** The flight's cups by code, with how many have scored each; after the flip, the other side of each penny. */
export function CoinTray({ flight, turning }: { flight: Flight; turning: boolean }) {
  const known = flight.cups.every((c) => c.letter !== null);
  const [turned, skip] = useTurning(flight.cups.length, known && turning);
  const rounds = [...new Set(flight.cups.map((c) => c.round))];
  let place = 0;
  return (
    <div className={classes.trayBox}>
      {rounds.map((round) => (
        <div key={round}>
          {rounds.length > 1 && <h2 className={classes.round}>Round {round}</h2>}
          <ul className={classes.tray} aria-label={rounds.length > 1 ? `Cups of round ${round}` : 'Cups of the flight'}>
            {flight.cups
              .filter((c) => c.round === round)
              .map((cup) => {
                place += 1;
                const shown = known && flight.cups.length - place < turned;
                return (
                  <li key={cup.code} className={classes.coin}>
                    <span className={classes.flip} data-flipped={shown && turning}>
                      <Penny
                        stamp={shown ? (cup.letter ?? cup.code) : cup.code}
                        size={82}
                        label={shown ? `Cup ${cup.code} was ${cup.label}` : `Cup ${cup.code}`}
                      />
                    </span>
                    {shown && (
                      <span className={classes.was}>
                        <span className="num">{cup.code}</span> {cup.label}
                      </span>
                    )}
                    <span className="num">
                      {cup.scored} of {cup.of}
                    </span>
                    <span className={classes.progress} aria-hidden>
                      <span style={{ width: `${cup.of ? (100 * cup.scored) / cup.of : 0}%` }} />
                    </span>
                  </li>
                );
              })}
          </ul>
        </div>
      ))}
      {known && turned < flight.cups.length && (
        <button type="button" className={classes.skip} onClick={skip}>
          Show all
        </button>
      )}
    </div>
  );
}

/** How many pennies have turned, from the last to the first; all at once where motion is not wanted. */
function useTurning(cups: number, turning: boolean): [number, () => void] {
  const [turned, setTurned] = useState(0);
  useEffect(() => {
    if (!turning || window.matchMedia('(prefers-reduced-motion: reduce)').matches) return;
    setTurned(0);
    const timer = window.setInterval(() => setTurned((n) => Math.min(cups, n + 1)), TURN_MS);
    return () => window.clearInterval(timer);
  }, [turning, cups]);
  const still = !turning || window.matchMedia('(prefers-reduced-motion: reduce)').matches;
  return [still ? cups : turned, () => setTurned(cups)];
}
