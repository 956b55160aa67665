import { Button, Modal } from '@mantine/core';
import { useState } from 'react';
import { Refused } from '../../api/client';
import { shownAtField } from '../../ui/fields';
import { Penny } from '../../ui/Penny';
import { useSend } from '../../ui/useSend';
import { editSetup, type Setup, type VariablesPatch } from './queries';
import classes from './SetUp.module.css';
import { patchOf, type Texts, textsOf } from './texts';
import { VariableField } from './VariableField';
import { askedWith, newKitOf, sentWith } from './variables';

type EditVariableProps = { field: keyof VariablesPatch; label: string; setups: Setup[]; onClose: () => void };

/** One variable of every setup, side by side. */
export function EditVariable({ field, label, setups, onClose }: EditVariableProps) {
  const [typed, setTyped] = useState<Record<string, Texts>>(() =>
    Object.fromEntries(setups.map((s) => [s.id, textsOf(s.variables)])),
  );
  const [trouble, setTrouble] = useState<{ setup: string; refused: Refused } | null>(null);
  const fields = askedWith(field);
  const save = useSend(
    async () => {
      for (const setup of setups) {
        const before = textsOf(setup.variables);
        if (fields.every((f) => before[f] === typed[setup.id]![f])) continue;
        try {
          await editSetup(setup.id, setup.rev, {
            name: setup.given_name,
            variables: patchOf(typed[setup.id]!, sentWith(field, before.grind_setting, typed[setup.id]!.grind_setting)),
            new_kit: newKitOf(typed[setup.id]!.new_kit),
          });
        } catch (error) {
          if (error instanceof Refused) setTrouble({ setup: setup.id, refused: error });
          throw error;
        }
      }
    },
    { onDone: onClose, onTrouble: shownAtField(() => {}) },
  );
  return (
    <Modal opened onClose={onClose} title={label}>
      <form
        className={classes.copy}
        onSubmit={(e) => {
          e.preventDefault();
          setTrouble(null);
          save.mutate();
        }}
      >
        {setups.map((setup, i) => (
          <div key={setup.id} className={classes.editRow}>
            <Penny stamp={setup.letter} size={34} />
            <div className={classes.editFields}>
              {fields.map((f) => (
                <VariableField
                  key={f}
                  field={f}
                  texts={typed[setup.id]!}
                  set={(name, text) => setTyped((now) => ({ ...now, [setup.id]: { ...now[setup.id]!, [name]: text } }))}
                  refused={trouble?.setup === setup.id ? trouble.refused : null}
                  label={
                    f === 'brewer_type'
                      ? 'Kind of brewer'
                      : f === field
                        ? `${label} of ${setup.letter}`
                        : `Setting of ${setup.letter}, on its own dial`
                  }
                  autoFocus={i === 0 && f === field}
                />
              ))}
            </div>
          </div>
        ))}
        <Button type="submit" loading={save.isPending}>
          Save
        </Button>
      </form>
    </Modal>
  );
}
