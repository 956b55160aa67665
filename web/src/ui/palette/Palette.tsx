import { Modal, TextInput } from '@mantine/core';
import { useDebouncedValue } from '@mantine/hooks';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { stationPath } from '../../rooms/progress/queries';
import { type Entry, matching, stepped } from './matching';
import classes from './Palette.module.css';
import { type Found, findQuery } from './queries';

const ASK_AFTER_MS = 120;

/** One field that jumps to any trial, recipe, piece of kit, person, page or action. */
export default function Palette({ entries, onClose }: { entries: Entry[]; onClose: () => void }) {
  const [typed, setTyped] = useState('');
  const [at, setAt] = useState(0);
  const [steady] = useDebouncedValue(typed, ASK_AFTER_MS);
  const { data = [] } = useQuery(findQuery(steady));
  const navigate = useNavigate();
  const chosen = useRef<HTMLDivElement>(null);
  const named: Entry[] = data.map((f) => ({ key: f.id, label: f.label, hint: f.hint, run: () => navigate(pathOf(f)) }));
  const shown = [...(typed ? matching(entries, typed) : entries), ...named];
  const here = shown[Math.min(at, shown.length - 1)];
  // biome-ignore lint/correctness/useExhaustiveDependencies: whenever another one is chosen
  useEffect(() => {
    chosen.current?.scrollIntoView({ block: 'nearest' }); // a browser may hand back a promise: it is no clean-up
  }, [here?.key]);
  const go = (entry: Entry | undefined) => {
    if (!entry) return;
    onClose();
    entry.run();
  };
  return (
    <Modal
      opened
      onClose={onClose}
      withCloseButton={false}
      centered={false}
      size="lg"
      padding={0}
      attributes={{ content: { 'aria-label': 'Find' } }}
    >
      <TextInput
        size="lg"
        variant="unstyled"
        className={classes.field}
        placeholder="Find a trial, recipe, kit, person, page or action"
        aria-label="Find"
        role="combobox"
        aria-expanded
        aria-controls="palette-list"
        aria-activedescendant={here ? `palette-${here.key}` : undefined}
        autoComplete="off"
        data-autofocus
        value={typed}
        onChange={(e) => {
          setTyped(e.currentTarget.value);
          setAt(0);
        }}
        onKeyDown={(e) => {
          const by = { ArrowDown: 1, ArrowUp: -1 }[e.key];
          if (by) {
            e.preventDefault();
            setAt(stepped(Math.min(at, shown.length - 1), by, shown.length));
          } else if (e.key === 'Enter') {
            e.preventDefault();
            go(here);
          }
        }}
      />
      <div className={classes.list} id="palette-list" role="listbox" aria-label="Found">
        {shown.map((entry) => (
          // biome-ignore lint/a11y/useKeyWithClickEvents: keys are the field's
          <div
            key={entry.key}
            id={`palette-${entry.key}`}
            ref={entry === here ? chosen : undefined}
            role="option"
            aria-selected={entry === here}
            tabIndex={-1}
            className={classes.entry}
            onClick={() => go(entry)}
          >
            <span className={classes.label}>{entry.label}</span>
            <span className="quiet small">{entry.hint}</span>
            {entry.keys && <kbd className={classes.keys}>{entry.keys}</kbd>}
          </div>
        ))}
        {!shown.length && <p className={classes.none}>Nothing is called that.</p>}
      </div>
    </Modal>
  );
}

function pathOf(f: Found): string {
  switch (f.kind) {
    case 'trial':
      return `/trials/${f.id}/${stationPath(f.station as Parameters<typeof stationPath>[0])}`;
    case 'recipe':
      return `/recipes/${f.id}`;
    case 'kit':
      return `/kit/${f.kit === 'burr_set' ? 'grinder' : f.kit}/${f.id}`;
    case 'person':
      return '/people';
  }
}
