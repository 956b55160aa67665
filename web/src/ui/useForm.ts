import { useForm as useMantineForm } from '@mantine/form';
import { useCallback, useRef, useState } from 'react';
import type { Refused } from '../api/refused';
import { draftName, draftOf, mergedDraft } from './draft';
import { localRefusal } from './typed';

type Next = Refused | null | ((now: Refused | null) => Refused | null);
type Field<V> = keyof V & string;

export type Form<V extends object> = {
  values: V;
  set: <F extends Field<V>>(field: F, value: V[F]) => void;
  /** Set several fields at once. */
  setValues: (next: Partial<V> | ((now: V) => Partial<V>)) => void;
  /** Lay over the form what a choice brings (a recipe its kit): untouched fields take it, typed ones become contested, and what the last such choice
   * brought and this one does not is emptied. */
  fill: (offered: Partial<V>) => void;
  /** Fields that were typed and are offered another value; nothing is sent until the person has chosen. */
  contested: { field: Field<V>; offered: V[Field<V>] }[];
  settle: (choice: 'typed' | 'offered') => void;
  /** Throw a refusal at the first contested field. Call before sending. */
  check: () => void;
  refused: Refused | null;
  setRefused: (next: Next) => void;
  /** Values typed here before are back. */
  restored: boolean;
  /** Drop the stored draft, once the values are saved. */
  forget: () => void;
  /** Begin again, with these values instead, nothing stored. */
  startAfresh: (from?: V) => void;
};

/**
 * The state of one form: texts and choices alike, so that what the form shows is what is sent. Under `draft` the values outlive the page, a reload
 * and a server that is down; a field whose beginning has changed since it was typed is contested, never silently overruled.
 */
export function useForm<V extends object>(initial: V, draft = ''): Form<V> {
  const name = draft && draftName(draft);
  const begins = useRef(initial);
  const [begun] = useState(() => mergedDraft(initial, name ? readDraft(name) : null, Date.now()));
  const [restored, setRestored] = useState(begun.restored);
  const [offers, setOffers] = useState<Partial<V>>(() => pick(initial, begun.contested));
  const [refused, setRefused] = useRefused();
  const filled = useRef<Partial<V>>({});
  const form = useMantineForm<V>({
    initialValues: begun.values,
    onValuesChange: (values) => name && storeDraft(name, draftOf(begins.current, values, Date.now())),
  });
  const mantine = useRef(form);
  mantine.current = form;

  const setValues = useCallback(
    (next: Partial<V> | ((now: V) => Partial<V>)) => mantine.current.setValues(next as Partial<V>),
    [],
  );
  const set = useCallback(
    <F extends Field<V>>(field: F, value: V[F]) => {
      setValues({ [field]: value } as unknown as Partial<V>);
      setOffers((now) => omit(now, field));
      setRefused((now) => (now?.at(field) ? null : now));
    },
    [setValues, setRefused],
  );
  const fill = useCallback(
    (offered: Partial<V>) => {
      const now = mantine.current.getValues();
      const isTyped = (field: Field<V>) => !isEmpty(now[field]) && now[field] !== filled.current[field];
      const left = (Object.keys(filled.current) as Field<V>[]).filter(
        (field) => !(field in offered) && !isTyped(field),
      );
      const brought = { ...pick(begins.current, left), ...offered };
      const fields = (Object.keys(brought) as Field<V>[]).filter((field) => now[field] !== brought[field]);
      const typed = fields.filter(isTyped);
      filled.current = offered;
      setValues(
        pick(
          brought as V,
          fields.filter((field) => !typed.includes(field)),
        ),
      );
      setOffers(pick(brought as V, typed));
    },
    [setValues],
  );
  const settle = (choice: 'typed' | 'offered') => {
    if (choice === 'offered') setValues(offers);
    setOffers({});
    setRefused(null);
  };
  const forget = useCallback(() => {
    if (name) storeDraft(name, null);
    setRestored(false);
  }, [name]);
  const startAfresh = useCallback(
    (from: V = begins.current) => {
      begins.current = from;
      setValues(from);
      setOffers({});
      setRefused(null);
      forget();
    },
    [forget, setValues, setRefused],
  );
  const contested = (Object.keys(offers) as Field<V>[]).map((field) => ({ field, offered: offers[field]! }));
  const check = () => {
    const first = contested[0];
    if (first)
      throw localRefusal(first.field, 'this was typed for something else.', 'Choose above which value counts.');
  };
  return {
    values: form.values,
    set,
    setValues,
    fill,
    contested,
    settle,
    check,
    refused,
    setRefused,
    restored,
    forget,
    startAfresh,
  };
}

const isEmpty = (value: unknown) => value === '' || value === null || value === undefined;

function pick<V extends object>(from: V, fields: Field<V>[]): Partial<V> {
  return Object.fromEntries(fields.map((field) => [field, from[field]])) as Partial<V>;
}

function omit<V extends object>(from: Partial<V>, field: Field<V>): Partial<V> {
  if (!(field in from)) return from;
  const { [field]: _, ...rest } = from;
  return rest as unknown as Partial<V>;
}

/** The refusal a form shows. One that is replaced or corrected has been seen, so it is not announced anywhere else. */
function useRefused() {
  const [refused, setState] = useState<Refused | null>(null);
  const setRefused = useCallback((next: Next) => {
    setState((now) => {
      const then = typeof next === 'function' ? next(now) : next;
      if (now && then !== now) answered.add(now);
      return then;
    });
  }, []);
  return [refused, setRefused] as const;
}

const answered = new WeakSet<Refused>();
/** Whether somebody has begun to correct what this refusal is about. */
export const isAnswered = (refused: Refused) => answered.has(refused);

function readDraft(name: string): string | null {
  try {
    return localStorage.getItem(name);
  } catch {
    return null; // storage is switched off in this browser
  }
}

function storeDraft(name: string, text: string | null) {
  try {
    if (text === null) localStorage.removeItem(name);
    else localStorage.setItem(name, text);
  } catch {
    // Storage is full or switched off: the values still stand on the page.
  }
}
