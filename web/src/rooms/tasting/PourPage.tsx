import { useEffect, useState } from 'react';
import { Refused } from '../../api/client';
import { scaldsAbove } from '../../ui/units';
import classes from './Pour.module.css';
import { PourList } from './PourList';
import { openPour, type PourSheet } from './queries';

/** The runner's own phone: what goes into which cup. Opening binds it to this device, so it is asked for. */
export function PourPage({ token }: { token: string }) {
  const [sheet, setSheet] = useState<PourSheet | null>(null);
  const [trouble, setTrouble] = useState('');
  const opened = `pour-${token.slice(0, 8)}`;
  const open = async () => {
    try {
      setSheet(await openPour(token));
      sessionStorage.setItem(opened, '1');
    } catch (error) {
      setTrouble(error instanceof Refused ? error.message : 'The bench does not answer. Try again.');
    }
  };
  // biome-ignore lint/correctness/useExhaustiveDependencies: only when the page is opened again
  useEffect(() => {
    if (sessionStorage.getItem(opened)) open();
  }, []);
  if (trouble) {
    return (
      <main className={classes.page}>
        <h1>This pour sheet does not open</h1>
        <p role="alert">{trouble}</p>
      </main>
    );
  }
  if (!sheet) {
    return (
      <main className={classes.page}>
        <h1>You are the runner</h1>
        <ul className={classes.rules}>
          <li>Only you see which brew goes into which cup. Do not taste in this flight, and say nothing of it.</li>
          <li>Pour out of sight: same vessels, same fill. Serve below {scaldsAbove()}; hot servers scald.</li>
          <li>The sheet opens on this phone and on no other. Keep it until the cups are down.</li>
        </ul>
        <button type="button" className={classes.primary} onClick={open}>
          Open the pour sheet on this phone
        </button>
      </main>
    );
  }
  return (
    <main className={classes.page}>
      <header className={classes.top}>
        <span>
          Flight {sheet.flight} · {sheet.method_label.toLowerCase()}
        </span>
        <span>{sheet.bench}</span>
      </header>
      <h1>Pour each into its codes</h1>
      <PourList sheet={sheet} />
      <p className={classes.seal}>
        Seal <code>{sheet.commitment.slice(0, 16)}…</code>
      </p>
      <button type="button" className={classes.secondary} onClick={() => window.print()}>
        Print it
      </button>
    </main>
  );
}
