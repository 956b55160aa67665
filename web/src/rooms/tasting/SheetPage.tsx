import { useState } from 'react';
import { useParams } from 'react-router';
import { Penny } from '../../ui/Penny';
import { Cup } from './Cup';
import type { Delivery } from './outbox';
import classes from './Sheet.module.css';
import { cell, useSheet } from './useSheet';

const DELIVERY_WORDS: Record<Delivery, string> = {
  delivered: 'delivered',
  kept: 'kept on this phone',
  closed: 'flight closed',
  withdrawn: 'link withdrawn',
  refused: 'not accepted',
};

/** A taster's phone: one coded cup at a time, every touch saved. */
export function SheetPage() {
  const { token = '' } = useParams();
  const { state, trouble, delivery, score } = useSheet(token);
  const [at, setAt] = useState<number | 'start' | 'end'>('start');
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
  const liked = (code: string) => answers[cell(code, 'liking')]?.value != null;
  const done = sheet.cups.filter((c) => liked(c.code)).length;
  const closed = sheet.status !== 'open' || delivery === 'closed';
  const cup = typeof at === 'number' ? sheet.cups[at] : undefined;
  return (
    <main className={classes.page}>
      <header className={classes.top}>
        <span>
          {cup ? `Cup ${(at as number) + 1} of ${sheet.cups.length}` : `Flight ${sheet.flight}`} · {sheet.taster}
        </span>
        <span className={classes.delivery} data-state={delivery} role="status">
          {DELIVERY_WORDS[delivery]}
        </span>
      </header>
      {closed && (
        <p className={classes.notice} role="alert">
          {delivery === 'closed'
            ? 'The flight closed before your last touches arrived. They are kept on this phone; tell the host.'
            : 'The flight is closed and your scores are locked. Thank you.'}
        </p>
      )}
      {delivery === 'withdrawn' && (
        <p className={classes.notice} role="alert">
          The host has withdrawn this link. What you scored since is kept on this phone; ask for a new link.
        </p>
      )}
      {cup ? (
        <Cup
          key={cup.code}
          cup={cup}
          attributes={sheet.attributes}
          answers={answers}
          locked={closed}
          onScore={(attribute, value, text) => score(cup.code, attribute, value, text)}
          onBack={() => setAt((at as number) === 0 ? 'start' : (at as number) - 1)}
          onNext={() => setAt((at as number) + 1 < sheet.cups.length ? (at as number) + 1 : 'end')}
          isLast={(at as number) + 1 === sheet.cups.length}
        />
      ) : (
        <>
          <h1>
            {at === 'start'
              ? `Welcome, ${sheet.taster}`
              : done === sheet.cups.length
                ? 'All cups are scored'
                : `${done} of ${sheet.cups.length} cups scored`}
          </h1>
          {at === 'start' && (
            <ul className={classes.rules}>
              <li>Taste in the order below. Water or a plain cracker, and half a minute, between cups.</li>
              <li>No talking before the scores lock. Look away from the colour if you can.</li>
              <li>
                {sheet.cup_temperature_c ? `Cups are at about ${sheet.cup_temperature_c} °C. ` : ''}Hot liquid scalds:
                taste below 65 °C. Spit if you like, with your own cup and spoon. Tell the host of allergies.
              </li>
            </ul>
          )}
          {at === 'end' && <p className="quiet">You can go back to any cup until the host closes the flight.</p>}
          <ol className={classes.cups}>
            {sheet.cups.map((c, i) => (
              <li key={c.code}>
                <button type="button" className={classes.cupButton} onClick={() => setAt(i)}>
                  <Penny stamp={c.code} size={52} />
                  <span>
                    <b>Cup {c.code}</b>
                    {c.label && <span className="small">{c.label}</span>}
                    <span className="small quiet">
                      {liked(c.code) ? `liking ${answers[cell(c.code, 'liking')]!.value}` : 'not scored'}
                    </span>
                  </span>
                </button>
              </li>
            ))}
          </ol>
          {at === 'start' && (
            <button type="button" className={classes.primary} onClick={() => setAt(0)}>
              {done ? 'Go on' : 'Start with the first cup'}
            </button>
          )}
        </>
      )}
    </main>
  );
}
