import { useElementSize } from '@mantine/hooks';
import { scaleLinear } from '@visx/scale';
import { fixed, plural } from '../../ui/numbers';
import chart from '../chart.module.css';
import classes from './PowerCurves.module.css';

type Point = { tasters: number; brews: number; lead_80: number | null };
type PowerCurvesProps = {
  curves: { brews: number; points: Point[] }[];
  here: { tasters: number; brews: number };
  mostTasters: number;
  /** The smallest lead that matters, points of 9. */
  lead: number;
  height: number;
};

const MOST_LEAD = 6;

/** The lead a panel can see against its number of tasters, one curve for each number of brews; the coin is this plan. */
export function PowerCurves({ curves, here, mostTasters, lead, height }: PowerCurvesProps) {
  const { ref, width } = useElementSize();
  const x = scaleLinear<number>({
    domain: [2, Math.max(mostTasters, here.tasters)],
    range: [34, Math.max(40, width - 64)],
  });
  const y = scaleLinear<number>({ domain: [0, MOST_LEAD], range: [height - 34, 26] });
  const ends = curves
    .map((c) => ({ ...c, drawn: c.points.filter((p) => p.lead_80 !== null && p.lead_80 <= MOST_LEAD) }))
    .filter((c) => c.drawn.length > 0);
  const labels = spread(ends.map((c) => y(c.drawn.at(-1)!.lead_80!)));
  const mine = curves.find((c) => c.brews === here.brews)?.points.find((p) => p.tasters === here.tasters);
  return (
    <div ref={ref} className={classes.whole}>
      {width > 0 && (
        <svg
          className={chart.svg}
          height={height}
          viewBox={`0 0 ${width} ${height}`}
          role="img"
          aria-label={`Lead seen 8 times in 10, by tasters and brews. ${mine?.lead_80 ? `This plan: ${fixed(mine.lead_80, 1)} points.` : ''}`}
        >
          {y.ticks(6).map((tick) => (
            <g key={tick} aria-hidden>
              <line className={chart.grid} x1={34} x2={width - 64} y1={y(tick)} y2={y(tick)} />
              <text className={chart.tick} x={28} y={y(tick) + 4} textAnchor="end">
                {tick}
              </text>
            </g>
          ))}
          {x.ticks(mostTasters).map((tick) => (
            <text key={tick} className={chart.tick} x={x(tick)} y={height - 18} textAnchor="middle" aria-hidden>
              {tick}
            </text>
          ))}
          <text className={chart.axis} x={(34 + width - 64) / 2} y={height - 3} textAnchor="middle">
            tasters
          </text>
          <text className={chart.axis} x={0} y={10}>
            lead seen 8 times in 10, points of 9
          </text>
          <line className={classes.matters} x1={34} x2={width - 64} y1={y(lead)} y2={y(lead)} />
          <text className={classes.mattersLabel} x={38} y={y(lead) - 4}>
            what matters, {lead}
          </text>
          {ends.map((c, i) => (
            <g key={c.brews} className={classes.curve} data-here={c.brews === here.brews || undefined}>
              <path
                d={c.drawn
                  .map((p, j) => `${j ? 'L' : 'M'}${x(p.tasters).toFixed(1)} ${y(p.lead_80!).toFixed(1)}`)
                  .join('')}
              />
              <text x={width - 58} y={labels[i]! + 4}>
                {i === 0 ? plural(c.brews, 'brew') : c.brews}
              </text>
            </g>
          ))}
          {mine?.lead_80 != null && mine.lead_80 <= MOST_LEAD && (
            <circle className={classes.here} cx={x(here.tasters)} cy={y(mine.lead_80)} r={8} />
          )}
        </svg>
      )}
    </div>
  );
}

/** Labels kept a line apart, in their order from top to bottom. */
function spread(ys: number[]): number[] {
  const order = ys.map((v, i) => [v, i] as const).sort((a, b) => a[0] - b[0]);
  const out = [...ys];
  let last = Number.NEGATIVE_INFINITY;
  for (const [v, i] of order) {
    last = Math.max(v, last + 14);
    out[i] = last;
  }
  return out;
}
