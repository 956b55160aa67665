import { Button, Modal, SegmentedControl, Select, TextInput } from '@mantine/core';
import { useState } from 'react';
import { shownAtField, useForm } from '../../ui/fields';
import { useSend } from '../../ui/useSend';
import { addSetup, type Setup } from './queries';
import classes from './SetUp.module.css';
import { EMPTY, patchOf } from './texts';
import { VariableField } from './VariableField';
import { askedWith, type VariableField as Field, firstToChange, newKitOf, sentWith, VARIABLES } from './variables';

type CopySetupProps = {
  trialId: string;
  setups: Setup[];
  testedField: string;
  otherLabel: string;
  onClose: () => void;
};

/** Copy a setup, change one thing. */
export function CopySetup({ trialId, setups, testedField, otherLabel, onClose }: CopySetupProps) {
  const [from, setFrom] = useState(setups[setups.length - 1]!.id);
  const [field, setField] = useState<Field>(firstToChange(testedField));
  const [name, setName] = useState('');
  const form = useForm(EMPTY, `copy.${trialId}`);
  const fields = askedWith(field);
  const save = useSend(
    async () =>
      addSetup(trialId, {
        name,
        copy_of: from,
        variables: patchOf(form.values, sentWith(field, '', form.values.grind_setting)),
        new_kit: newKitOf(form.values.new_kit),
      }),
    {
      onDone: () => {
        form.forget();
        onClose();
      },
      onTrouble: shownAtField(form.setRefused),
    },
  );
  return (
    <Modal opened onClose={onClose} title="Copy a setup, change one thing">
      <form
        className={classes.copy}
        onSubmit={(e) => {
          e.preventDefault();
          save.mutate();
        }}
      >
        <div>
          <p className={classes.fieldLabel}>Copy of</p>
          <SegmentedControl
            fullWidth
            aria-label="Setup to copy"
            value={from}
            onChange={setFrom}
            data={setups.map((s) => ({ value: s.id, label: s.letter }))}
          />
        </div>
        <Select
          label="The one thing that changes"
          allowDeselect={false}
          value={field}
          onChange={(value) => setField((value ?? field) as Field)}
          data={VARIABLES.map((v) => ({ value: v.field, label: v.field === 'other' ? otherLabel : v.label }))}
        />
        {fields.map((f, i) => (
          <VariableField
            key={f}
            field={f}
            texts={form.values}
            set={form.set}
            refused={form.refused}
            autoFocus={i === 0}
            label={
              f === field
                ? `Its ${(f === 'other' ? otherLabel : VARIABLES.find((v) => v.field === f)!.label).toLowerCase()}`
                : undefined
            }
          />
        ))}
        {field === 'grinder' && (
          <p className="quiet small">
            A number means nothing on another dial. Where the kit holds matches, the setting that grinds alike comes
            along; else give the setting it is dialled in at.
          </p>
        )}
        {form.refused?.at('variables') && <p role="alert">{form.refused.at('variables')}</p>}
        <TextInput
          label="Name"
          description="If empty, it is named after what changes."
          value={name}
          maxLength={80}
          onChange={(e) => setName(e.currentTarget.value)}
        />
        <Button type="submit" loading={save.isPending} disabled={!form.values[field].trim()}>
          Add setup
        </Button>
      </form>
    </Modal>
  );
}
