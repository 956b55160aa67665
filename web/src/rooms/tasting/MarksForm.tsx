import { Button, NativeSelect } from '@mantine/core';
import { useState } from 'react';
import { Refused } from '../../api/client';
import { Penny } from '../../ui/Penny';
import { useSend } from '../../ui/useSend';
import { type Flight, flipFlight } from './queries';
import classes from './Taste.module.css';

/** After all scores are locked: turn each cup, enter the mark under its card, flip the pennies. */
export function MarksForm({ flight, onDone }: { flight: Flight; onDone: () => void }) {
  const [marks, setMarks] = useState<Record<string, string>>({});
  const [trouble, setTrouble] = useState<string>();
  const flip = useSend(
    () =>
      flipFlight(
        flight.id,
        flight.cups.map((c) => ({ code: c.code, mark: Number(marks[c.code]) })),
      ),
    {
      onDone,
      onTrouble: (error) => {
        setTrouble(error instanceof Refused ? error.at('marks') : undefined);
        return error instanceof Refused && error.status === 422;
      },
    },
  );
  const taken = new Set(Object.values(marks));
  const complete = flight.cups.every((c) => marks[c.code]);
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
            <NativeSelect
              aria-label={`Mark under code ${c.code}`}
              value={marks[c.code] ?? ''}
              onChange={(e) => {
                setTrouble(undefined);
                setMarks({ ...marks, [c.code]: e.currentTarget.value });
              }}
              data={[
                { value: '', label: 'mark?' },
                ...flight.marks
                  .filter((m) => m.round === c.round)
                  .map((m) => ({
                    value: String(m.mark),
                    label: `mark ${m.mark}`,
                    disabled: taken.has(String(m.mark)) && marks[c.code] !== String(m.mark),
                  })),
              ]}
            />
          </li>
        ))}
      </ul>
      {trouble && (
        <p role="alert" className={classes.trouble}>
          {trouble}
        </p>
      )}
      <Button type="submit" size="md" disabled={!complete} loading={flip.isPending}>
        Flip the pennies
      </Button>
    </form>
  );
}
