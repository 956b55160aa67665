import { Button, Textarea } from '@mantine/core';
import { useEffect, useState } from 'react';
import { Link, useLocation } from 'react-router';
import { Refused } from '../../api/client';
import { ChooseFile } from '../../ui/ChooseFile';
import { plural } from '../../ui/numbers';
import { tellDone } from '../../ui/tell';
import { useLook } from '../../ui/useLook';
import { useSend } from '../../ui/useSend';
import classes from './Handed.module.css';
import { importRecipes, lookAtHanded } from './queries';

/** Recipes that somebody handed on: shown first, kept at a press. */
export function HandedPage() {
  const { hash } = useLocation();
  const [text, setText] = useState('');
  const look = useLook(lookAtHanded);
  const { ask } = look;
  useEffect(() => {
    if (!hash.startsWith('#r=')) return;
    setText(hash);
    ask(hash);
  }, [hash, ask]);
  const keep = useSend(() => importRecipes(text), {
    onDone: (done) => {
      const fresh = done.recipes.filter((r) => !r.here).length;
      tellDone(fresh ? `${plural(fresh, 'recipe')} kept.` : 'All of them are already on this bench.');
      ask(text);
    },
  });
  const read = (next: string) => {
    setText(next);
    look.forget();
    if (next.trim()) ask(next);
  };
  const fresh = look.read?.recipes.filter((r) => !r.here).length ?? 0;
  return (
    <main className={classes.page}>
      <h1>Shared recipes</h1>
      <section className={`card ${classes.from}`} aria-label="Where they come from">
        <ChooseFile accept=".json,application/json" onFile={async (file) => read(await file.text())}>
          {(props) => (
            <Button {...props} variant="default">
              Choose a file
            </Button>
          )}
        </ChooseFile>
        <Textarea
          className={classes.paste}
          aria-label="A recipe’s link"
          placeholder="or paste a recipe’s link"
          autosize
          minRows={1}
          maxRows={4}
          value={text.length > 2000 ? '' : text}
          onChange={(e) => read(e.currentTarget.value)}
          error={look.error instanceof Refused ? look.error.message : undefined}
        />
      </section>
      {look.read && (
        <>
          <ul className={classes.list}>
            {look.read.recipes.map((r) => (
              <li key={r.name + r.text} className="card">
                <h2>{r.name}</h2>
                <p>{r.text}</p>
                {r.here && <p className="quiet small">Already on this bench.</p>}
              </li>
            ))}
          </ul>
          <div className={classes.go}>
            <Button size="md" disabled={!fresh} loading={keep.isPending} onClick={() => keep.mutate()}>
              {fresh ? `Keep ${plural(fresh, 'recipe')}` : 'All of it is already on this bench'}
            </Button>
            <Button size="md" variant="subtle" component={Link} to="/recipes">
              To the recipes
            </Button>
          </div>
        </>
      )}
    </main>
  );
}
