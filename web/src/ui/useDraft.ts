import { useCallback, useState } from 'react';
import { mergedDraft } from './draft';

/** State that outlives the page under `key` (none: it does not): what was typed comes back when the page does. */
export function useDraft<T extends object>(key: string, initial: T) {
  const name = `penny.draft.${key}`;
  const [value, setValue] = useState<T>(() => (key ? mergedDraft(initial, sessionStorage.getItem(name)) : initial));
  const set = useCallback(
    (next: T | ((now: T) => T)) =>
      setValue((now) => {
        const made = typeof next === 'function' ? next(now) : next;
        if (key) sessionStorage.setItem(name, JSON.stringify(made));
        return made;
      }),
    [key, name],
  );
  const forget = useCallback(() => sessionStorage.removeItem(name), [name]);
  return [value, set, forget] as const;
}
