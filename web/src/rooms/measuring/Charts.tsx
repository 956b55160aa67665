import { Button, Select } from '@mantine/core';
import { useDebouncedValue, useLocalStorage } from '@mantine/hooks';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { ChartCard, OverlayPicker } from '../../charts/ChartCard';
import type { Column } from '../../charts/csv';
import { RatioLadder } from '../../charts/ratioLadder/RatioLadder';
import type { Wish } from '../../charts/strengthExtraction/Ghost';
import { endsAround, type View } from '../../charts/strengthExtraction/geometry';
import {
  type ChartMean,
  type ChartPoint,
  StrengthExtraction,
} from '../../charts/strengthExtraction/StrengthExtraction';
import { fixed } from '../../ui/numbers';
import { Penny } from '../../ui/Penny';
import { type Judged, verdictQuery } from '../verdicts/queries';
import classes from './Measure.module.css';
import { aimQuery, type Quantity, type Results, type RunMeasured, type SetupMeasured } from './queries';
import { ReadingCard } from './ReadingCard';

/** Which overlays are drawn, kept on this device. */
export const useOverlays = () => useLocalStorage<string[]>({ key: 'penny-overlays', defaultValue: [] });

/** The two charts of a trial, and the next reading beside them. */
export function Charts({ trialId, results }: { trialId: string; results: Results }) {
  const [on, setOn] = useOverlays();
  const [wish, setWish] = useState<Wish | null>(null);
  const placed = results.runs.filter((r) => r.tds && r.extraction_yield);
  const whole: View = {
    ey: [results.ey_axis_pct[0]!, results.ey_axis_pct[1]!],
    tds: [results.tds_axis_pct[0]!, results.tds_axis_pct[1]!],
  };
  // Somebody's window has to be seen whole; without one the brews themselves fill the chart.
  const ends = on.length || wish ? whole : endsAround(placed.map(pointOf), whole);
  const { data: verdict } = useQuery(verdictQuery(trialId));
  const liking = verdict?.blind?.setups ?? [];
  const ratioOf = new Map(results.setups.map((s) => [s.letter, s.brew_ratio ?? s.planned_ratio]));
  return (
    <div className={classes.charts}>
      <ChartCard
        label="Strength and yield"
        name="strength-extraction"
        table={{ rows: placed, columns: COLUMNS }}
        notes={[
          results.yield_basis_label,
          ...[...results.windows, ...results.overlays]
            .filter((o) => on.includes(o.code))
            .map((o) => `${o.label}: ${o.about}`),
        ]}
        controls={
          <>
            <OverlayPicker choices={[...results.windows, ...results.overlays]} on={on} onChange={setOn} />
            {placed.length > 0 && (
              <Button
                size="compact-sm"
                variant={wish ? 'light' : 'default'}
                aria-pressed={wish !== null}
                aria-label="Target cup"
                title="Drag a cup to where you want it, and read what leads there"
                onClick={() => setWish(wish ? null : wishNear(placed[placed.length - 1]!, results))}
              >
                Target cup
              </Button>
            )}
          </>
        }
      >
        <StrengthExtraction
          height={452}
          points={placed.map(pointOf)}
          means={results.setups.flatMap(meanOf)}
          lines={results.ratio_lines}
          windows={results.windows.filter((w) => on.includes(w.code))}
          overlays={results.overlays.filter((o) => on.includes(o.code))}
          eyEnds={ends.ey}
          tdsEnds={ends.tds}
          yieldBasisLabel={results.yield_basis_label}
          wish={wish}
          onWish={setWish}
        />
        {wish && <AimCard runs={placed} wish={wish} />}
      </ChartCard>
      <div className={classes.right}>
        <ChartCard label="Ratio ladder" name="ratio-ladder" table={{ rows: results.setups, columns: LADDER_COLUMNS }}>
          <RatioLadder
            height={liking.length ? 380 : 290}
            ratios={[...ratioOf.values()]}
            panels={[
              {
                label: 'strength, % TDS',
                places: 2,
                rungs: rungs(results.setups, (s) => s.tds),
                fitted: results.tds_ladder,
              },
              {
                label: `${results.yield_basis_label}, %`,
                places: 1,
                rungs: rungs(results.setups, (s) => s.extraction_yield),
                fitted: results.ey_ladder,
              },
              ...(liking.length
                ? [
                    {
                      label: 'liked blind, 1 to 9',
                      places: 1,
                      rungs: liking.flatMap((s) => likedRung(s, ratioOf.get(s.setup)) ?? []),
                    },
                  ]
                : []),
            ]}
          />
        </ChartCard>
        <ReadingCard runs={results.runs} />
      </div>
    </div>
  );
}

const pointOf = (run: RunMeasured): ChartPoint => ({
  key: run.id,
  letter: run.letter,
  label: run.label,
  tds: run.tds!,
  ey: run.extraction_yield!,
  more: run.off_plan.length ? `Off plan: ${run.off_plan.join(', ')}.` : '',
});

/** Where a setup stands by all its brews. */
const meanOf = (s: SetupMeasured): ChartMean[] =>
  s.tds && s.extraction_yield ? [{ letter: s.letter, label: s.name, tds: s.tds, ey: s.extraction_yield }] : [];

/** A ghost starts a little beside the brew it is wished from, inside the chart. */
function wishNear(run: RunMeasured, results: Results): Wish {
  const inside = (value: number, ends: number[]) => Math.min(ends[1]!, Math.max(ends[0]!, value));
  return {
    ey: inside(run.extraction_yield!.value + 1, results.ey_axis_pct),
    tds: inside(run.tds!.value + 0.06, results.tds_axis_pct),
  };
}

/** What leads to the wished cup, from one brew. */
function AimCard({ runs, wish }: { runs: RunMeasured[]; wish: Wish }) {
  const [chosen, setChosen] = useState(runs[runs.length - 1]!.id);
  const run = runs.find((r) => r.id === chosen) ?? runs[0]!;
  const [asked] = useDebouncedValue(wish, 120);
  const { data: a } = useQuery(aimQuery(run.id, asked));
  return (
    <div className={classes.aim} aria-live="polite">
      <div className={classes.aimHead}>
        <Penny stamp={run.letter} size={26} />
        <Select
          size="xs"
          aria-label="Wished from brew"
          className={classes.which}
          allowDeselect={false}
          value={run.id}
          onChange={(v) => v && setChosen(v)}
          data={runs.map((r) => ({ value: r.id, label: `from ${r.label}` }))}
        />
        <span className="num">
          to {fixed(wish.tds)} % TDS at {fixed(wish.ey, 1)} %
        </span>
      </div>
      {a && (
        <>
          {a.ratio_now !== null && (
            <dl className={classes.aimFacts}>
              <div>
                <dt>dose, same water</dt>
                <dd className="num">{fixed(a.dose_g, 1)} g</dd>
              </div>
              <div>
                <dt>or water, same dose</dt>
                <dd className="num">{fixed(a.brew_water_g, 0)} g</dd>
              </div>
              <div>
                <dt>ratio</dt>
                <dd className="num">1:{fixed(a.ratio_now, 1)}</dd>
              </div>
            </dl>
          )}
          <p className="small">{a.ratio_now === null ? a.text : a.direction || 'The yield is there already.'}</p>
        </>
      )}
    </div>
  );
}

const COLUMNS: Column<RunMeasured>[] = [
  { head: 'brew', of: (r) => r.label },
  { head: 'ratio', of: (r) => fixed(r.brew_ratio, 2) },
  { head: 'TDS, %', of: (r) => fixed(r.tds!.value, 3) },
  { head: 'TDS low', of: (r) => fixed(r.tds!.low, 3) },
  { head: 'TDS high', of: (r) => fixed(r.tds!.high, 3) },
  { head: 'yield, %', of: (r) => fixed(r.extraction_yield!.value, 2) },
  { head: 'yield low', of: (r) => fixed(r.extraction_yield!.low, 2) },
  { head: 'yield high', of: (r) => fixed(r.extraction_yield!.high, 2) },
];

const LADDER_COLUMNS: Column<SetupMeasured>[] = [
  { head: 'setup', of: (s) => `${s.letter} ${s.name}` },
  { head: 'ratio', of: (s) => fixed(s.brew_ratio ?? s.planned_ratio, 2) },
  { head: 'TDS, %', of: (s) => fixed(s.tds?.value, 3) },
  { head: '±', of: (s) => fixed(s.tds?.half_width, 3) },
  { head: 'yield, %', of: (s) => fixed(s.extraction_yield?.value, 2) },
  { head: '± ', of: (s) => fixed(s.extraction_yield?.half_width, 2) },
];

function likedRung(s: Judged['setups'][number], ratio: number | undefined) {
  if (ratio === undefined || s.mean === null || !s.interval) return null;
  return { letter: s.setup, name: s.name, ratio, value: s.mean, low: s.interval[0]!, high: s.interval[1]! };
}

function rungs(setups: SetupMeasured[], pick: (s: SetupMeasured) => Quantity | null) {
  return setups.flatMap((s) => {
    const q = pick(s);
    const ratio = s.brew_ratio ?? s.planned_ratio;
    return q ? [{ letter: s.letter, name: s.name, ratio, value: q.value, low: q.low, high: q.high }] : [];
  });
}
