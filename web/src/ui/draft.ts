/** What was typed and not saved yet, kept on this device for some days. */
const PREFIX = 'penny.draft.';
const KEPT_DAYS = 14;
const DAY_MS = 86_400_000;

type Kept = { at: number; value: Record<string, unknown> };
export type Shelf = Pick<Storage, 'getItem' | 'setItem' | 'removeItem' | 'key' | 'length'>;

/** What was kept, laid over what a form begins with; anything unreadable, too old, or of a field the form no longer has, is left out. */
export function mergedDraft<T extends object>(initial: T, kept: string | null, now: number): T {
  const found = readKept(kept);
  if (!found || now - found.at > KEPT_DAYS * DAY_MS) return initial;
  const known = Object.entries(found.value).filter(([field]) => field in initial);
  return known.length ? { ...initial, ...Object.fromEntries(known) } : initial;
}

/** The fields that differ from what the form began with, as they are kept; null where nothing differs. */
export function draftOf<T extends object>(initial: T, value: T, now: number): string | null {
  const changed = Object.entries(value).filter(
    ([field, v]) => JSON.stringify(initial[field as keyof T]) !== JSON.stringify(v),
  );
  return changed.length ? JSON.stringify({ at: now, value: Object.fromEntries(changed) } satisfies Kept) : null;
}

export const draftName = (key: string) => `${PREFIX}${key}`;

/** Throws away what nobody came back for. */
export function dropOldDrafts(shelf: Shelf, now: number) {
  const names = [...Array(shelf.length).keys()]
    .map((i) => shelf.key(i))
    .filter((n): n is string => !!n?.startsWith(PREFIX));
  for (const name of names) {
    const found = readKept(shelf.getItem(name));
    if (!found || now - found.at > KEPT_DAYS * DAY_MS) shelf.removeItem(name);
  }
}

function readKept(text: string | null): Kept | null {
  if (!text) return null;
  try {
    const found = JSON.parse(text) as Kept;
    return typeof found.at === 'number' && found.value && typeof found.value === 'object' ? found : null;
  } catch {
    return null;
  }
}
