import { Popover, UnstyledButton } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { type ReactNode, useState } from 'react';
import { Link } from 'react-router';
import type { GLOSSARY } from '../api/glossary';
import classes from './Term.module.css';

export type TermCode = (typeof GLOSSARY)[number]['code'];
export const glossaryQuery = {
  queryKey: ['glossary'],
  queryFn: async () => (await import('../api/glossary')).GLOSSARY,
  staleTime: Number.POSITIVE_INFINITY,
};

/** A term of the job: a press opens what it means, with its formula and unit. */
export function Term({ of, children }: { of: TermCode; children: ReactNode }) {
  const [opened, setOpened] = useState(false);
  const { data } = useQuery({ ...glossaryQuery, enabled: opened });
  const term = data?.find((t) => t.code === of);
  return (
    <Popover width={320} opened={opened} onChange={setOpened} position="bottom-start">
      <Popover.Target>
        <UnstyledButton
          component="span"
          className={classes.term}
          role="button"
          tabIndex={0}
          aria-expanded={opened}
          onClick={() => setOpened(!opened)}
          onKeyDown={(e: React.KeyboardEvent) => {
            if (e.key !== 'Enter' && e.key !== ' ') return;
            e.preventDefault();
            setOpened(!opened);
          }}
        >
          {children}
        </UnstyledButton>
      </Popover.Target>
      <Popover.Dropdown>
        {term && (
          <div className={classes.meaning}>
            <Meaning term={term} />
            <Link to={`/words#${of}`}>All terms</Link>
          </div>
        )}
      </Popover.Dropdown>
    </Popover>
  );
}

/** What a term means, as it is said everywhere. */
export function Meaning({ term }: { term: (typeof GLOSSARY)[number] }) {
  return (
    <>
      <b>{term.label}</b>
      <p>{term.meaning}</p>
      {term.formula && <p className="num">{term.formula}</p>}
      {term.unit && <p className="quiet small">in {term.unit}</p>}
    </>
  );
}
