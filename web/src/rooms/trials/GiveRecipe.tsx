import { Button, Modal } from '@mantine/core';
import { useState } from 'react';
import { shownAtField, useTyped } from '../../ui/fields';
import { useSend } from '../../ui/useSend';
import { RecipePicker } from '../recipes/RecipePicker';
import { editSetup, type Setup } from './queries';
import classes from './SetUp.module.css';

/** One recipe for every setup: dose, water, temperature and pours become the recipe's. */
export function GiveRecipe({ setups, onClose }: { setups: Setup[]; onClose: () => void }) {
  const [versionId, setVersionId] = useState('');
  const form = useTyped({});
  const save = useSend(
    async () => {
      for (const s of setups) {
        if (s.recipe?.version_id !== versionId) await editSetup(s.id, s.rev, { recipe_version_id: versionId });
      }
    },
    { onDone: onClose, onTrouble: shownAtField(form.setRefused) },
  );
  return (
    <Modal opened onClose={onClose} title="A recipe for every setup">
      <form
        className={classes.copy}
        onSubmit={(e) => {
          e.preventDefault();
          save.mutate();
        }}
      >
        <RecipePicker label="Recipe" value={versionId} onChange={setVersionId} error={form.refused?.message} />
        <p className="quiet small">
          Its dose, water, bypass, temperature and pours take the place of those typed. Brews logged before keep the
          setup they were made with.
        </p>
        <Button type="submit" loading={save.isPending} disabled={!versionId}>
          Brew to this recipe
        </Button>
      </form>
    </Modal>
  );
}
