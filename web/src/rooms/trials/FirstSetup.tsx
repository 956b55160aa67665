import { Button } from '@mantine/core';
import { useState } from 'react';
import { shownAtField, useTyped } from '../../ui/fields';
import { Penny } from '../../ui/Penny';
import { useSend } from '../../ui/useSend';
import { RecipePicker } from '../recipes/RecipePicker';
import { addSetup } from './queries';
import classes from './SetUp.module.css';
import { ALL_FIELDS, EMPTY, patchOf, type Texts, VariableField } from './VariableField';
import { newKitOf, VARIABLES } from './variables';

/** With a recipe only what was typed is sent, so that the rest stays the recipe's. */
function given(texts: Texts, byRecipe: boolean) {
  return patchOf(texts, byRecipe ? ALL_FIELDS.filter((f) => texts[f].trim() !== '') : ALL_FIELDS);
}

/** Setup A in full; every other setup is a copy with one thing changed. */
export function FirstSetup({ trialId, factor, otherLabel }: { trialId: string; factor: string; otherLabel: string }) {
  const form = useTyped(EMPTY);
  const [recipe, setRecipe] = useState('');
  const save = useSend(
    async () =>
      addSetup(trialId, {
        name: '',
        copy_of: null,
        recipe_version_id: recipe || null,
        variables: given(form.texts, recipe !== ''),
        new_kit: newKitOf(form.texts.new_kit),
      }),
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
            A recipe brings dose, water, temperature and pours along; without one, dose and brew water are needed. What
            is blank cannot be checked.
          </p>
        </div>
      </div>
      <div className={classes.firstFields}>
        <RecipePicker label="Recipe" value={recipe} onChange={setRecipe} error={form.refused?.at('version_id')} />
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
        Add setup A
      </Button>
    </form>
  );
}
