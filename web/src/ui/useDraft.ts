import { useCallback, useRef, useState } from 'react';
import { draftName, draftOf, mergedDraft } from './draft';

/**
 * State that outlives the page, a reload and a server that is down, under `key` (none: it does not). What was typed comes back when the
 * form does; `restored` says that it did.
 */
export function useDraft<T extends object>(key: string, initial: T) {
  const name = draftName(key);
  const begins = useRef(initial);
  const [value, setValue] = useState<T>(() => (key ? mergedDraft(initial, kept(name), Date.now()) : initial));
  const [restored, setRestored] = useState(() => value !== initial);
  const set = useCallback(
    (next: T | ((now: T) => T)) =>
      setValue((now) => {
        const made = typeof next === 'function' ? next(now) : next;
        if (key) keep(name, draftOf(begins.current, made, Date.now()));
        return made;
      }),
    [key, name],
  );
  const forget = useCallback(() => {
    if (key) keep(name, null);
    setRestored(false);
  }, [key, name]);
  /** Begin with these instead, nothing kept. */
  const startAfresh = useCallback(
    (from: T = begins.current) => {
      begins.current = from;
      setValue(from);
      forget();
    },
    [forget],
  );
  return { value, set, forget, restored, startAfresh } as const;
}

function kept(name: string): string | null {
  try {
    return localStorage.getItem(name);
  } catch {
    return null; // a browser that keeps nothing
  }
}

function keep(name: string, text: string | null) {
  try {
    if (text === null) localStorage.removeItem(name);
    else localStorage.setItem(name, text);
  } catch {
    // Full, or it keeps nothing: what is typed still stands on the page.
  }
}
