import { useState } from 'react';
import { Refused } from '../../api/client';
import { NumberField } from '../../ui/fields';
import { readNumber } from '../../ui/numbers';
import classes from './Calculators.module.css';

/** Typed numbers of a calculator; `values` leaves out what is empty, `bad` names what is no number. */
export function useNumbers<K extends string>(initial: Record<K, string>) {
  const [texts, setTexts] = useState(initial);
  const values: Partial<Record<K, number>> = {};
  const bad: K[] = [];
  for (const name of Object.keys(texts) as K[]) {
    const read = readNumber(texts[name]);
    if (read.kind === 'number') values[name] = read.value;
    if (read.kind === 'bad') bad.push(name);
  }
  return { texts, values, bad, set: (name: K, text: string) => setTexts((now) => ({ ...now, [name]: text })) };
}

type CalcFieldProps<K extends string> = {
  form: ReturnType<typeof useNumbers<K>>;
  name: K;
  label: string;
  unit: string;
  error: unknown;
};

export function CalcField<K extends string>({ form, name, label, unit, error }: CalcFieldProps<K>) {
  const said = form.bad.includes(name)
    ? 'This is not a number.'
    : error instanceof Refused
      ? error.at(name)
      : undefined;
  return (
    <NumberField
      label={label}
      unit={unit}
      value={form.texts[name]}
      onText={(text) => form.set(name, text)}
      error={said}
    />
  );
}

/** The answer, or what is still missing, or trouble that belongs to no field. */
export function Outcome({
  error,
  fields,
  waiting,
  children,
}: {
  error: unknown;
  fields: string[];
  waiting: string;
  children: React.ReactNode;
}) {
  const atField = error instanceof Refused && fields.some((f) => error.at(f));
  return (
    <div className={classes.outcome} role="status">
      {error ? (
        <p className={classes.trouble}>
          {atField
            ? 'See the field marked above.'
            : error instanceof Refused
              ? error.message
              : 'The bench does not answer.'}
        </p>
      ) : (
        (children ?? <p className="quiet">{waiting}</p>)
      )}
    </div>
  );
}

export const Line = ({ name, children }: { name: string; children: React.ReactNode }) => (
  <p className={classes.line}>
    <span>{name}</span>
    <span className="num">{children}</span>
  </p>
);
