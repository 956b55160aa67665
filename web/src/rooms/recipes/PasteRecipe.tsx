import { Button, Textarea } from '@mantine/core';
import { useDebouncedValue } from '@mantine/hooks';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { messageOf } from '../../ui/tell';
import { type ReadText, type RecipeDocument, readText } from './queries';
import classes from './Recipes.module.css';

const HINT = '18 g, 288 g at 93, bloom 45 for 40 s, then to 170, then to 288 by 1:50, done by 2:45';
const READ_AFTER_MS = 250;

/** A recipe pasted as text, read while it is typed: what was understood, and what was not. */
export function PasteRecipe({ onRead }: { onRead: (document: RecipeDocument) => void }) {
  const [text, setText] = useState('');
  const [settled] = useDebouncedValue(text, READ_AFTER_MS);
  const read = useQuery({
    queryKey: ['recipe-parse', settled],
    queryFn: () => readText(settled),
    enabled: settled.trim() !== '',
  });
  const found = settled === text ? read.data : undefined;
  return (
    <section className="card" aria-labelledby="paste">
      <h2 id="paste">Paste a recipe</h2>
      <Textarea
        aria-label="A recipe in words"
        placeholder={HINT}
        autosize
        minRows={4}
        maxRows={12}
        value={text}
        onChange={(e) => setText(e.currentTarget.value)}
        error={read.error ? messageOf(read.error) : undefined}
        autoFocus
      />
      {!text.trim() && (
        <Button mt="xs" size="compact-sm" variant="subtle" onClick={() => setText(HINT)}>
          Try this one
        </Button>
      )}
      {text.trim() && read.data && <Understood text={settled} read={read.data} />}
      {found && (
        <Button mt="md" onClick={() => onRead(found.document)} disabled={!found.understood.length}>
          {found.not_understood.length ? 'Go on with what was understood' : 'Go on'}
        </Button>
      )}
    </section>
  );
}

/** The text itself, marked: each stretch with how it was taken. */
function Understood({ text, read }: { text: string; read: ReadText }) {
  const spans = [
    ...read.understood.map((s) => ({ ...s, ok: true })),
    ...read.not_understood.map((s) => ({ ...s, ok: false })),
  ].sort((a, b) => a.start - b.start);
  const shown = spans.slice(0, MOST_SHOWN);
  return (
    <div className={classes.understood}>
      <p className="small quiet" role="status">
        {read.not_understood.length === 0
          ? `All understood: ${read.document.steps?.length ?? 0} steps.`
          : `Not understood: ${read.not_understood
              .slice(0, 5)
              .map((s) => `“${s.text.slice(0, 40)}”`)
              .join(', ')}.`}
      </p>
      <ol>
        {shown.map((s) => (
          <li key={`${s.start}`} data-ok={s.ok}>
            <span className={classes.said}>{text.slice(s.start, s.end).slice(0, 80)}</span>
            <span>{s.ok ? s.meaning : s.meaning || 'not understood'}</span>
          </li>
        ))}
      </ol>
      {spans.length > MOST_SHOWN && <p className="small quiet">and {spans.length - MOST_SHOWN} more</p>}
    </div>
  );
}

const MOST_SHOWN = 60;
