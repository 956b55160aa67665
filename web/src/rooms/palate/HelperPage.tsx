import { useCallback, useEffect, useState } from 'react';
import { Refused } from '../../api/client';
import { scaldsAbove } from '../../ui/units';
import classes from './Phone.module.css';
import { type HelperSheet, openPours, readPours } from './queries';
import { placeWord } from './reading';

const LOOK_AGAIN_MS = 2000;

/** The helper's own phone: what goes into which cup, as tasters ask for the next. Opening binds it to this device. */
export function HelperPage({ token }: { token: string }) {
  const [sheet, setSheet] = useState<HelperSheet | null>(null);
  const [trouble, setTrouble] = useState('');
  const ask = useCallback(
    async (call: (token: string) => Promise<HelperSheet>) => {
      try {
        setSheet(await call(token));
        setTrouble('');
      } catch (error) {
        setTrouble(
          error instanceof Refused ? error.message : 'The bench does not answer. It is asked again in a moment.',
        );
      }
    },
    [token],
  );
  const open = sheet !== null && !sheet.over;
  useEffect(() => {
    if (!open) return;
    const timer = window.setInterval(() => ask(readPours), LOOK_AGAIN_MS);
    return () => window.clearInterval(timer);
  }, [open, ask]);
  if (!sheet)
    return (
      <main className={classes.page}>
        <h1>You pour</h1>
        <ul className={classes.rules}>
          <li>Only you see what goes into which cup. Taste nothing here, and say nothing of it.</li>
          <li>Like cups, the same fill, poured out of sight. Serve below {scaldsAbove()}; hotter scalds.</li>
          <li>The sheet opens on this phone and on no other.</li>
        </ul>
        {trouble && <p role="alert">{trouble}</p>}
        <button type="button" className={classes.primary} onClick={() => ask(openPours)}>
          Open the sheet on this phone
        </button>
      </main>
    );
  return (
    <main className={classes.page}>
      <header className={classes.top}>
        <span>{sheet.served}</span>
        <span>{sheet.bench}</span>
      </header>
      <h1>{sheet.over ? 'The series is over' : sheet.waiting.length ? 'Pour' : 'Nobody waits'}</h1>
      {trouble && <p role="alert">{trouble}</p>}
      <ul className={classes.pours} aria-live="polite">
        {sheet.waiting.map((w) => (
          <li key={`${w.name} ${w.number}`}>
            <b>
              {w.name}, number {w.number}
            </b>
            {w.cups.map((cup, place) => (
              <span key={cup.code} className={classes.pour}>
                <span>{cup.server}</span>
                <span aria-hidden>→</span>
                <span>
                  <span className={classes.code}>{cup.code}</span>{' '}
                  <span className="quiet">{placeWord(place, w.cups.length).toLowerCase()}</span>
                </span>
              </span>
            ))}
          </li>
        ))}
      </ul>
      {!sheet.over && (
        <p className="quiet">{sheet.cup_g} g a cup. Set them down left to right; the page looks again by itself.</p>
      )}
    </main>
  );
}
