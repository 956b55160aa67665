import { useId, useState } from 'react';
import type { Sheet } from './queries';
import classes from './Sheet.module.css';

/** Words for a cup: a shelf to search beside free text. Kept as one line, comma between. */
export function WordsShelf({
  shelf,
  text,
  onWords,
}: {
  shelf: Sheet['shelf'];
  text: string;
  onWords: (text: string) => void;
}) {
  const id = useId();
  const [typed, setTyped] = useState(text);
  const [search, setSearch] = useState('');
  const words = typed
    .split(',')
    .map((w) => w.trim())
    .filter(Boolean);
  const has = (word: string) => words.some((w) => w.toLowerCase() === word);
  const toggle = (word: string) => {
    const next = (has(word) ? words.filter((w) => w.toLowerCase() !== word) : [...words, word]).join(', ');
    setTyped(next);
    onWords(next);
  };
  const sought = search.trim().toLowerCase();
  const found = shelf
    .map((g) => ({ ...g, words: g.words.filter((w) => !sought || w.includes(sought) || g.group.includes(sought)) }))
    .filter((g) => g.words.length);
  return (
    <div className={classes.words}>
      <label htmlFor={id}>Tasting notes</label>
      <textarea
        id={id}
        rows={2}
        maxLength={500}
        value={typed}
        onChange={(e) => setTyped(e.currentTarget.value)}
        onBlur={() => typed !== text && onWords(typed)}
      />
      <details className={classes.shelf}>
        <summary>Pick words</summary>
        <input
          type="search"
          aria-label="Search the shelf"
          placeholder="lime, nut, tea…"
          value={search}
          onChange={(e) => setSearch(e.currentTarget.value)}
        />
        {found.map((g) => (
          <div key={g.group}>
            <h3>{g.group}</h3>
            <p>
              {g.words.map((w) => (
                <button key={w} type="button" aria-pressed={has(w)} onClick={() => toggle(w)}>
                  {w}
                </button>
              ))}
            </p>
          </div>
        ))}
        {!found.length && <p className="quiet small">Not on the shelf: write it above.</p>}
      </details>
    </div>
  );
}
