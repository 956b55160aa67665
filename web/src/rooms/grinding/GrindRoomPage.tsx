import { Button } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { ChartCard } from '../../charts/ChartCard';
import { DialRulers } from '../../charts/grind/DialRulers';
import { GrindCurves } from '../../charts/grind/GrindCurves';
import { Heaps } from '../../charts/grind/Heaps';
import { Loaded } from '../../ui/Loading';
import { fixed, plural } from '../../ui/numbers';
import { Doses } from './Doses';
import { Filters } from './Filters';
import classes from './Grind.module.css';
import { figureOf, lacks, picked, twoOf } from './pick';
import { type Band, type Grind, type GrindRoom, roomQuery } from './queries';
import { Samples } from './Samples';
import { TwoGrinds } from './TwoGrinds';

/** What grinders do, on one bench: every grind sampled, two of them against each other, speed, what stays inside, filters. */
export function GrindRoomPage() {
  const [band, setBand] = useState<Band | null>(null);
  const [params] = useSearchParams();
  const room = useQuery(roomQuery(band));
  // A sample just kept is not in what was fetched before: rather wait than show two others for a moment.
  const awaited = room.isFetching && lacks(room.data, [params.get('first'), params.get('second')]);
  return (
    <main className={classes.page}>
      <Loaded query={awaited ? { ...room, data: undefined } : room}>
        {(r) => <Room room={r} band={band ?? r.band} onBand={setBand} />}
      </Loaded>
    </main>
  );
}

function Room({ room, band, onBand }: { room: GrindRoom; band: Band; onBand: (band: Band) => void }) {
  const [params, setParams] = useSearchParams();
  const { first, second } = twoOf(room.grinds, params.get('first'), params.get('second'));
  const pick = (which: 'first' | 'second', id: string) => {
    const two = picked({ first: first?.id, second: second?.id }, which, id);
    const next = new URLSearchParams(params);
    if (two.first) next.set('first', two.first);
    if (two.second) next.set('second', two.second);
    setParams(next, { replace: true });
  };
  return (
    <>
      <header className={classes.head}>
        <div>
          <h1>Grind room</h1>
          <p className="quiet">{summary(room)}</p>
        </div>
        <Button component={Link} to="/grind/sample">
          Sample a grind
        </Button>
      </header>
      {first ? (
        <div className={classes.bench}>
          <div className={classes.left}>
            <ChartCard
              label="Finer than each size"
              name="grinds"
              notes={[`Band ${band.from_um} to ${band.to_um} µm.`, room.in_band_note]}
              table={{ rows: rowsOf(room.grinds), columns: COLUMNS }}
            >
              <GrindCurves
                curves={room.grinds}
                first={first.id}
                second={second?.id ?? ''}
                band={band}
                onBand={onBand}
              />
              <p className="quiet small">
                Drag an end of the band, or move it with the arrow keys. {room.in_band_note}
              </p>
            </ChartCard>
            <section className="card" aria-label="Dials on one scale of sizes">
              <h2>Dials on one scale of sizes</h2>
              <DialRulers
                dials={room.dials}
                pegs={pegsOf(room.grinds)}
                rulers={room.lines.map((l) => ({
                  dial_id: l.dial_id,
                  name: l.said,
                  settings: l.settings as [number, number],
                  ends_um: l.ends_um as [number, number],
                  step: l.step,
                }))}
                first={first.id}
                second={second?.id ?? ''}
                onPick={(id) =>
                  pick(room.grinds.find((g) => g.id === id)?.dial_id === first.dial_id ? 'first' : 'second', id)
                }
              />
              <ul className={classes.lines}>
                {room.lines.map((l) => (
                  <li key={l.dial_id}>{l.said}</li>
                ))}
              </ul>
            </section>
            <ChartCard
              label="What lay on each sieve, %"
              name="heaps"
              table={{ rows: heapsOf(second ? [first, second] : [first]), columns: HEAP_COLUMNS }}
            >
              <Heaps first={first} second={second ?? first} />
            </ChartCard>
          </div>
          <div className={classes.left}>
            <TwoGrinds room={room} first={first} second={second} band={band} onPick={pick} />
            <Doses room={room} />
            <Filters room={room} />
          </div>
        </div>
      ) : (
        <section className={`card ${classes.none}`}>
          <h2>No grind sampled yet</h2>
          <p>
            Shake a few grams through a stack of sieves, weigh each heap, and this room says how fine and how even a
            grind is, which settings of two grinders match, and what one step of a dial is worth. Two sieves give
            bounds; three or more locate the median.
          </p>
          {!room.stacks.length && <Link to="/kit/sieve_stack">Add your sieve stack to the kit first</Link>}
        </section>
      )}
      {first ? (
        <Samples grinds={room.grinds} />
      ) : (
        <div className={classes.pair}>
          <Doses room={room} />
          <Filters room={room} />
        </div>
      )}
    </>
  );
}

function summary(room: GrindRoom): string {
  const samples = room.grinds.reduce((n, g) => n + g.samples.length, 0);
  if (!samples) return 'Sieves, speed, what stays inside, filters.';
  return `${plural(samples, 'sample')} of ${plural(room.grinds.length, 'grind')}, ${plural(room.doses.length, 'dose')} timed or weighed.`;
}

function pegsOf(grinds: Grind[]) {
  return grinds.flatMap((g) => {
    const d50 = figureOf(g, 'd50');
    if (!d50) return [];
    return [
      {
        id: g.id,
        dial_id: g.dial_id,
        setting: g.setting_written,
        name: g.name,
        d50_um: d50.value,
        low_um: d50.interval[0]!,
        high_um: d50.interval[1]!,
      },
    ];
  });
}

type Row = { grind: string; size: number; finer: number; low: number; high: number };
const rowsOf = (grinds: Grind[]): Row[] =>
  grinds.flatMap((g) =>
    g.curve.map((p) => ({ grind: g.name, size: p.aperture_um, finer: p.finer_pct, low: p.low_pct, high: p.high_pct })),
  );
const COLUMNS = [
  { head: 'Grind', of: (r: Row) => r.grind },
  { head: 'Size, µm', of: (r: Row) => r.size },
  { head: 'Finer, %', of: (r: Row) => fixed(r.finer, 1) },
  { head: 'Least of the replicates, %', of: (r: Row) => fixed(r.low, 1) },
  { head: 'Most, %', of: (r: Row) => fixed(r.high, 1) },
];

type HeapRow = { grind: string; aperture: number; share: number };
const heapsOf = (grinds: Grind[]): HeapRow[] =>
  grinds.flatMap((g) =>
    g.heaps_pct.map((share, i) => ({ grind: g.name, aperture: [0, ...g.apertures_um][i]!, share })),
  );
const HEAP_COLUMNS = [
  { head: 'Grind', of: (r: HeapRow) => r.grind },
  { head: 'On, µm (0: the pan)', of: (r: HeapRow) => r.aperture },
  { head: 'Of what was recovered, %', of: (r: HeapRow) => fixed(r.share, 1) },
];
