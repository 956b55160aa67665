import { CupsFlow } from './CupsFlow';
import type { Delivery } from './outbox';
import { RankFlow } from './RankFlow';
import { Reveal } from './Reveal';
import { RoundsFlow } from './RoundsFlow';
import classes from './Sheet.module.css';
import { useSheet } from './useSheet';

const DELIVERY_WORDS: Record<Delivery, string> = {
  delivered: 'saved',
  kept: 'kept on this phone',
  late: 'sent late',
  withdrawn: 'link withdrawn',
  refused: 'not accepted',
};

const FLOWS = {
  scores: CupsFlow,
  ranking: RankFlow,
  paired: RoundsFlow,
  triangle: RoundsFlow,
  duo_trio: RoundsFlow,
  two_afc: RoundsFlow,
  tetrad: RoundsFlow,
} as const;

/** One taster's sheet, every touch saved. onHandOn: on a shared tablet, when this taster is done. */
export function SheetView({ token, onHandOn }: { token: string; onHandOn?: () => void }) {
  const { state, trouble, delivery, score } = useSheet(token);
  if (trouble) {
    return (
      <main className={classes.page}>
        <h1>This sheet does not open</h1>
        <p role="alert">{trouble.message}</p>
      </main>
    );
  }
  if (!state) return <main className={classes.page} aria-busy="true" />;
  const { sheet, answers } = state;
  const closed = sheet.status !== 'open' || delivery === 'late';
  const untouched = delivery === 'delivered' && Object.keys(answers).length === 0;
  const Flow = FLOWS[sheet.method];
  return (
    <main className={classes.page}>
      <header className={classes.top}>
        <span>
          Flight {sheet.flight} · {sheet.taster}
        </span>
        <span className={classes.delivery} data-state={untouched ? 'none' : delivery} role="status">
          {untouched ? '' : DELIVERY_WORDS[delivery]}
        </span>
      </header>
      {closed && <h1>The flight is closed</h1>}
      {closed && (
        <p className={classes.notice} role="alert">
          {delivery === 'late'
            ? 'The flight closed before your last scores arrived. They were sent as late: shown apart, not judged.'
            : 'Your scores are locked. Thank you.'}
        </p>
      )}
      {delivery === 'withdrawn' && (
        <p className={classes.notice} role="alert">
          The host has withdrawn this link. What you scored since is kept on this phone; ask for a new link.
        </p>
      )}
      {closed ? (
        <>
          <Reveal token={token} />
          <details>
            <summary>What you scored</summary>
            <Flow sheet={sheet} answers={answers} locked onScore={score} />
          </details>
        </>
      ) : (
        <Flow sheet={sheet} answers={answers} locked={false} onScore={score} />
      )}
      {onHandOn && (
        <button type="button" className={classes.secondary} onClick={onHandOn}>
          Hand the tablet on
        </button>
      )}
      {sheet.commitment && (
        <p className={classes.seal}>
          Seal <code>{sheet.commitment.slice(0, 16)}…</code>
          <span className="quiet">
            {' '}
            The key was fixed before tasting. After the flip the host can show that it was not changed.
          </span>
        </p>
      )}
    </main>
  );
}
