import { useEffect, useState } from 'react';
import { Refused } from '../../api/client';
import { readNumber } from '../../ui/numbers';
import classes from './Recipes.module.css';
import type { Reader } from './reads';

type CellProps = {
  label: string;
  /** What the document holds, as shown. */
  shown: string;
  /** Reads what was typed; free text when left out. */
  read?: Reader;
  onText?: (text: string) => void;
  onValue?: (value: number | null) => void;
  /** A plain number while it is being typed, not kept yet: what hangs on it may follow at every keystroke. */
  onTyping?: ((value: number) => void) | undefined;
  faulty?: boolean | undefined;
  wide?: boolean;
  placeholder?: string | undefined;
  unit?: string;
  column?: string;
  id?: string;
};

/** One value of a recipe: kept as typed until left, then read; what cannot be read stays, with the reason. */
export function Cell(props: CellProps) {
  const { label, shown, read, onText, onValue, onTyping, faulty, wide, placeholder, unit, column, id } = props;
  const [text, setText] = useState(shown);
  const [trouble, setTrouble] = useState<string>();
  useEffect(() => {
    setText(shown);
    setTrouble(undefined);
  }, [shown]);

  const commit = async () => {
    if (text === shown) return setTrouble(undefined);
    if (!read) return onText?.(text.trim());
    try {
      const value = await read(text.trim());
      setTrouble(undefined);
      onValue?.(value);
      if (value === null) setText('');
    } catch (error) {
      setTrouble(error instanceof Refused ? error.message : String(error));
    }
  };
  return (
    <span className={classes.cell} data-wide={wide} data-faulty={faulty} data-unit={unit ? true : undefined}>
      <input
        id={id}
        aria-label={label}
        aria-invalid={trouble !== undefined || faulty || undefined}
        title={trouble}
        data-column={column}
        data-free={!read || undefined}
        autoComplete="off"
        maxLength={200}
        placeholder={placeholder}
        value={text}
        onChange={(e) => {
          setText(e.currentTarget.value);
          const typed = readNumber(e.currentTarget.value);
          if (typed.kind === 'number') onTyping?.(typed.value);
        }}
        onBlur={commit}
        onKeyDown={(e) => {
          if (e.key === 'Escape') {
            setText(shown);
            setTrouble(undefined);
          } else if (e.key === 'Enter') void commit();
        }}
      />
      {unit && <span className={classes.unit}>{unit}</span>}
      {trouble && (
        <span role="alert" className={classes.trouble}>
          {trouble}
        </span>
      )}
    </span>
  );
}
