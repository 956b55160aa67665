import { Button, TextInput } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { shownAtField, useForm } from '../../ui/fields';
import { useSend } from '../../ui/useSend';
import { tidyDocument } from './edits';
import { PasteRecipe } from './PasteRecipe';
import { addRecipe, type RecipeDocument, startersQuery } from './queries';
import { RecipeEditor } from './RecipeEditor';
import classes from './Recipes.module.css';
import { ScaleRecipe } from './ScaleRecipe';
import { useDocument } from './useDocument';

const EMPTY: RecipeDocument = { steps: [{ kind: 'bloom' }, { kind: 'pour' }] };

/** A new recipe: pasted as text, begun from a starter, or written from nothing. */
export function NewRecipePage() {
  const [begun, setBegun] = useState<{ name: string; document: RecipeDocument } | null>(null);
  return begun ? (
    <Writing name={begun.name} start={begun.document} />
  ) : (
    <Beginning onBegin={(name, document) => setBegun({ name, document: tidyDocument(document) })} />
  );
}

function Beginning({ onBegin }: { onBegin: (name: string, document: RecipeDocument) => void }) {
  const { data } = useQuery(startersQuery);
  return (
    <main className={classes.page}>
      <header className={classes.head}>
        <h1>A new recipe</h1>
        <Button variant="default" onClick={() => onBegin('', EMPTY)}>
          Write it step by step
        </Button>
      </header>
      <div className={classes.beginning}>
        <PasteRecipe onRead={(document) => onBegin('', document)} />
        <section aria-labelledby="starters">
          <h2 id="starters">Or begin from one of these</h2>
          <ul className={classes.starters}>
            {data?.starters.map((s) => (
              <li key={s.code}>
                <button type="button" onClick={() => onBegin(s.name, s.document)}>
                  <b>{s.name}</b>
                  <span className="quiet small">{s.about}</span>
                </button>
              </li>
            ))}
          </ul>
        </section>
      </div>
    </main>
  );
}

function Writing({ name, start }: { name: string; start: RecipeDocument }) {
  const navigate = useNavigate();
  const { doc, set, undo } = useDocument(start);
  const [scaling, setScaling] = useState(false);
  const form = useForm({ name });
  const save = useSend(() => addRecipe(form.values.name, doc, ''), {
    onDone: (saved) => navigate(`/recipes/${saved.id}`, { replace: true }),
    onTrouble: shownAtField(form.setRefused),
  });
  return (
    <main className={classes.page}>
      <RecipeEditor
        doc={doc}
        set={set}
        undo={undo}
        head={() => (
          <header className={classes.head}>
            <h1>A new recipe</h1>
            <div className={classes.headActions}>
              <Button variant="default" onClick={() => setScaling(true)}>
                Scale
              </Button>
            </div>
          </header>
        )}
        aside={(checked) => (
          <form
            className={classes.save}
            onSubmit={(e) => {
              e.preventDefault();
              save.mutate();
            }}
          >
            <TextInput
              label="Name"
              placeholder="Long watch, three pours"
              maxLength={120}
              value={form.values.name}
              onChange={(e) => form.set('name', e.currentTarget.value)}
              error={form.refused?.at('name')}
            />
            <Button type="submit" fullWidth loading={save.isPending} disabled={!form.values.name.trim()}>
              {checked?.draft ? 'Keep as a draft' : 'Keep the recipe'}
            </Button>
          </form>
        )}
      />
      {scaling && <ScaleRecipe doc={doc} onScaled={set} onClose={() => setScaling(false)} />}
    </main>
  );
}
