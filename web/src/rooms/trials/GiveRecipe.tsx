import { Button, Chip, Modal } from '@mantine/core';
import { useState } from 'react';
import { shownAtField, useForm } from '../../ui/fields';
import { useSend } from '../../ui/useSend';
import { RecipePicker } from '../recipes/RecipePicker';
import { editSetup, type Setup } from './queries';
import classes from './SetUp.module.css';

/** A recipe version for some setups or all: dose, water, temperature and pours become the recipe's. Each setup has its own, so that pour plans can be compared. */
export function GiveRecipe({ setups, onClose }: { setups: Setup[]; onClose: () => void }) {
  const [versionId, setVersionId] = useState('');
  const [letters, setLetters] = useState(() => setups.map((s) => s.letter));
  const form = useForm<Record<string, string>>({});
  const save = useSend(
    async () => {
      for (const s of setups.filter((x) => letters.includes(x.letter))) {
        if (s.recipe?.version_id !== versionId) await editSetup(s.id, s.rev, { recipe_version_id: versionId });
      }
    },
    { onDone: onClose, onTrouble: shownAtField(form.setRefused) },
  );
  return (
    <Modal opened onClose={onClose} title="Apply a recipe">
      <form
        className={classes.copy}
        onSubmit={(e) => {
          e.preventDefault();
          save.mutate();
        }}
      >
        <RecipePicker label="Recipe" value={versionId} onChange={setVersionId} error={form.refused?.message} />
        <Chip.Group multiple value={letters} onChange={setLetters}>
          <div className={classes.forSetups} role="group" aria-label="Setups that brew to it">
            {setups.map((s) => (
              <Chip key={s.letter} value={s.letter} size="sm">
                {s.letter} {s.name}
              </Chip>
            ))}
          </div>
        </Chip.Group>
        <p className="quiet small">
          Its dose, water, bypass, temperature and pours take the place of those typed. Brews logged before keep the
          setup they were made with.
        </p>
        <Button type="submit" loading={save.isPending} disabled={!versionId || letters.length === 0}>
          Brew to this recipe
        </Button>
      </form>
    </Modal>
  );
}
