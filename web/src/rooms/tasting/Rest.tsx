import { useEffect, useState } from 'react';
import classes from './Sheet.module.css';

/** Half a minute between cups, counted; nobody is held up by it. */
export function Rest({ seconds, cleanser, onDone }: { seconds: number; cleanser: boolean; onDone: () => void }) {
  const [left, setLeft] = useState(seconds);
  useEffect(() => {
    const ends = Date.now() + seconds * 1000;
    const timer = window.setInterval(() => setLeft(Math.max(0, Math.ceil((ends - Date.now()) / 1000))), 250);
    return () => window.clearInterval(timer);
  }, [seconds]);
  return (
    <section className={classes.rest} aria-labelledby="rest">
      <h1 id="rest">{left ? 'Rest' : 'Rested'}</h1>
      <p className={classes.restCount} role="timer">
        0:{String(left).padStart(2, '0')}
      </p>
      <p className="quiet">
        {cleanser ? 'Water or a plain cracker, then the next cup.' : 'A breath, then the next cup.'}
      </p>
      <button type="button" className={left ? classes.secondary : classes.primary} onClick={onDone}>
        {left ? 'Skip the rest' : 'Next cup'}
      </button>
    </section>
  );
}
