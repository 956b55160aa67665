import { Autocomplete, Select, TextInput } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import type { Refused } from '../../api/client';
import { NumberField, numberOf } from '../../ui/fields';
import { kitQuery } from '../kit/queries';
import type { Variables, VariablesPatch } from './queries';
import { VARIABLES, variableOf } from './variables';

export type Texts = Record<keyof VariablesPatch, string>;

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
};

export function textsOf(variables: Variables): Texts {
  const shown = Object.entries(variables).map(([name, value]) => [
    name,
    value === null || (name === 'bypass_g' && value === 0) ? '' : String(value),
  ]);
  return { ...EMPTY, ...Object.fromEntries(shown) };
}

/** What was typed as the bench takes it; only the fields named. */
export function patchOf(texts: Texts, fields: (keyof VariablesPatch)[]): VariablesPatch {
  const patch: Record<string, unknown> = {};
  for (const field of fields) {
    if (field === 'brewer_type') patch[field] = texts.brewer_type || null;
    else if (variableOf(field)?.unit)
      patch[field] = numberOf(`variables.${field}`, texts[field]) ?? (field === 'bypass_g' ? 0 : null);
    else patch[field] = texts[field];
  }
  return patch as VariablesPatch;
}

export const ALL_FIELDS: (keyof VariablesPatch)[] = [...VARIABLES.map((v) => v.field), 'brewer_type'];

type VariableFieldProps = {
  field: keyof VariablesPatch;
  texts: Texts;
  set: (field: keyof VariablesPatch, text: string) => void;
  refused: Refused | null;
  label?: string;
  autoFocus?: boolean;
};

/** The right kind of field for a variable: a number with its unit, a name chosen from the kit or typed new, a text. */
export function VariableField({ field, texts, set, refused, label, autoFocus }: VariableFieldProps) {
  const { data: kit } = useQuery(kitQuery);
  const variable = variableOf(field);
  const error = refused?.at(`variables.${field}`) ?? refused?.at(field);
  const shared = { label: label ?? variable?.label ?? 'Kind of brewer', error, 'data-autofocus': autoFocus };
  if (field === 'brewer_type') {
    return (
      <Select
        {...shared}
        placeholder="sets the school of yield"
        clearable
        clearButtonProps={{ 'aria-label': 'Clear the kind of brewer' }}
        value={texts.brewer_type || null}
        onChange={(value) => set('brewer_type', value ?? '')}
        data={kit?.brewer_types.map((t) => ({ value: t.code, label: t.label })) ?? []}
      />
    );
  }
  if (variable?.unit)
    return <NumberField {...shared} unit={variable.unit} value={texts[field]} onText={(text) => set(field, text)} />;
  if (variable?.kit) {
    return (
      <Autocomplete
        {...shared}
        placeholder={variable.hint}
        value={texts[field]}
        onChange={(text) => set(field, text)}
        data={kit?.items.filter((i) => i.kind === variable.kit).map((i) => i.name) ?? []}
        maxLength={120}
      />
    );
  }
  return (
    <TextInput
      {...shared}
      placeholder={variable?.hint}
      value={texts[field]}
      onChange={(e) => set(field, e.currentTarget.value)}
      maxLength={300}
    />
  );
}
