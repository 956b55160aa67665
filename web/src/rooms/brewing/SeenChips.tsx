import { Chip } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { instrumentsQuery } from '../measuring/queries';
import classes from './Brew.module.css';
import type { Observed } from './seen';

/** What the bed and the cup looked like and what went wrong: one touch each. */
export function SeenChips({ seen, onChange }: { seen: Observed; onChange: (seen: Observed) => void }) {
  const { data } = useQuery(instrumentsQuery);
  if (!data) return null;
  const chips = (choices: { code: string; label: string }[]) =>
    choices.map((c) => (
      <Chip key={c.code} value={c.code} size="sm">
        {c.label}
      </Chip>
    ));
  return (
    <div className={classes.seen}>
      <div className={classes.seenRow}>
        <span id="seen-bed">Bed</span>
        <Chip.Group multiple value={seen.bed} onChange={(bed) => onChange({ ...seen, bed: bed as Observed['bed'] })}>
          {chips(data.bed)}
        </Chip.Group>
      </div>
      <div className={classes.seenRow}>
        <span>Cup</span>
        <Chip.Group
          multiple
          value={seen.clouding ? [seen.clouding] : []}
          onChange={(is) => onChange({ ...seen, clouding: (is.at(-1) ?? null) as Observed['clouding'] })}
        >
          {chips(data.clouding)}
        </Chip.Group>
        <Chip size="sm" checked={seen.sediment_left} onChange={(sediment_left) => onChange({ ...seen, sediment_left })}>
          sediment left behind
        </Chip>
      </div>
      <div className={classes.seenRow}>
        <span>Mishaps</span>
        <Chip.Group
          multiple
          value={seen.mishaps}
          onChange={(mishaps) => onChange({ ...seen, mishaps: mishaps as Observed['mishaps'] })}
        >
          {chips(data.mishaps)}
        </Chip.Group>
      </div>
    </div>
  );
}
