import { TextInput } from '@mantine/core';
import { type KeyboardEvent, useRef } from 'react';
import { fixed } from '../../ui/numbers';
import classes from './Grind.module.css';
import { readMass } from './pick';

type TraysProps = {
  /** The pan first (0), then from the finest sieve up. */
  apertures: number[];
  texts: Record<string, string>;
  set: (name: string, text: string) => void;
  massIn: number | null;
  errorOf: (index: number) => string | undefined;
  massError: string | undefined;
};

/** The stack as it stands: what went in on top, then every sieve down to the pan. Enter moves on; the last one keeps the sample. */
export function Trays({ apertures, texts, set, massIn, errorOf, massError }: TraysProps) {
  const stack = useRef<HTMLDivElement>(null);
  const onward = (e: KeyboardEvent) => {
    if (e.key !== 'Enter') return;
    const fields = [...stack.current!.querySelectorAll('input')];
    const next = fields[fields.indexOf(e.target as HTMLInputElement) + 1];
    if (!next) return;
    e.preventDefault();
    next.focus();
    next.select();
  };
  return (
    <div ref={stack} className={classes.trays} onKeyDown={onward} role="group" aria-label="The stack, from the top">
      <Tray label="Went in" name="mass_in_g" text={texts.mass_in_g ?? ''} set={set} share={null} error={massError} />
      {[...apertures.keys()].reverse().map((i) => {
        const a = apertures[i]!;
        const mass = readMass(texts[`heap_${a}`] ?? '');
        const share = mass !== null && massIn ? Math.min(1, mass / massIn) : 0;
        return (
          <Tray
            key={a}
            label={a ? `On ${a} µm` : 'In the pan'}
            name={`heap_${a}`}
            text={texts[`heap_${a}`] ?? ''}
            set={set}
            share={share}
            error={errorOf(i)}
          />
        );
      })}
    </div>
  );
}

type TrayProps = {
  label: string;
  name: string;
  text: string;
  set: (name: string, text: string) => void;
  share: number | null;
  error: string | undefined;
};

function Tray({ label, name, text, set, share, error }: TrayProps) {
  const typed = text.trim();
  const mass = readMass(typed);
  const sum = /\d\s*[-−]\s*\d/.test(typed) && mass !== null ? `= ${fixed(mass, 1)} g` : undefined;
  return (
    <div className={classes.tray} data-top={share === null || undefined}>
      {share !== null && <span className={classes.fill} style={{ width: `${100 * share}%` }} aria-hidden />}
      <TextInput
        label={label}
        inputMode="text"
        autoComplete="off"
        value={text}
        onChange={(e) => set(name, e.currentTarget.value)}
        onFocus={(e) => e.currentTarget.select()}
        description={sum}
        error={error ?? (typed && mass === null ? 'Write grams, or full less empty: 86.4-80.1.' : undefined)}
        rightSection={<span className="quiet small">g</span>}
        rightSectionPointerEvents="none"
        classNames={{ root: classes.trayField!, input: classes.trayInput! }}
      />
    </div>
  );
}
