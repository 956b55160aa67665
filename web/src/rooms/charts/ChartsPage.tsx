import { Button, SegmentedControl, Select } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { useSearchParams } from 'react-router';
import { PURPOSES } from '../../api/vocabulary';
import { optionsOf, purposeLabel, yieldOptions } from '../../api/words';
import { ChartCard, OverlayPicker } from '../../charts/ChartCard';
import type { Column } from '../../charts/csv';
import { type Panel, RatioLadder } from '../../charts/ratioLadder/RatioLadder';
import { type ChartPoint, StrengthExtraction } from '../../charts/strengthExtraction/StrengthExtraction';
import { DayField } from '../../ui/DayField';
import { readDay } from '../../ui/day';
import { Loaded } from '../../ui/Loading';
import { dayAndTime, fixed, plural } from '../../ui/numbers';
import { useOverlays } from '../measuring/Charts';
import classes from './Charts.module.css';
import type { ChartPointShown } from './columns';
import { type Charts, chartsQuery, type Filter } from './queries';

const NONE: Filter = {
  yield_basis: 'in_cup',
  coffee: '',
  grinder: '',
  brewer: '',
  recipe: '',
  purpose: '',
  since: '',
  until: '',
};
type By = 'none' | 'coffee' | 'grinder' | 'brewer' | 'purpose';

/** Every brew ever, of trials and loose, on the same charts; the address holds the filter, so it can be kept and passed on. */
export function ChartsPage() {
  const [params, setParams] = useSearchParams();
  const filter = useMemo(
    () => Object.fromEntries(Object.entries(NONE).map(([name, none]) => [name, params.get(name) ?? none])) as Filter,
    [params],
  );
  const by = (params.get('by') ?? 'none') as By;
  const set = (name: string, value: string | null) => {
    const next = new URLSearchParams(params);
    if (value) next.set(name, value);
    else next.delete(name);
    setParams(next, { replace: true });
  };
  const room = useQuery(chartsQuery(filter));
  const filtered = Object.entries(filter).some(([name, v]) => name !== 'yield_basis' && v !== '');
  return (
    <main className={classes.page}>
      <header className={classes.head}>
        <div>
          <h1>Charts</h1>
          <p className="quiet">{room.data ? summary(room.data, filtered) : ' '}</p>
        </div>
        <SegmentedControl
          aria-label="Which yield"
          value={filter.yield_basis}
          onChange={(v) => set('yield_basis', v === 'in_cup' ? null : v)}
          data={yieldOptions}
        />
      </header>
      <Loaded query={room}>
        {(r) => (
          <>
            <Filters room={r} filter={filter} by={by} set={set} onClear={() => setParams({}, { replace: true })} />
            {by === 'none' ? <Whole room={r} /> : <Faceted room={r} by={by} />}
          </>
        )}
      </Loaded>
    </main>
  );
}

function summary(r: Charts, filtered: boolean): string {
  const brews = `${plural(r.matching, 'brew')}${filtered ? ' fit the filter' : ' on this bench'}`;
  return r.unread ? `${brews}; ${r.unread} without a strength or a beverage mass cannot be drawn.` : `${brews}.`;
}

type FiltersProps = {
  room: Charts;
  filter: Filter;
  by: By;
  set: (name: string, value: string | null) => void;
  onClear: () => void;
};

function Filters({ room, filter, by, set, onClear }: FiltersProps) {
  const pick = (name: 'coffee' | 'grinder' | 'brewer' | 'recipe', label: string, facets: Charts['coffees']) => (
    <Select
      label={label}
      searchable
      clearable
      placeholder="all"
      value={filter[name] || null}
      onChange={(v) => set(name, v)}
      data={facets.map((f) => ({ value: f.name, label: `${f.label} · ${f.count}` }))}
    />
  );
  return (
    <div className={`card ${classes.filters}`} role="search" aria-label="Filter the brews">
      {pick('coffee', 'Coffee', room.coffees)}
      {pick('brewer', 'Brewer', room.brewers)}
      {pick('grinder', 'Grinder', room.grinders)}
      {pick('recipe', 'Recipe', room.recipes)}
      <Select
        label="Kind"
        clearable
        placeholder="all"
        value={filter.purpose || null}
        onChange={(v) => set('purpose', v)}
        data={optionsOf(PURPOSES)}
      />
      <DayFilter label="From" value={filter.since} onDay={(day) => set('since', day)} />
      <DayFilter label="To" value={filter.until} onDay={(day) => set('until', day)} />
      <Select
        label="Side by side by"
        allowDeselect={false}
        value={by}
        onChange={(v) => set('by', v === 'none' ? null : v)}
        data={[
          { value: 'none', label: 'one chart' },
          { value: 'coffee', label: 'coffee' },
          { value: 'brewer', label: 'brewer' },
          { value: 'grinder', label: 'grinder' },
          { value: 'purpose', label: 'kind' },
        ]}
      />
      <Button variant="subtle" size="xs" onClick={onClear}>
        Clear
      </Button>
    </div>
  );
}

function Whole({ room }: { room: Charts }) {
  const [on, setOn] = useOverlays();
  const points = useMemo(() => room.points.map(pointOf), [room]);
  return (
    <div className={classes.charts}>
      <ChartCard
        label="Strength and yield"
        name="chart-room"
        table={{ rows: room.points, columns: COLUMNS }}
        notes={[
          room.yield_basis_label,
          ...[...room.windows, ...room.overlays]
            .filter((o) => on.includes(o.code))
            .map((o) => `${o.label}: ${o.about}`),
        ]}
        controls={<OverlayPicker choices={[...room.windows, ...room.overlays]} on={on} onChange={setOn} />}
      >
        <StrengthExtraction
          height={470}
          points={points}
          lines={room.ratio_lines}
          windows={room.windows.filter((w) => on.includes(w.code))}
          overlays={room.overlays.filter((o) => on.includes(o.code))}
          trails={room.trails}
          eyEnds={ends(room.ey_axis_pct)}
          tdsEnds={ends(room.tds_axis_pct)}
          yieldBasisLabel={room.yield_basis_label}
        />
      </ChartCard>
      <ChartCard label="Against brew ratio" name="chart-room-ratio" table={{ rows: room.points, columns: COLUMNS }}>
        <RatioLadder height={440} ratios={ratiosOf(room.points)} panels={panelsOf(room)} />
      </ChartCard>
    </div>
  );
}

const MOST_PANES = 9;

/** The same chart for each value, on the same axes, so that they can be held against each other. */
function Faceted({ room, by }: { room: Charts; by: Exclude<By, 'none'> }) {
  const groups = useMemo(() => {
    const found = new Map<string, ChartPoint[]>();
    for (const p of room.points) {
      const name = by === 'purpose' ? purposeLabel(p.purpose) : p[by] || 'not given';
      found.set(name, [...(found.get(name) ?? []), pointOf(p)]);
    }
    return [...found].sort((a, b) => b[1].length - a[1].length);
  }, [room, by]);
  return (
    <>
      <div className={classes.panes}>
        {groups.slice(0, MOST_PANES).map(([name, points]) => (
          <section key={name} className={`card ${classes.pane}`} aria-label={name}>
            <h2>
              {name} <span className="quiet small">{plural(points.length, 'brew')}</span>
            </h2>
            <StrengthExtraction
              small
              height={240}
              points={points}
              lines={room.ratio_lines.filter((_, i) => i % 2 === 0)}
              eyEnds={ends(room.ey_axis_pct)}
              tdsEnds={ends(room.tds_axis_pct)}
              yieldBasisLabel={room.yield_basis_label}
            />
          </section>
        ))}
      </div>
      {groups.length > MOST_PANES && (
        <p className="quiet">
          {groups.length - MOST_PANES} more with fewer brews are not drawn: narrow the filter to see them.
        </p>
      )}
    </>
  );
}

const ends = (axis: number[]) => [axis[0]!, axis[1]!] as const;

const pointOf = (p: ChartPointShown): ChartPoint => ({
  key: p.run_id,
  letter: p.letter,
  label: p.trial_number === null ? 'Loose brew' : `Trial ${p.trial_number}, ${p.label}`,
  tds: { value: p.tds_pct, low: p.tds_pct - p.tds_half_pct, high: p.tds_pct + p.tds_half_pct },
  ey: { value: p.ey_pct, low: p.ey_pct - p.ey_half_pct, high: p.ey_pct + p.ey_half_pct },
  more: [
    p.simulated && 'simulated',
    p.liking !== null && `liked ${p.liking} of 9`,
    p.name,
    p.coffee,
    dayAndTime(p.brewed_at),
  ]
    .filter(Boolean)
    .join(' · '),
  aside: p.purpose !== 'evidence',
  ...(p.liking !== null && { liked: p.liking }),
  ...(p.trial_id ? { to: `/trials/${p.trial_id}/measure` } : p.recipe_id ? { to: `/recipes/${p.recipe_id}` } : {}),
});

const ratiosOf = (points: ChartPointShown[]) => points.flatMap((p) => (p.brew_ratio === null ? [] : [p.brew_ratio]));

const FEW = 60;

/** Brews against ratio: each with its interval while they are few; with many, the fitted line speaks for them. */
function panelsOf(room: Charts): Panel[] {
  const few = room.points.slice(0, FEW);
  const panel = (label: string, places: number, pick: 'tds' | 'ey'): Panel => ({
    label,
    places,
    fitted: pick === 'tds' ? room.tds_ladder : room.ey_ladder,
    rungs: few.flatMap((p) => {
      if (p.brew_ratio === null) return [];
      const value = pick === 'tds' ? p.tds_pct : p.ey_pct;
      const half = pick === 'tds' ? p.tds_half_pct : p.ey_half_pct;
      return [
        {
          key: p.run_id,
          letter: p.letter,
          name: p.label,
          ratio: p.brew_ratio,
          value,
          low: value - half,
          high: value + half,
        },
      ];
    }),
  });
  return [panel('strength, % TDS', 2, 'tds'), panel(`${room.yield_basis_label}, %`, 1, 'ey')];
}

const COLUMNS: Column<ChartPointShown>[] = [
  { head: 'brew', of: (p) => (p.trial_number === null ? 'loose' : `trial ${p.trial_number} ${p.label}`) },
  { head: 'brewed', of: (p) => dayAndTime(p.brewed_at) },
  { head: 'coffee', of: (p) => p.coffee },
  { head: 'brewer', of: (p) => p.brewer },
  { head: 'liked, sighted', of: (p) => fixed(p.liking, 1) },
  { head: 'ratio', of: (p) => fixed(p.brew_ratio, 2) },
  { head: 'TDS, %', of: (p) => `${fixed(p.tds_pct)} ± ${fixed(p.tds_half_pct)}` },
  { head: 'yield, %', of: (p) => `${fixed(p.ey_pct, 1)} ± ${fixed(p.ey_half_pct, 1)}` },
];

/** What is typed and is no day yet is kept, and filters nothing; a filter changed elsewhere shows its own day. */
function DayFilter({ label, value, onDay }: { label: string; value: string; onDay: (day: string) => void }) {
  const [typed, setTyped] = useState({ text: value, day: value });
  const text = typed.day === value ? typed.text : value;
  return (
    <DayField
      label={label}
      placeholder="any day"
      value={text}
      onText={(next) => {
        const day = next === '' || readDay(next) ? next : value;
        setTyped({ text: next, day });
        if (day !== value) onDay(day);
      }}
    />
  );
}
