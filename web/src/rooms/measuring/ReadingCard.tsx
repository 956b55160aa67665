import { Button, Select } from '@mantine/core';
import { useState } from 'react';
import { Refused } from '../../api/client';
import { NumberField, numberOf } from '../../ui/fields';
import { fixed, ratio } from '../../ui/numbers';
import { Penny } from '../../ui/Penny';
import { useSend } from '../../ui/useSend';
import { logReading } from '../brewing/queries';
import classes from './Measure.module.css';
import type { RunMeasured } from './queries';

const WANTED = 3;

/** The next brew that wants readings, one sample at a time. */
export function ReadingCard({ runs }: { runs: RunMeasured[] }) {
  const [chosen, setChosen] = useState<string | null>(null);
  const run =
    runs.find((r) => r.id === chosen) ?? runs.find((r) => r.readings.length < WANTED) ?? runs[runs.length - 1]!;
  const [text, setText] = useState('');
  const [trouble, setTrouble] = useState<string>();
  const log = useSend(async () => logReading(run.id, numberOf('tds_pct', text) ?? Number.NaN), {
    onDone: () => {
      setText('');
      setChosen(run.readings.length + 1 < WANTED ? run.id : null);
    },
    onTrouble: (error) => {
      setTrouble(error instanceof Refused ? (error.at('tds_pct') ?? error.message) : undefined);
      return error instanceof Refused && error.status === 422;
    },
  });
  return (
    <form
      className={`card ${classes.reading}`}
      onSubmit={(e) => {
        e.preventDefault();
        log.mutate();
      }}
    >
      <div className={classes.readingHead}>
        <Penny stamp={run.letter} size={30} />
        <h2>
          Brew {run.label} · <span className="num">{ratio(run.brew_ratio)}</span>
        </h2>
        <Select
          aria-label="Brew to read"
          className={classes.which}
          value={run.id}
          allowDeselect={false}
          onChange={setChosen}
          data={runs.map((r) => ({ value: r.id, label: `${r.label} · ${r.readings.length} read` }))}
        />
      </div>
      <div className={classes.readingRow}>
        {run.readings.slice(-WANTED + 1).map((r) => (
          <span key={r.id} className={`num ${classes.taken}`}>
            {fixed(r.tds_pct)}
          </span>
        ))}
        <NumberField
          aria-label={`Reading ${run.readings.length + 1} of brew ${run.label}, % TDS`}
          unit="% TDS"
          value={text}
          onText={(typed) => {
            setText(typed);
            setTrouble(undefined);
          }}
          className={classes.typing}
          size="md"
        />
        <Button type="submit" size="md" loading={log.isPending} disabled={!text.trim()}>
          Log
        </Button>
      </div>
      {trouble && (
        <p role="alert" className={classes.trouble}>
          {trouble}
        </p>
      )}
      <p className="quiet small">
        {run.extraction_yield ? (
          <>
            So far <b className="num">{fixed(run.extraction_yield.value, 1)}</b>{' '}
            <span className="num">± {fixed(run.extraction_yield.half_width, 1)} %</span> yield.{' '}
          </>
        ) : null}
        {run.readings.length < WANTED
          ? `Reading ${run.readings.length + 1} of ${WANTED}: stir, fresh sample, let it cool, wipe.`
          : 'Three readings are in; more are welcome.'}
      </p>
    </form>
  );
}
