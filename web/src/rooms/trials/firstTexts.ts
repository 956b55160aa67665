import type { Schemas } from '../../api/client';
import { MOST_FURTHER } from '../../api/vocabulary';
import type { VariablesPatch } from './queries';
import { ALL_FIELDS, EMPTY, patchOf, type Texts } from './texts';
import { newKitOf, VARIABLES, type VariableField, variableOf } from './variables';

/** As many of each factor as the first form takes; more are copied from these. */
export const MOST_AT_FIRST = 6;
/** Of a tested factor, the first or a further one, what one setup (or, of several factors, one level) is called. */
export const ownOf = (factor: number, index: number) => `own_${factor}_${index}` as const;
export const kindOf = (factor: number, index: number) => `kind_${factor}_${index}` as const;
export const shownOf = (factor: number) => `shown_${factor}` as const;
type Own = ReturnType<typeof ownOf | typeof kindOf | typeof shownOf>;
/** What is the same in all, what each has of its own, the recipe, and how many of each factor are shown. */
export type FirstTexts = Texts & { recipe: string } & { [own in Own]?: string };

const upTo = (count: number) => [...Array(count).keys()];

export const EMPTY_FIRST: FirstTexts = {
  ...EMPTY,
  recipe: '',
  ...Object.fromEntries(
    upTo(1 + MOST_FURTHER).flatMap((k) => [
      [shownOf(k), '2'],
      ...upTo(MOST_AT_FIRST).flatMap((i) => [
        [ownOf(k, i), ''],
        [kindOf(k, i), ''],
      ]),
    ]),
  ),
};

export const stampOf = (index: number) => String.fromCharCode(65 + index);

/** The field each setup has its own of; a ratio is written as one, and its water worked out. */
export const ownField = (tests: string): VariableField | 'brew_ratio' =>
  tests === 'brew_ratio' ? 'brew_ratio' : (variableOf(tests)?.field ?? 'other');

type Body = Schemas['FirstSetupsBody'];

export type Tested = ReturnType<typeof ownField>;

/** The setups meant, each as its levels: one factor after another, every combination of what was named, the last factor fastest. */
export function combinations(texts: FirstTexts, factors: number): number[][] {
  const named = upTo(factors).map((k) => upTo(MOST_AT_FIRST).filter((i) => texts[ownOf(k, i)]?.trim()));
  return named.reduce<number[][]>(
    (sofar, levels) => sofar.flatMap((c) => (levels.length ? levels : [0]).map((level) => [...c, level])),
    [[]],
  );
}

/** What was typed as the bench takes it. Throws a Refused at the field of a number that is none. */
export function bodyOfFirst(texts: FirstTexts, tested: Tested[]): Body {
  const own = new Set<string>(tested.includes('brewer') ? [...tested, 'brewer_type'] : tested);
  const shared = ALL_FIELDS.filter((f) => !own.has(f) && texts[f].trim() !== '');
  return {
    recipe_version_id: texts.recipe || null,
    variables: patchOf(texts, shared),
    setups: combinations(texts, tested.length).map((levels, at) => setupOf(texts, tested, levels, at)),
    new_kit: newKitOf(texts.new_kit),
  };
}

function setupOf(texts: FirstTexts, tested: Tested[], levels: number[], at: number): Body['setups'][number] {
  const setup: Body['setups'][number] = { brew_ratio: '', variables: {} };
  for (const [k, field] of tested.entries()) {
    const text = texts[ownOf(k, levels[k]!)]?.trim() ?? '';
    const kind = texts[kindOf(k, levels[k]!)] ?? '';
    if (field === 'brew_ratio') setup.brew_ratio = text;
    else if (text) {
      const fields: (keyof VariablesPatch)[] = field === 'brewer' && kind ? ['brewer', 'brewer_type'] : [field];
      const typed = { ...EMPTY, [field]: text, brewer_type: kind };
      Object.assign(setup.variables!, patchOf(typed, fields, `setups.${at}.variables`));
    }
  }
  return setup;
}

/** Where the bench's refusals of one level stand: at any of the setups that have it. */
export const setupsWith = (texts: FirstTexts, factors: number, factor: number, level: number): number[] =>
  combinations(texts, factors).flatMap((levels, at) => (levels[factor] === level ? [at] : []));

/** What an earlier trial held, as texts of the form. */
export function heldTexts(held: Record<string, string | number>): Partial<Texts> {
  const known = new Set<string>([...VARIABLES.map((v) => v.field), 'brewer_type']);
  return Object.fromEntries(
    Object.entries(held).flatMap(([name, value]) => (known.has(name) ? [[name, String(value)]] : [])),
  );
}
