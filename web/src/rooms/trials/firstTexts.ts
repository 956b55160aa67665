import type { Schemas } from '../../api/client';
import type { VariablesPatch } from './queries';
import { ALL_FIELDS, EMPTY, patchOf, type Texts } from './texts';
import { newKitOf, VARIABLES, type VariableField, variableOf } from './variables';

/** As many as the first form takes; more are copied from these. */
export const MOST_AT_FIRST = 6;
type Own = `own_${number}` | `kind_${number}`;
/** What is the same in all, what each has of its own, the recipe, and how many are shown. */
export type FirstTexts = Texts & { recipe: string; shown: string } & { [own in Own]?: string };

export const EMPTY_FIRST: FirstTexts = {
  ...EMPTY,
  recipe: '',
  shown: '2',
  ...Object.fromEntries(
    [...Array(MOST_AT_FIRST).keys()].flatMap((i) => [
      [`own_${i}`, ''],
      [`kind_${i}`, ''],
    ]),
  ),
};

export const stampOf = (index: number) => String.fromCharCode(65 + index);

/** The field each setup has its own of; a ratio is written as one, and its water worked out. */
export const ownField = (tests: string): VariableField | 'brew_ratio' =>
  tests === 'brew_ratio' ? 'brew_ratio' : (variableOf(tests)?.field ?? 'other');

type Body = Schemas['FirstSetupsBody'];

/** What was typed as the bench takes it. Throws a Refused at the field of a number that is none. */
export function bodyOfFirst(texts: FirstTexts, tested: ReturnType<typeof ownField>, count: number): Body {
  const shared = ALL_FIELDS.filter(
    (f) => f !== tested && texts[f].trim() !== '' && !(tested === 'brewer' && f === 'brewer_type'),
  );
  const indexes = [...Array(count).keys()].filter((i) => texts[`own_${i}`]?.trim());
  return {
    recipe_version_id: texts.recipe || null,
    variables: patchOf(texts, shared),
    setups: (indexes.length ? indexes : [0]).map((i) => ownOf(texts, tested, i)),
    new_kit: newKitOf(texts.new_kit),
  };
}

function ownOf(texts: FirstTexts, tested: ReturnType<typeof ownField>, i: number): Body['setups'][number] {
  const text = texts[`own_${i}`]?.trim() ?? '';
  if (tested === 'brew_ratio') return { brew_ratio: text, variables: {} };
  if (!text) return { brew_ratio: '', variables: {} };
  const kind = texts[`kind_${i}`] ?? '';
  const fields: (keyof VariablesPatch)[] = tested === 'brewer' && kind ? ['brewer', 'brewer_type'] : [tested];
  const own = { ...EMPTY, [tested]: text, brewer_type: kind };
  return { brew_ratio: '', variables: patchOf(own, fields, `setups.${i}.variables`) };
}

/** What an earlier trial held, as texts of the form. */
export function heldTexts(held: Record<string, string | number>): Partial<Texts> {
  const known = new Set<string>([...VARIABLES.map((v) => v.field), 'brewer_type']);
  return Object.fromEntries(
    Object.entries(held).flatMap(([name, value]) => (known.has(name) ? [[name, String(value)]] : [])),
  );
}
