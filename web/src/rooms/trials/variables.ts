import type { VariablesPatch } from './queries';

export type VariableField = Exclude<keyof VariablesPatch, 'brewer_type'>;

type Variable = {
  field: VariableField;
  label: string;
  unit?: string;
  kit?: 'coffee' | 'grinder' | 'filter' | 'brewer' | 'water';
  hint?: string;
};

/** What a setup is made of, in the order of the control bars. */
export const VARIABLES: readonly Variable[] = [
  { field: 'coffee', label: 'Coffee', kit: 'coffee', hint: 'Burundi washed, lot 31' },
  { field: 'grinder', label: 'Grinder and burrs', kit: 'grinder', hint: 'Windlass mill, ridged plates' },
  { field: 'grind_setting', label: 'Grind setting', hint: '5.5' },
  { field: 'filter', label: 'Filter', kit: 'filter', hint: 'White weave' },
  { field: 'brewer', label: 'Brewer', kit: 'brewer', hint: 'Flat bed, three-hole' },
  { field: 'water', label: 'Water', kit: 'water', hint: 'Quay blend' },
  { field: 'temperature_c', label: 'Temperature', unit: '°C' },
  { field: 'dose_g', label: 'Dose', unit: 'g' },
  { field: 'brew_water_g', label: 'Brew water', unit: 'g' },
  { field: 'bypass_g', label: 'Bypass water', unit: 'g' },
  { field: 'pours', label: 'Pours', hint: '45 bloom 40 s, then to 170, then to 290 by 1:40' },
  { field: 'other', label: 'Something else' },
];

export const variableOf = (field: string) => VARIABLES.find((v) => v.field === field);

/** The variable that a question about `testedField` changes first: a ratio is moved by its water. */
export const firstToChange = (testedField: string): VariableField =>
  testedField === 'brew_ratio' ? 'brew_water_g' : (variableOf(testedField)?.field ?? 'other');
