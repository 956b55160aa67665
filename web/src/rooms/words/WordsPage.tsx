import { TextInput } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { glossaryQuery, Meaning } from '../../ui/Term';
import { found } from './found';
import classes from './Words.module.css';

/** Every term of the job, each said once. */
export function WordsPage() {
  const [typed, setTyped] = useState('');
  const { data = [] } = useQuery(glossaryQuery);
  const shown = found(data, typed);
  return (
    <main className={classes.page}>
      <h1>Glossary</h1>
      <TextInput
        size="md"
        aria-label="Find a term"
        placeholder="TDS, dial-in, 2-AFC…"
        value={typed}
        onChange={(e) => setTyped(e.currentTarget.value)}
      />
      <ul className={classes.terms}>
        {shown.map((term) => (
          <li key={term.code} id={term.code} className={classes.term}>
            <Meaning term={term} />
            {term.also.length > 0 && <p className="quiet small">also: {term.also.join(', ')}</p>}
          </li>
        ))}
      </ul>
      {!shown.length && data.length > 0 && <p>No term of that name. Try a shorter word.</p>}
    </main>
  );
}
