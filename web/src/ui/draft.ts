/** Values of a form that were typed or chosen and not saved yet, stored on this device for some days. */
const PREFIX = 'penny.draft.';
const STORED_DAYS = 14;
const DAY_MS = 86_400_000;

/** value: the fields that differed from what the form began with; from: what those began with. */
type Stored = { at: number; value: Record<string, unknown>; from?: Record<string, unknown> };
export type Shelf = Pick<Storage, 'getItem' | 'setItem' | 'removeItem' | 'key' | 'length'>;

export type Merged<T> = {
  values: T;
  restored: boolean;
  /** Restored fields whose beginning has changed since they were typed: both values stand to choice. */
  contested: (keyof T & string)[];
};

/** Lay the stored fields over what a form begins with; leave out whatever is unreadable, too old, or of a field the form no longer has. */
export function mergedDraft<T extends object>(initial: T, stored: string | null, now: number): Merged<T> {
  const found = readStored(stored);
  if (!found || now - found.at > STORED_DAYS * DAY_MS) return { values: initial, restored: false, contested: [] };
  const known = Object.entries(found.value).filter(
    ([field, value]) => field in initial && !same(initial[field as keyof T], value),
  );
  if (!known.length) return { values: initial, restored: false, contested: [] };
  const begunOtherwise = ([field]: [string, unknown]) =>
    found.from !== undefined && field in found.from && !same(found.from[field], initial[field as keyof T]);
  return {
    values: { ...initial, ...Object.fromEntries(known) },
    restored: true,
    contested: known.filter(begunOtherwise).map(([field]) => field as keyof T & string),
  };
}

/** Return the fields that differ from what the form began with, as they are stored; null where nothing differs. */
export function draftOf<T extends object>(initial: T, values: T, now: number): string | null {
  const changed = Object.entries(values).filter(([field, v]) => !same(initial[field as keyof T], v));
  if (!changed.length) return null;
  const from = Object.fromEntries(changed.map(([field]) => [field, initial[field as keyof T]]));
  return JSON.stringify({ at: now, value: Object.fromEntries(changed), from } satisfies Stored);
}

const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b);

export const draftName = (key: string) => `${PREFIX}${key}`;

/** Throw away what nobody came back for. */
export function dropOldDrafts(shelf: Shelf, now: number) {
  const names = [...Array(shelf.length).keys()]
    .map((i) => shelf.key(i))
    .filter((n): n is string => !!n?.startsWith(PREFIX));
  for (const name of names) {
    const found = readStored(shelf.getItem(name));
    if (!found || now - found.at > STORED_DAYS * DAY_MS) shelf.removeItem(name);
  }
}

function readStored(text: string | null): Stored | null {
  if (!text) return null;
  try {
    const found = JSON.parse(text) as Stored;
    return typeof found.at === 'number' && found.value && typeof found.value === 'object' ? found : null;
  } catch {
    return null;
  }
}
