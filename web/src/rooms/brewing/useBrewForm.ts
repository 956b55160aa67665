import { useForm } from '../../ui/useForm';
import type { BrewTexts } from './brewTexts';
import type { Observed } from './seen';

export type BrewBegins = { texts: BrewTexts; seen: Observed; concentrate: boolean };

type BrewValues = BrewTexts & { seen: Observed; concentrate: boolean };

const valuesOf = ({ texts, seen, concentrate }: BrewBegins): BrewValues => ({ ...texts, seen, concentrate });

/** Everything that can be said of one brew, texts and choices; stored on the device under `key` until it is logged. */
export function useBrewForm(key: string, begins: BrewBegins) {
  const form = useForm<BrewValues>(valuesOf(begins), `brew.${key}`);
  const { seen, concentrate, ...texts } = form.values;
  return {
    ...form,
    texts: texts as BrewTexts,
    seen,
    concentrate,
    onSeen: (next: Observed) => form.set('seen', next),
    onConcentrate: (next: boolean) => form.set('concentrate', next),
    /** The next brew, or this one from the beginning. */
    startAfresh: (from: BrewBegins = begins) => form.startAfresh(valuesOf(from)),
  };
}
