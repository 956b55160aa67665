import type { Schemas } from '../../api/client';

type Columns = Schemas['ChartColumns'];

const CODED = ['label', 'letter', 'purpose', 'coffee', 'grinder', 'brewer', 'name'] as const;
const SAYABLE = ['trial_id', 'recipe_id'] as const;
const PLAIN = [
  'run_id',
  'rev',
  'trial_number',
  'recipe_version',
  'brew_ratio',
  'total_time_s',
  'liking',
  'tds_pct',
  'tds_half_pct',
  'ey_pct',
  'ey_half_pct',
] as const;

/** One brew on the charts. */
export type ChartPointShown = { [K in (typeof PLAIN)[number]]: Columns[K][number] } & {
  [K in (typeof CODED)[number]]: string;
} & { [K in (typeof SAYABLE)[number]]: string | null } & { brewed_at: string; simulated: boolean };

/** The bench sends columns, whose texts stand once: thousands of brews as one object each. */
export function pointsOf(columns: Columns): ChartPointShown[] {
  const simulated = new Set(columns.simulated);
  const text = (at: number | undefined) => (at === undefined ? null : (columns.texts[at] ?? null));
  return columns.run_id.map((_, i) => {
    const point: Record<string, unknown> = {};
    for (const name of PLAIN) point[name] = columns[name][i];
    for (const name of CODED) point[name] = text(columns[name][i]) ?? '';
    for (const name of SAYABLE) point[name] = text(columns[name][i]);
    point.brewed_at = new Date(1000 * columns.brewed_at_s[i]!).toISOString();
    point.simulated = simulated.has(i);
    return point as ChartPointShown;
  });
}
