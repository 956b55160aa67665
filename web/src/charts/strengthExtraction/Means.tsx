import { fixed } from '../../ui/numbers';
import { hueOf, Penny } from '../../ui/Penny';
import classes from '../chart.module.css';
import type { Scales } from './geometry';
import type { ChartMean } from './types';

const COIN_PX = 34;
const MOST_ARROWS = 6;

type MeansProps = { means: ChartMean[]; scales: Scales; yieldBasisLabel: string; onSay: (said: string) => void };

/** One coin a setup where its brews stand on average, in its 95 % interval; an arrow leads from the first to each other one. */
export function Means({ means, scales, yieldBasisLabel, onSay }: MeansProps) {
  const [first, ...others] = means;
  if (!first) return null;
  const at = (m: ChartMean) => ({ x: scales.x(m.ey.value), y: scales.y(m.tds.value) });
  const from = at(first);
  return (
    <g>
      {means.map((m) => (
        <Spread key={m.letter} of={m} scales={scales} />
      ))}
      {others.length <= MOST_ARROWS &&
        others.map((m) => {
          const to = at(m);
          return (
            <line key={m.letter} className={classes.between} x1={from.x} y1={from.y} x2={to.x} y2={to.y} aria-hidden />
          );
        })}
      {means.map((m) => {
        const said = `${m.letter} ${m.label}: ${fixed(m.tds.value)} % TDS (${fixed(m.tds.low)} to ${fixed(m.tds.high)}), ${fixed(m.ey.value, 1)} % ${yieldBasisLabel} (${fixed(m.ey.low, 1)} to ${fixed(m.ey.high, 1)}), mean of its brews`;
        return (
          <g
            key={m.letter}
            className={classes.point}
            role="img"
            aria-label={said}
            tabIndex={0}
            transform={`translate(${scales.x(m.ey.value) - COIN_PX / 2} ${scales.y(m.tds.value) - COIN_PX / 2})`}
            onFocus={() => onSay(said)}
            onPointerEnter={() => onSay(said)}
          >
            <Penny stamp={m.letter} size={COIN_PX} label="" />
          </g>
        );
      })}
    </g>
  );
}

/** The 95 % intervals of strength and yield as one ellipse. */
export function Spread({ of, scales }: { of: ChartMean; scales: Scales }) {
  return (
    <ellipse
      className={classes.ellipse}
      style={{ fill: hueOf(of.letter), stroke: hueOf(of.letter) }}
      cx={scales.x(of.ey.value)}
      cy={scales.y(of.tds.value)}
      rx={Math.max(1, (scales.x(of.ey.high) - scales.x(of.ey.low)) / 2)}
      ry={Math.max(1, (scales.y(of.tds.low) - scales.y(of.tds.high)) / 2)}
    />
  );
}
