import { useRef, useState } from 'react';
import { Penny } from '../../ui/Penny';
import { ByEye } from './ByEye';
import type { FlowProps } from './flow';
import { Guesses } from './Guesses';
import { Rules } from './Rules';
import classes from './Sheet.module.css';
import { cell, type PassName, passesOf } from './useSheet';
import { WordsShelf } from './WordsShelf';

/** All cups in order, best first: dragged by the handle, moved by buttons or arrow keys. Nothing is sent before the order is kept. */
export function RankFlow({ sheet, answers, locked, onScore }: FlowProps) {
  const pass = passesOf(sheet)[0]!.name as PassName;
  const kept = sheet.cups.every((c) => answers[cell(c.code, 'rank', pass)]?.value != null);
  const [order, setOrder] = useState(() => {
    const codes = sheet.cups.map((c) => c.code);
    const rank = (code: string) => answers[cell(code, 'rank', pass)]?.value ?? codes.indexOf(code) + 100;
    return codes.sort((a, b) => rank(a) - rank(b));
  });
  const [said, setSaid] = useState('');
  const rows = useRef(new Map<string, HTMLElement>());
  const dragged = useRef<string | null>(null);

  const keep = (codes: string[]) =>
    onScore(...codes.map((code, i) => ({ code, attribute: 'rank' as const, pass, value: i + 1 })));
  const move = (code: string, to: number) => {
    const from = order.indexOf(code);
    const target = Math.max(0, Math.min(order.length - 1, to));
    if (locked || target === from) return;
    const next = order.filter((c) => c !== code);
    next.splice(target, 0, code);
    setOrder(next);
    setSaid(`Cup ${code} is number ${target + 1} of ${next.length}`);
    if (kept && dragged.current === null) keep(next);
  };
  const dragTo = (y: number) => {
    const code = dragged.current;
    if (!code) return;
    const over = order.findIndex((c) => {
      const box = rows.current.get(c)?.getBoundingClientRect();
      return box && y >= box.top && y <= box.bottom;
    });
    if (over >= 0) move(code, over);
  };
  const drop = () => {
    if (dragged.current === null) return;
    dragged.current = null;
    if (kept) keep(order);
  };
  return (
    <>
      {!locked && (
        <>
          <h1>Put the cups in order</h1>
          <Rules sheet={sheet} />
          <p className="quiet">
            Best first. Drag by the handle, or use the arrows. {kept ? 'Your order is kept.' : 'Not ranked yet.'}
          </p>
        </>
      )}
      <p className="sr-only" aria-live="polite">
        {said}
      </p>
      <ol className={classes.ranks}>
        {order.map((code, i) => (
          <li
            key={code}
            ref={(row) => {
              if (row) rows.current.set(code, row);
            }}
          >
            <span className={`num ${classes.place}`}>{i + 1}</span>
            <button
              type="button"
              className={classes.handle}
              disabled={locked}
              aria-label={`Cup ${code}, number ${i + 1} of ${order.length}. Arrow up and down move it.`}
              onKeyDown={(e) => {
                if (e.key !== 'ArrowUp' && e.key !== 'ArrowDown') return;
                e.preventDefault();
                move(code, i + (e.key === 'ArrowUp' ? -1 : 1));
              }}
              onPointerDown={(e) => {
                e.currentTarget.setPointerCapture(e.pointerId);
                dragged.current = code;
              }}
              onPointerMove={(e) => dragTo(e.clientY)}
              onPointerUp={drop}
              onPointerCancel={drop}
            >
              <Penny stamp={code} size={48} />
              <b>Cup {code}</b>
            </button>
            <button
              type="button"
              className={classes.arrow}
              disabled={locked || i === 0}
              aria-label={`Move ${code} up`}
              onClick={() => move(code, i - 1)}
            >
              ↑
            </button>
            <button
              type="button"
              className={classes.arrow}
              disabled={locked || i === order.length - 1}
              aria-label={`Move ${code} down`}
              onClick={() => move(code, i + 1)}
            >
              ↓
            </button>
          </li>
        ))}
      </ol>
      {sheet.blinding !== 'open' && !locked && (
        <ByEye
          what="these cups"
          told={answers[cell(sheet.cups[0]!.code, 'told_by_eye', pass)]?.value != null}
          onTell={(told) =>
            onScore({ code: sheet.cups[0]!.code, attribute: 'told_by_eye', pass, value: told ? 1 : null })
          }
        />
      )}
      {kept && (
        <section className={classes.notes} aria-label="Notes">
          {order.map((code) => {
            const text = answers[cell(code, 'words', pass)]?.text ?? '';
            return (
              <details key={code}>
                <summary>
                  Cup {code}: {text || 'add notes'}
                </summary>
                <fieldset className={classes.fields} disabled={locked}>
                  <legend className="sr-only">Notes on cup {code}</legend>
                  <WordsShelf
                    shelf={sheet.shelf}
                    text={text}
                    onWords={(words) => onScore({ code, attribute: 'words', pass, text: words })}
                  />
                </fieldset>
              </details>
            );
          })}
          {sheet.guesses.length > 0 && <Guesses sheet={sheet} answers={answers} locked={locked} onScore={onScore} />}
        </section>
      )}
      {!kept && !locked && (
        <button type="button" className={classes.primary} onClick={() => keep(order)}>
          Keep this order
        </button>
      )}
    </>
  );
}
