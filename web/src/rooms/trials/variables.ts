import { KIT_KINDS, VARIABLES as LISTED } from '../../api/vocabulary';
import type { VariablesPatch } from './queries';

export type VariableField = Exclude<keyof VariablesPatch, 'brewer_type'>;

type NamedKit = 'coffee' | 'grinder' | 'filter' | 'brewer' | 'water';
export type Variable = { field: VariableField; label: string; unit: string; kit: NamedKit | null; hint: string };

const HINTS: Partial<Record<VariableField, string>> = {
  coffee: 'Burundi washed, lot 31',
  grinder: 'Windlass mill, ridged plates',
  grind_setting: '5.5',
  filter: 'White weave',
  brewer: 'Flat bed, three-hole',
  water: 'Quay blend',
  pours: 'bloom 45 for 40 s, to 170, to 290 by 1:40',
};
const NAMED = KIT_KINDS.filter((k) => k.named).map((k) => k.code as string);

/** What a setup is made of, in the order of the control bars. */
export const VARIABLES: readonly Variable[] = LISTED.map((v) => ({
  ...v,
  kit: NAMED.includes(v.field) ? (v.field as NamedKit) : null,
  hint: HINTS[v.field] ?? '',
}));

/** Whether a typed name is one of the kit's; an empty one names nothing. */
export const isKnown = (text: string, known: readonly string[]) => text.trim() === '' || known.includes(text.trim());

/** Names of the kit that a slip of the pen may have meant: they share a word, or begin alike. */
export function nearTo(text: string, known: readonly string[]): string[] {
  const words = (t: string) =>
    new Set(
      t
        .toLowerCase()
        .split(/[^\p{L}\p{N}]+/u)
        .filter((w) => w.length > 2),
    );
  const mine = words(text);
  const close = (name: string) =>
    name.toLowerCase().startsWith(text.trim().toLowerCase().slice(0, 4)) || [...words(name)].some((w) => mine.has(w));
  return known.filter(close).slice(0, 3);
}

/** Kinds ticked to be added to the kit, kept with what is typed. */
export const newKitOf = (ticked: string): NamedKit[] => ticked.split(',').filter(Boolean) as NamedKit[];
export const tickedWith = (ticked: string, kind: NamedKit, on: boolean): string =>
  [...newKitOf(ticked).filter((k) => k !== kind), ...(on ? [kind] : [])].join(',');

export const variableOf = (field: string) => VARIABLES.find((v) => v.field === field);

/** The variable that a question about `testedField` changes first: a ratio is moved by its water. */
export const firstToChange = (testedField: string): VariableField =>
  testedField === 'brew_ratio' ? 'brew_water_g' : (variableOf(testedField)?.field ?? 'other');

/** What is asked for with a variable: a brewer has a kind, and a setting belongs to its dial. */
export const askedWith = (field: keyof VariablesPatch): (keyof VariablesPatch)[] =>
  field === 'brewer' ? ['brewer', 'brewer_type'] : field === 'grinder' ? ['grinder', 'grind_setting'] : [field];

/** Of those, what is sent: a setting that nobody typed is left to the bench, which knows what grinds alike on the other dial. */
export const sentWith = (field: keyof VariablesPatch, before: string, typed: string): (keyof VariablesPatch)[] =>
  askedWith(field).filter((f) => field !== 'grinder' || f !== 'grind_setting' || typed.trim() !== before.trim());
