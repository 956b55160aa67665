import { Button } from '@mantine/core';
import { shownAtField, useTyped } from '../../ui/fields';
import { Penny } from '../../ui/Penny';
import { useSend } from '../../ui/useSend';
import { addSetup } from './queries';
import classes from './SetUp.module.css';
import { ALL_FIELDS, EMPTY, patchOf, VariableField } from './VariableField';
import { VARIABLES } from './variables';

/** Setup A in full; every other setup is a copy with one thing changed. */
export function FirstSetup({ trialId, factor, otherLabel }: { trialId: string; factor: string; otherLabel: string }) {
  const form = useTyped(EMPTY);
  const save = useSend(
    async () => addSetup(trialId, { name: '', copy_of: null, variables: patchOf(form.texts, ALL_FIELDS) }),
    {
      onTrouble: shownAtField(form.setRefused),
    },
  );
  return (
    <form
      className="card"
      onSubmit={(e) => {
        e.preventDefault();
        save.mutate();
      }}
    >
      <div className={classes.firstHead}>
        <Penny stamp="A" size={52} />
        <div>
          <h2>Describe the first setup</h2>
          <p className="quiet small">
            Dose and brew water are needed. Fill in what you mean to hold equal: what is blank cannot be checked.
          </p>
        </div>
      </div>
      <div className={classes.firstFields}>
        {VARIABLES.filter((v) => v.field !== 'other' || factor === 'other').map((v) => (
          <div key={v.field} style={{ display: 'contents' }}>
            <VariableField
              field={v.field}
              texts={form.texts}
              set={form.set}
              refused={form.refused}
              label={v.field === 'other' ? otherLabel : undefined}
            />
            {v.field === 'brewer' && (
              <VariableField field="brewer_type" texts={form.texts} set={form.set} refused={form.refused} />
            )}
          </div>
        ))}
      </div>
      <Button type="submit" size="md" loading={save.isPending}>
        Strike penny A
      </Button>
    </form>
  );
}
