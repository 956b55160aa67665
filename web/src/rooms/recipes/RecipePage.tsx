import { Button, Menu, TextInput } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { Confirm } from '../../ui/Confirm';
import { Loaded } from '../../ui/Loading';
import { tellDone, useTellDeleted } from '../../ui/tell';
import { useTitle } from '../../ui/title';
import { useSend } from '../../ui/useSend';
import { tidyDocument } from './edits';
import { HandOn } from './HandOn';
import { addVersion, diffQuery, type Recipe, recipeQuery, removeRecipe, renameRecipe } from './queries';
import { RecipeEditor } from './RecipeEditor';
import classes from './Recipes.module.css';
import { ScaleRecipe } from './ScaleRecipe';
import { useDocument } from './useDocument';
import { Versions } from './Versions';

/** One recipe: written, checked, saved as the next version. */
export function RecipePage() {
  const { id = '' } = useParams();
  const recipe = useQuery(recipeQuery(id));
  useTitle(recipe.data?.name);
  return <Loaded query={recipe}>{(r) => <Writing key={r.id} recipe={r} />}</Loaded>;
}

function Writing({ recipe }: { recipe: Recipe }) {
  const { doc, set, undo, restart } = useDocument(tidyDocument(recipe.document));
  const [opened, setOpened] = useState(recipe.version);
  const [base, setBase] = useState(() => tidyDocument(recipe.document));
  const [scaling, setScaling] = useState(false);
  const [note, setNote] = useState('');
  const changed = JSON.stringify(doc) !== JSON.stringify(base);
  const { data: diff } = useQuery({ ...diffQuery(base, doc), enabled: changed });
  useLeaving(changed);

  const open = (version: number, document: Recipe['document']) => {
    restart(tidyDocument(document));
    setBase(tidyDocument(document));
    setOpened(version);
  };
  const save = useSend(() => addVersion(recipe.id, recipe.rev, doc, note), {
    onDone: (saved) => {
      open(saved.version, saved.document);
      setNote('');
      tellDone(
        saved.version === recipe.version
          ? 'Nothing differs from the newest version.'
          : `Version ${saved.version} is kept.`,
      );
    },
  });
  const next = recipe.versions.length + 1;
  const differs = changed || opened !== recipe.version;
  return (
    <main className={classes.page}>
      <RecipeEditor
        doc={doc}
        set={set}
        undo={undo}
        head={() => <Head recipe={recipe} opened={opened} onScale={() => setScaling(true)} />}
        aside={(checked) => (
          <section className={classes.save}>
            <p>
              {differs ? (
                <>
                  <b>Not kept yet</b>
                  {changed && diff && <span className={classes.diffLine}>{diff.headline}</span>}
                </>
              ) : (
                <>
                  <b>Version {opened}</b> <span className="quiet">is kept.</span>
                </>
              )}
            </p>
            {differs && (
              <>
                <TextInput
                  size="xs"
                  aria-label="Why it changed"
                  placeholder="Why? (may be left empty)"
                  maxLength={200}
                  value={note}
                  onChange={(e) => setNote(e.currentTarget.value)}
                />
                <Button fullWidth loading={save.isPending} onClick={() => save.mutate()}>
                  {checked?.draft ? `Keep version ${next} as a draft` : `Keep as version ${next}`}
                </Button>
              </>
            )}
            <Versions recipe={recipe} opened={opened} onOpen={open} />
          </section>
        )}
      />
      {scaling && <ScaleRecipe doc={doc} onScaled={set} onClose={() => setScaling(false)} />}
    </main>
  );
}

function Head({ recipe, opened, onScale }: { recipe: Recipe; opened: number; onScale: () => void }) {
  const [naming, setNaming] = useState(false);
  const [handing, setHanding] = useState(false);
  const [name, setName] = useState(recipe.name);
  const navigate = useNavigate();
  const tellDeleted = useTellDeleted();
  const newest = recipe.versions[0]!;
  const rename = useSend(() => renameRecipe(recipe.id, recipe.rev, name), { onDone: () => setNaming(false) });
  const remove = useSend(() => removeRecipe(recipe.id), {
    onDone: (done) => {
      tellDeleted(recipe.name, done.change_id);
      navigate('/recipes');
    },
  });
  return (
    <header className={classes.head}>
      {naming ? (
        <form
          className={classes.naming}
          onSubmit={(e) => {
            e.preventDefault();
            rename.mutate();
          }}
        >
          <TextInput
            aria-label="Name"
            value={name}
            maxLength={120}
            data-autofocus
            onChange={(e) => setName(e.currentTarget.value)}
            autoFocus
          />
          <Button type="submit" loading={rename.isPending} disabled={!name.trim()}>
            Save the name
          </Button>
        </form>
      ) : (
        <h1>
          {recipe.name} <span className="quiet">version {opened}</span>
        </h1>
      )}
      <div className={classes.headActions}>
        <Button variant="default" component={Link} to={`/recipes/${recipe.id}/card?version=${opened}`}>
          Recipe card
        </Button>
        {newest.errors === 0 && (
          <Button variant="default" component={Link} to={`/brew?recipe=${newest.id}`}>
            Brew it
          </Button>
        )}
        <Button variant="default" onClick={onScale}>
          Scale
        </Button>
        <Confirm
          question={`Delete ${recipe.name}?`}
          detail="Setups made from it keep their steps. It can be undone."
          verb="Delete the recipe"
          onYes={() => remove.mutate()}
        >
          {(ask) => (
            <Menu>
              <Menu.Target>
                <Button variant="default">More</Button>
              </Menu.Target>
              <Menu.Dropdown>
                <Menu.Item onClick={() => setNaming(true)}>Rename</Menu.Item>
                <Menu.Item onClick={() => setHanding(true)}>Share</Menu.Item>
                <Menu.Item component={Link} to={`/recipes/compare?ids=${recipe.id}`}>
                  Compare with another
                </Menu.Item>
                <Menu.Item color="red" onClick={ask}>
                  Delete
                </Menu.Item>
              </Menu.Dropdown>
            </Menu>
          )}
        </Confirm>
        {handing && <HandOn recipe={recipe} onClose={() => setHanding(false)} />}
      </div>
    </header>
  );
}

/** The browser asks before a page with unkept changes is closed. */
function useLeaving(changed: boolean) {
  useEffect(() => {
    if (!changed) return;
    const ask = (event: BeforeUnloadEvent) => event.preventDefault();
    window.addEventListener('beforeunload', ask);
    return () => window.removeEventListener('beforeunload', ask);
  }, [changed]);
}
