import { useEffect, useState } from 'react';
import { Penny } from '../../ui/Penny';
import { heat } from '../../ui/units';
import type { Flight } from './queries';
import classes from './Taste.module.css';
import { steamOf, whereTastersAre } from './tray';

const TURN_MS = 420;

/** The flight's cups by code, with how many have scored each; after the flip, the other side of each penny. */
export function CoinTray({ flight, turning }: { flight: Flight; turning: boolean }) {
  const known = flight.cups.every((c) => c.letter !== null);
  const [turned, skip] = useTurning(flight.cups.length, known && turning);
  const rounds = [...new Set(flight.cups.map((c) => c.round))];
  const { byCup, byRound } = whereTastersAre(flight);
  const now_c = flight.status === 'open' ? (flight.cooling?.now_c ?? null) : null;
  let place = 0;
  return (
    <div className={classes.trayBox}>
      {now_c !== null && (
        <p className={classes.warmth}>
          <Steam share={steamOf(now_c)} />
          cups at <b className="num">{heat(now_c, 0)}</b> now
        </p>
      )}
      {rounds.map((round) => (
        <div key={round}>
          {rounds.length > 1 && (
            <h2 className={classes.round}>
              Round {round}
              <At names={byRound[round]} />
            </h2>
          )}
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
                    <At names={byCup[cup.code]} />
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

/** Who is there now. */
function At({ names }: { names: string[] | undefined }) {
  return names ? <span className={classes.at}>{names.join(', ')}</span> : null;
}

/** Three wisps, as strong as the cups are hot. */
function Steam({ share }: { share: number }) {
  return (
    <svg width="34" height="22" viewBox="0 0 34 22" className={classes.steam} style={{ opacity: share }} aria-hidden>
      {[6, 17, 28].map((x) => (
        <path key={x} d={`M${x} 20c-4-4 4-7 0-11s3-5 1-8`} />
      ))}
    </svg>
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
