import { KIT_KINDS } from '../../api/vocabulary';
import { LISTED_KITS, labelOf } from '../../api/words';
import type { KitItem, KitKind } from './queries';

/** One fact of a kind of kit, as the vocabulary tells how it is asked for. */
export type FactField = {
  name: string;
  label: string;
  form: (typeof KIT_KINDS)[number]['facts'][number]['form'];
  unit: string;
  hint: string;
  options: readonly (readonly [code: string, label: string])[];
  default: unknown;
};

export const KINDS = LISTED_KITS.map((k) => ({ kind: k.code as KitKind, one: k.label, many: k.plural }));

export const oneOf = (kind: KitKind) => labelOf(KIT_KINDS, kind);

export const FACT_FIELDS = Object.fromEntries(
  KIT_KINDS.map((k) => [k.code, k.facts as readonly FactField[]]),
) as Record<KitKind, readonly FactField[]>;

/** What a new piece of kit begins with: the vocabulary's own defaults, as typed texts. */
export function usualTexts(kind: KitKind): FactTexts {
  const said = FACT_FIELDS[kind].filter((f) => f.form === 'choice' || f.form === 'yes');
  return Object.fromEntries(
    said.map((f) => [f.name, f.default === true ? 'yes' : typeof f.default === 'string' ? f.default : '']),
  );
}

export type FactTexts = Record<string, string>;

/** The facts of an item as typed texts; yes is "yes". */
export function factTexts(item: KitItem | null, kind: KitKind): FactTexts {
  const facts = (item?.[kind] ?? {}) as Record<string, unknown>;
  const stated = Object.entries(facts).map(([name, value]) => [
    name,
    value === null || value === undefined || value === false
      ? ''
      : value === true
        ? 'yes'
        : Array.isArray(value)
          ? value.join(', ')
          : String(value),
  ]);
  return { ...Object.fromEntries(FACT_FIELDS[kind].map((f) => [f.name, ''])), ...Object.fromEntries(stated) };
}
