import { scaleLinear } from '@visx/scale';
import { fixed } from '../../ui/numbers';
import chart from '../chart.module.css';
import { Sized } from '../Sized';
import classes from './Grind.module.css';

export type HeapsOf = { name: string; apertures_um: number[]; heaps_pct: number[] };

const ROW = 40;
const LEFT = 92;
const RIGHT = 44;

/** What lay on each sieve, coarsest on top as in the stack, the two grinds one above the other. */
export function Heaps({ first, second }: { first: HeapsOf; second: HeapsOf }) {
  const apertures = [...new Set([0, ...first.apertures_um, ...second.apertures_um])].sort((a, b) => b - a);
  const most = Math.max(...first.heaps_pct, ...second.heaps_pct);
  return (
    <Sized height={apertures.length * ROW + 4} label="What lay on each sieve, per cent of what was recovered">
      {(width) => {
        const x = scaleLinear<number>({ domain: [0, most], range: [0, Math.max(10, width - LEFT - RIGHT)] });
        return apertures.map((a, i) => (
          <g key={a}>
            <text className={chart.tick} x={LEFT - 8} y={i * ROW + 23} textAnchor="end">
              {a ? `on ${a} µm` : 'pan'}
            </text>
            <line className={chart.grid} x1={0} x2={width} y1={(i + 1) * ROW} y2={(i + 1) * ROW} />
            {(first === second ? [first] : [first, second]).map((grind, j) => {
              const share = shareOn(grind, a);
              if (share === null) return null;
              const top = i * ROW + 4 + j * 17;
              return (
                <g key={j === 0 ? 'first' : 'second'} className={classes.front} data-look={j ? 'second' : 'first'}>
                  <rect className={classes.heap} x={LEFT} y={top} width={Math.max(1, x(share))} height={14} />
                  <text className={chart.tick} x={LEFT + x(share) + 6} y={top + 11}>
                    {fixed(share, 1)}
                  </text>
                </g>
              );
            })}
          </g>
        ));
      }}
    </Sized>
  );
}

function shareOn(grind: HeapsOf, aperture: number): number | null {
  const at = [0, ...grind.apertures_um].indexOf(aperture);
  return at < 0 ? null : (grind.heaps_pct[at] ?? null);
}
