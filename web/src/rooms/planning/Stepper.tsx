import { ActionIcon } from '@mantine/core';
import { IconMinus, IconPlus } from '@tabler/icons-react';
import { useEffect, useId, useState } from 'react';
import classes from './Plan.module.css';

type StepperProps = {
  label: string;
  /** Said after the number, where it stands in a sentence; the label is then read out only. */
  said?: string;
  value: number;
  unit?: string;
  step?: number;
  low: number;
  high: number;
  onChange: (value: number) => void;
};

/** A whole number with a smaller and a larger beside it, for one thumb or the keyboard. */
export function Stepper({ label, said, value, unit, step = 1, low, high, onChange }: StepperProps) {
  const [text, setText] = useState(String(value));
  const labelId = useId();
  useEffect(() => setText(String(value)), [value]);
  const give = (next: number) => {
    const fit = Math.min(high, Math.max(low, Math.round(next)));
    setText(String(fit));
    if (fit !== value) onChange(fit);
  };
  return (
    <div className={said ? classes.inSentence : classes.stepper}>
      <span id={labelId} className={said ? 'sr-only' : undefined}>
        {label}
      </span>
      <div>
        <ActionIcon
          variant="default"
          size={34}
          aria-label={`Fewer: ${label}`}
          disabled={value <= low}
          onClick={() => give(value - step)}
        >
          <IconMinus size={15} />
        </ActionIcon>
        <input
          aria-labelledby={labelId}
          inputMode="numeric"
          value={text}
          onChange={(e) => setText(e.currentTarget.value)}
          onBlur={() => give(/^\d+$/.test(text.trim()) ? Number(text) : value)}
          onKeyDown={(e) => {
            if (e.key === 'Enter') give(/^\d+$/.test(text.trim()) ? Number(text) : value);
            if (e.key === 'ArrowUp') give(value + step);
            if (e.key === 'ArrowDown') give(value - step);
          }}
        />
        {unit && <span className={classes.stepUnit}>{unit}</span>}
        <ActionIcon
          variant="default"
          size={34}
          aria-label={`More: ${label}`}
          disabled={value >= high}
          onClick={() => give(value + step)}
        >
          <IconPlus size={15} />
        </ActionIcon>
      </div>
      {said && <span aria-hidden>{said}</span>}
    </div>
  );
}
