import { useTyped } from '../../ui/fields';
import { useDraft } from '../../ui/useDraft';
import type { BrewTexts } from './brewTexts';
import type { Observed } from './seen';

export type BrewBegins = { texts: BrewTexts; seen: Observed; concentrate: boolean };

/** Everything that can be said of one brew, as far as it is typed; kept on the device under `key` until it is logged. */
export function useBrewForm(key: string, begins: BrewBegins) {
  const form = useTyped<keyof BrewTexts & string>(begins.texts, `brew.${key}`);
  const seen = useDraft<Observed>(`seen.${key}`, begins.seen);
  const kind = useDraft(`kind.${key}`, { concentrate: begins.concentrate });
  return {
    texts: form.texts as BrewTexts,
    set: form.set,
    refused: form.refused,
    setRefused: form.setRefused,
    seen: seen.value,
    onSeen: (next: Observed) => seen.set(next),
    concentrate: kind.value.concentrate,
    onConcentrate: (concentrate: boolean) => kind.set({ concentrate }),
    restored: form.restored || seen.restored || kind.restored,
    forget: () => {
      for (const part of [form, seen, kind]) part.forget();
    },
    /** The next one, or this one from the beginning. */
    startAfresh: (from: BrewBegins = begins) => {
      form.startAfresh(from.texts);
      seen.startAfresh(from.seen);
      kind.startAfresh({ concentrate: from.concentrate });
      form.setRefused(null);
    },
  };
}
