import { numberOf } from '../../ui/typed';
import type { Variables, VariablesPatch } from './queries';
import { VARIABLES, variableOf } from './variables';

/** As typed; new_kit: kinds whose name is to be added to the kit. */
export type Texts = Record<keyof VariablesPatch | 'new_kit', string>;

export const EMPTY: Texts = {
  coffee: '',
  grinder: '',
  grind_setting: '',
  filter: '',
  brewer: '',
  brewer_type: '',
  water: '',
  temperature_c: '',
  dose_g: '',
  brew_water_g: '',
  bypass_g: '',
  pours: '',
  other: '',
  new_kit: '',
};

export function textsOf(variables: Variables): Texts {
  const shown = Object.entries(variables).map(([name, value]) => [
    name,
    value === null || (name === 'bypass_g' && value === 0) ? '' : String(value),
  ]);
  return { ...EMPTY, ...Object.fromEntries(shown) };
}

/** What was typed as the bench takes it; only the fields named. at: where its fields stand in what is sent. */
export function patchOf(texts: Texts, fields: readonly (keyof VariablesPatch)[], at = 'variables'): VariablesPatch {
  const patch: Record<string, unknown> = {};
  for (const field of fields) {
    if (field === 'brewer_type') patch[field] = texts.brewer_type || null;
    else if (variableOf(field)?.unit)
      patch[field] = numberOf(`${at}.${field}`, texts[field]) ?? (field === 'bypass_g' ? 0 : null);
    else patch[field] = texts[field];
  }
  return patch as VariablesPatch;
}

export const ALL_FIELDS: readonly (keyof VariablesPatch)[] = [...VARIABLES.map((v) => v.field), 'brewer_type'];
