import { Autocomplete, Button, Checkbox, Select, TextInput } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import type { Refused } from '../../api/client';
import { atADesk } from '../../ui/desk';
import { NumberField } from '../../ui/fields';
import { kitQuery } from '../kit/queries';
import type { VariablesPatch } from './queries';
import classes from './SetUp.module.css';
import type { Texts } from './texts';
import { isKnown, nearTo, newKitOf, tickedWith, variableOf } from './variables';

type VariableFieldProps = {
  field: keyof VariablesPatch;
  texts: Texts;
  set: (field: keyof Texts, text: string) => void;
  refused: Refused | null;
  label?: string;
  autoFocus?: boolean;
};

/** The right kind of field for a variable: a number with its unit, a name chosen from the kit or typed new, a text. */
export function VariableField({ field, texts, set, refused, label, autoFocus }: VariableFieldProps) {
  const { data: kit } = useQuery(kitQuery);
  const variable = variableOf(field);
  const error = refused?.at(`variables.${field}`) ?? refused?.at(field);
  const shared = {
    label: label ?? variable?.label ?? 'Kind of brewer',
    error,
    'data-autofocus': autoFocus,
    autoFocus: autoFocus && atADesk(),
  };
  if (field === 'brewer_type') {
    return (
      <Select
        {...shared}
        placeholder="decides how yield is calculated"
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
    const names =
      variable.kit === 'grinder'
        ? (kit?.grinders ?? [])
        : (kit?.items.filter((i) => i.kind === variable.kit && !i.retired).map((i) => i.name) ?? []);
    return (
      <div>
        <Autocomplete
          {...shared}
          placeholder={variable.hint}
          value={texts[field]}
          onChange={(text) => set(field, text)}
          data={names}
          maxLength={120}
        />
        {kit && names.length > 0 && !isKnown(texts[field], names) && (
          <NotInKit
            kind={variable.kit}
            typed={texts[field]}
            names={names}
            adding={newKitOf(texts.new_kit).includes(variable.kit)}
            onLink={(name) => set(field, name)}
            onAdd={(on) => set('new_kit', tickedWith(texts.new_kit, variable.kit!, on))}
          />
        )}
      </div>
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

type NotInKitProps = {
  kind: string;
  typed: string;
  names: readonly string[];
  adding: boolean;
  onLink: (name: string) => void;
  onAdd: (on: boolean) => void;
};

/** A name the kit does not have: a slip to be linked, or something new to be added on purpose. */
function NotInKit({ kind, typed, names, adding, onLink, onAdd }: NotInKitProps) {
  return (
    <div className={classes.notInKit} role="group" aria-label={`${typed} is not in the kit`}>
      {nearTo(typed, names).map((name) => (
        <Button key={name} size="compact-sm" variant="light" onClick={() => onLink(name)}>
          Link to {name}
        </Button>
      ))}
      <Checkbox
        size="xs"
        label={`Not in the kit yet: add this ${kind}`}
        checked={adding}
        onChange={(e) => onAdd(e.currentTarget.checked)}
      />
    </div>
  );
}
