import classes from './Staircase.module.css';
import { corners, type SparkPour } from './spark';

type PourSparkProps = { pours: readonly SparkPour[]; water_g: number | null; total_s: number | null };

const WIDTH = 96;
const HEIGHT = 34;

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
