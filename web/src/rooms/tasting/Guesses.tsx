import type { FlowProps } from './flow';
import classes from './Sheet.module.css';
import { cell, type PassName, passesOf } from './useSheet';

/** Which is which: asked after liking, optional, counted against chance. */
export function Guesses({ sheet, answers, locked, onScore }: FlowProps) {
  const pass = passesOf(sheet)[0]!.name;
  return (
    <details className={classes.guesses}>
      <summary>Guess which is which (optional)</summary>
      <p className="quiet small">Compared are {sheet.guesses.map((g) => `${g.letter} ${g.label}`).join(', ')}.</p>
      {sheet.cups.map((c) => (
        <label key={c.code}>
          <span className="num">{c.code}</span>
          <select
            value={answers[cell(c.code, 'guess', pass)]?.text ?? ''}
            disabled={locked}
            onChange={(e) =>
              onScore({ code: c.code, attribute: 'guess', pass: pass as PassName, text: e.currentTarget.value })
            }
          >
            <option value="">no guess</option>
            {sheet.guesses.map((g) => (
              <option key={g.letter} value={g.letter}>
                {g.letter} · {g.label}
              </option>
            ))}
          </select>
        </label>
      ))}
    </details>
  );
}
