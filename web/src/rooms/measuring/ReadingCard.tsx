import { Button, Checkbox, SegmentedControl, Select } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { Refused } from '../../api/client';
import { NumberField, numberOf, shownAtField, useForm } from '../../ui/fields';
import { fixed } from '../../ui/numbers';
import { Penny } from '../../ui/Penny';
import { ratio } from '../../ui/units';
import { useSend } from '../../ui/useSend';
import classes from './Measure.module.css';
import { type Instruments, instrumentsQuery, logReading, type ReadingBody, type RunMeasured } from './queries';

const WANTED = 3;
const calledBrew = (run: RunMeasured) => `Brew ${run.label}`;
type Way = 'tds_pct' | 'brix' | 'oven';

/** The next brew that wants readings, one sample at a time, with the steps that make a reading worth having. */
export function ReadingCard({
  runs,
  called = calledBrew,
}: {
  runs: RunMeasured[];
  called?: (run: RunMeasured) => string;
}) {
  const { data: instruments } = useQuery(instrumentsQuery);
  const [chosen, setChosen] = useState<string | null>(null);
  const run =
    runs.find((r) => r.id === chosen) ?? runs.find((r) => r.readings.length < WANTED) ?? runs[runs.length - 1]!;
  const [way, setWay] = useState<Way>('tds_pct');
  const [done, setDone] = useState<string[] | null>(null);
  const form = useForm({ tds_pct: '', brix: '', sample_g: '', dish_g: '', dried_g: '' }, `reading.${run.id}`);
  const log = useSend(
    async () => {
      const number = (field: keyof typeof form.values) => numberOf(field, form.values[field]) ?? Number.NaN;
      const body: Partial<ReadingBody> =
        way === 'oven'
          ? { oven: { sample_g: number('sample_g'), dish_g: number('dish_g'), dried_g: number('dried_g') } }
          : { [way]: number(way) };
      return logReading(run.id, { ...body, done } as ReadingBody);
    },
    {
      onDone: () => {
        form.startAfresh();
        setChosen(run.readings.length + 1 < WANTED ? run.id : null);
        setDone((now) => now?.filter((code) => code === 'zeroed') ?? null); // each drink is stirred and wiped for anew
      },
      onTrouble: shownAtField(form.setRefused),
    },
  );
  const field = (name: keyof typeof form.values) => ({
    value: form.values[name],
    onText: (text: string) => form.set(name, text),
  });
  const filled = way === 'oven' ? form.values.dried_g : form.values[way];
  const offset = instruments?.offset_pct ?? 0;
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
          {called(run)} · <span className="num">{ratio(run.brew_ratio)}</span>
        </h2>
        <Select
          aria-label="Brew to read"
          className={classes.which}
          value={run.id}
          allowDeselect={false}
          onChange={setChosen}
          data={runs.map((r) => ({
            value: r.id,
            label: `${called(r).replace('Brew ', '')} · ${r.readings.length} read`,
          }))}
        />
      </div>
      <details className={classes.protocol} onToggle={(e) => setDone(e.currentTarget.open ? (done ?? []) : null)}>
        <summary>{done ? `${done.length} of ${stepsFor(instruments, run).length} steps done` : 'Step by step'}</summary>
        <div className={classes.steps}>
          {stepsFor(instruments, run).map((step) => (
            <Checkbox
              key={step.code}
              size="xs"
              label={step.do}
              title={step.why}
              checked={done?.includes(step.code) ?? false}
              onChange={(e) => {
                const on = e.currentTarget.checked;
                setDone((now) => (on ? [...(now ?? []), step.code] : (now ?? []).filter((c) => c !== step.code)));
              }}
            />
          ))}
        </div>
        <p className="quiet small">What is left out is kept as a caveat; nothing is refused.</p>
      </details>
      <SegmentedControl
        size="xs"
        aria-label="How it is read"
        value={way}
        onChange={(v) => setWay(v as Way)}
        data={[
          { value: 'tds_pct', label: '% TDS' },
          { value: 'brix', label: '°Brix' },
          { value: 'oven', label: 'dried in an oven' },
        ]}
      />
      <div className={classes.readingRow}>
        {way !== 'oven' &&
          run.readings.slice(-WANTED + 1).map((r) => (
            <span key={r.id} className={`num ${classes.taken}`}>
              {fixed(r.tds_pct)}
            </span>
          ))}
        {way === 'oven' ? (
          <>
            <NumberField label="Sample" unit="g" {...field('sample_g')} />
            <NumberField label="Empty dish" unit="g" {...field('dish_g')} />
            <NumberField label="Dish, dried" unit="g" {...field('dried_g')} />
          </>
        ) : (
          <NumberField
            aria-label={`Reading ${run.readings.length + 1} of ${called(run).replace('Brew', 'brew')}, ${way === 'brix' ? '°Brix' : '% TDS'}`}
            unit={way === 'brix' ? '°Brix' : '% TDS'}
            {...field(way)}
            className={classes.typing}
            size="md"
          />
        )}
        <Button
          type="submit"
          size="md"
          loading={log.isPending}
          disabled={!filled.trim()}
          className={classes.logReading}
        >
          Log
        </Button>
      </div>
      {form.refused && (
        <p role="alert" className={classes.trouble}>
          {refusedSaid(form.refused)}
        </p>
      )}
      <p className="quiet small">
        {run.extraction_yield ? (
          <>
            So far <b className="num">{fixed(run.extraction_yield.value, 1)}</b>{' '}
            <span className="num">± {fixed(run.extraction_yield.half_width, 1)} %</span> yield.{' '}
          </>
        ) : null}
        {way === 'brix' && `Counted as ${instruments?.brix_factor ?? 0.85} % TDS per °Brix, good to ±0.15 %. `}
        {offset !== 0 && way !== 'oven' && (
          <>
            <b className="num">{fixed(offset)}</b> is taken off each reading, by the last check.{' '}
          </>
        )}
        {run.readings.length < WANTED
          ? `Reading ${run.readings.length + 1} of ${WANTED}: stir, fresh sample, let it cool, wipe.`
          : 'Three readings are in; more are welcome.'}
      </p>
    </form>
  );
}

function refusedSaid(refused: Refused): string {
  const first = refused.problem?.errors?.[0];
  return first ? `${first.reason} ${first.remedy}` : refused.message;
}

const stepsFor = (instruments: Instruments | undefined, run: RunMeasured) =>
  (instruments?.protocol ?? []).filter((s) => run.asked.includes(s.code));
