import { Button } from '@mantine/core';
import { useState } from 'react';
import { Refused } from '../../api/client';
import { joined } from '../../ui/numbers';
import { Penny } from '../../ui/Penny';
import { useSend } from '../../ui/useSend';
import { type Found, freeFor, withMark } from './marks';
import { type Flight, flipFlight } from './queries';
import classes from './Taste.module.css';

/** After all scores are locked: turn each cup, enter the mark under its card, flip the pennies. */
export function MarksForm({ flight, onDone }: { flight: Flight; onDone: () => void }) {
  const [found, setFound] = useState<Found>({});
  const [trouble, setTrouble] = useState<string>();
  const [filled, setFilled] = useState<string>();
  const flip = useSend(
    () =>
      flipFlight(
        flight.id,
        flight.cups.map((c) => ({ code: c.code, mark: found[c.code] ?? 0 })),
      ),
    {
      onDone,
      onTrouble: (error) => {
        setTrouble(error instanceof Refused ? error.at('marks') : undefined);
        return error instanceof Refused && error.status === 422;
      },
    },
  );
  const missing = flight.cups.map((c) => c.code).filter((code) => found[code] === undefined);
  const press = (code: string, mark: number) => {
    if (code === filled && found[code] === mark) {
      setTrouble(`Mark ${mark} was the only one left for cup ${code}. Change another cup’s mark first.`);
      return;
    }
    const next = withMark(found, code, mark, flight.cups, flight.marks);
    setTrouble(undefined);
    setFilled(
      flight.cups.find((c) => c.code !== code && found[c.code] === undefined && next[c.code] !== undefined)?.code,
    );
    setFound(next);
  };
  return (
    <form
      className="card"
      onSubmit={(e) => {
        e.preventDefault();
        flip.mutate();
      }}
    >
      <h2>Which mark was under which card?</h2>
      <ul className={classes.entries}>
        {flight.cups.map((c) => (
          <li key={c.code}>
            <Penny stamp={c.code} size={44} />
            <div className={classes.marksUnder} role="radiogroup" aria-label={`Mark under code ${c.code}`}>
              {flight.marks
                .filter((m) => m.round === c.round)
                .map(({ mark }) => (
                  <button
                    key={mark}
                    type="button"
                    role="radio"
                    aria-checked={found[c.code] === mark}
                    aria-label={`mark ${mark}`}
                    disabled={!freeFor(c.code, flight.cups, flight.marks, found).includes(mark)}
                    onClick={() => press(c.code, mark)}
                  >
                    {mark}
                  </button>
                ))}
            </div>
            {c.code === filled && <span className="quiet small">the only one left</span>}
          </li>
        ))}
      </ul>
      {trouble && (
        <p role="alert" className={classes.trouble}>
          {trouble}
        </p>
      )}
      <div className={classes.buttons}>
        <Button type="submit" size="md" disabled={missing.length > 0} loading={flip.isPending}>
          Flip the pennies
        </Button>
        {missing.length > 0 && (
          <span className="quiet">
            {missing.length === 1 ? 'Cup' : 'Cups'} {joined(missing)} {missing.length === 1 ? 'has' : 'have'} no mark
            yet.
          </span>
        )}
      </div>
    </form>
  );
}
