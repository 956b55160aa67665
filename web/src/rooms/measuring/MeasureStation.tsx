import { Button } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { RatioLadder } from '../../charts/ratioLadder/RatioLadder';
import { StrengthExtraction } from '../../charts/strengthExtraction/StrengthExtraction';
import { Loaded } from '../../ui/Loading';
import { fixed } from '../../ui/numbers';
import { BrewTable } from './BrewTable';
import classes from './Measure.module.css';
import { type Quantity, type Results, resultsQuery, type SetupMeasured } from './queries';
import { ReadingCard } from './ReadingCard';

/** Measure: where each brew stands, what it takes to know it better. */
export function MeasureStation() {
  const { id = '' } = useParams();
  const results = useQuery(resultsQuery(id));
  return (
    <Loaded query={results}>
      {(r) => (r.runs.length ? <Measured trialId={id} results={r} /> : <NothingBrewed trialId={id} />)}
    </Loaded>
  );
}

function NothingBrewed({ trialId }: { trialId: string }) {
  return (
    <div className="card">
      <p>No brew is logged yet, so there is nothing to read.</p>
      <Button mt="sm" component={Link} to={`/trials/${trialId}/brew`}>
        Log a brew
      </Button>
    </div>
  );
}

function Measured({ results }: { trialId: string; results: Results }) {
  const [windows, setWindows] = useState(true);
  const read = results.runs.filter((run) => run.tds).length;
  const ratios = results.setups.map((s) => s.brew_ratio ?? s.planned_ratio);
  return (
    <>
      <header className={classes.head}>
        <div>
          <h1>
            {read === results.runs.length ? 'Every brew is read' : `${read} of ${results.runs.length} brews read`}
          </h1>
          <p className="quiet">
            Shown as {results.school_label}. Lines are brews of equal ratio, for{' '}
            <span className="num">{fixed(results.retained_water_ratio)} g</span> of water kept per gram.
          </p>
        </div>
        {results.windows.length > 0 && (
          <Button variant={windows ? 'light' : 'default'} aria-pressed={windows} onClick={() => setWindows(!windows)}>
            Classic window
          </Button>
        )}
      </header>
      <div className={classes.charts}>
        <section className="card" aria-label="Strength–extraction chart">
          <StrengthExtraction
            height={476}
            points={results.runs.flatMap((run) =>
              run.tds && run.extraction_yield
                ? [{ key: run.id, letter: run.letter, label: run.label, tds: run.tds, ey: run.extraction_yield }]
                : [],
            )}
            lines={results.ratio_lines}
            windows={windows ? results.windows : []}
            eyEnds={[results.ey_axis_pct[0]!, results.ey_axis_pct[1]!]}
            tdsEnds={[results.tds_axis_pct[0]!, results.tds_axis_pct[1]!]}
            schoolLabel={results.school_label}
          />
        </section>
        <div className={classes.right}>
          <section className="card" aria-label="Ratio ladder">
            <RatioLadder
              height={318}
              ratios={ratios}
              panels={[
                { label: 'strength, % TDS', places: 2, rungs: rungs(results.setups, (s) => s.tds) },
                {
                  label: `${results.school_label}, %`,
                  places: 1,
                  rungs: rungs(results.setups, (s) => s.extraction_yield),
                },
              ]}
            />
          </section>
          <ReadingCard runs={results.runs} />
        </div>
      </div>
      <BrewTable runs={results.runs} schoolLabel={results.school_label} />
    </>
  );
}

function rungs(setups: SetupMeasured[], pick: (s: SetupMeasured) => Quantity | null) {
  return setups.flatMap((s) => {
    const q = pick(s);
    return q
      ? [
          {
            letter: s.letter,
            name: s.name,
            ratio: s.brew_ratio ?? s.planned_ratio,
            value: q.value,
            low: q.low,
            high: q.high,
          },
        ]
      : [];
  });
}
