import classes from './Staircase.module.css';

export type SparkPour = {
  plan_start_s: number;
  plan_end_s: number;
  plan_to_g: number;
  began_s: number | null;
  ended_s: number | null;
  reading_g: number | null;
};
type PourSparkProps = { pours: readonly SparkPour[]; water_g: number | null; total_s: number | null };

const WIDTH = 96;
const HEIGHT = 34;

/** The corners of a brew's water over time, s and g: as it was poured, where that is known, else as planned; level to the end. */
export function corners(
  pours: readonly SparkPour[],
  water_g: number | null,
  total_s: number | null,
): [number, number][] {
  const out: [number, number][] = [[0, 0]];
  let level = 0;
  for (const p of pours) {
    out.push([p.began_s ?? p.plan_start_s, level]);
    level = p.reading_g ?? p.plan_to_g;
    out.push([p.ended_s ?? p.plan_end_s, level]);
  }
  if (!pours.length && water_g) out.push([0, water_g]);
  const end = Math.max(total_s ?? 0, out.at(-1)![0]);
  return [...out, [end, out.at(-1)![1]]];
}

/** A brew in one glance: its stairs of water, and how long it ran. Said in numbers beside it. */
export function PourSpark({ pours, water_g, total_s }: PourSparkProps) {
  const at = corners(pours, water_g, total_s);
  const longest = Math.max(...at.map(([s]) => s), 1);
  const most = Math.max(...at.map(([, g]) => g), 1);
  const x = (s: number) => 2 + (s / longest) * (WIDTH - 4);
  const y = (g: number) => HEIGHT - 3 - (g / most) * (HEIGHT - 8);
  if (total_s === null && !pours.length) return <span className={classes.noSpark} />;
  return (
    <svg width={WIDTH} height={HEIGHT} viewBox={`0 0 ${WIDTH} ${HEIGHT}`} aria-hidden className={classes.spark}>
      <path d={`M${at.map(([s, g]) => `${x(s).toFixed(1)} ${y(g).toFixed(1)}`).join('L')}V${HEIGHT - 3}H2Z`} />
    </svg>
  );
}
