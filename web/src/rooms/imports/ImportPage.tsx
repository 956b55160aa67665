import { SegmentedControl } from '@mantine/core';
import { useSearchParams } from 'react-router';
import { BrewTable } from './BrewTable';
import classes from './Import.module.css';
import { ScoreTable } from './ScoreTable';

/** Somebody's own spreadsheet, of brews or of a panel's scores. */
export function ImportPage() {
  const [asked, setAsked] = useSearchParams();
  const scores = asked.get('of') === 'scores';
  return (
    <main className={classes.page}>
      <header className={classes.head}>
        <h1>Import a spreadsheet of {scores ? 'scores' : 'brews'}</h1>
        <SegmentedControl
          aria-label="What the spreadsheet holds"
          data={[
            { value: 'brews', label: 'Brews' },
            { value: 'scores', label: 'Scores' },
          ]}
          value={scores ? 'scores' : 'brews'}
          onChange={(v) => setAsked(v === 'scores' ? { of: 'scores' } : {}, { replace: true })}
        />
      </header>
      {scores ? <ScoreTable /> : <BrewTable />}
    </main>
  );
}
