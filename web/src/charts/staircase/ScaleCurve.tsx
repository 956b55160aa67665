import { useElementSize } from '@mantine/hooks';
import { scaleLinear } from '@visx/scale';
import { clock } from '../../ui/numbers';
import classes from '../chart.module.css';
import { ticksOf } from '../Sized';

const GAP_S = 2.5;
const LEFT = 40;

/** What the scale said over what was planned, for the review afterwards; stretches without readings stay empty. */
export function ScaleCurve({ points, plan, height }: { points: number[][]; plan: number[][]; height: number }) {
  const { ref, width } = useElementSize();
  const last = Math.max(10, ...points.map((p) => p[0]!), ...plan.map((p) => p[0]!));
  const most = Math.max(10, ...points.map((p) => p[1]!), ...plan.map((p) => p[1]!));
  const x = scaleLinear({ domain: [0, last], range: [LEFT, Math.max(LEFT + 10, width - 8)] });
  const y = scaleLinear({ domain: [0, most * 1.05], range: [height - 22, 8] });
  const path = (line: number[][], gap = Number.POSITIVE_INFINITY) =>
    line
      .map(([t, g], i) => `${i && t! - line[i - 1]![0]! <= gap ? 'L' : 'M'}${x(t!).toFixed(1)} ${y(g!).toFixed(1)}`)
      .join('');
  return (
    <div ref={ref}>
      {width > 0 && (
        <svg
          className={classes.svg}
          height={height}
          viewBox={`0 0 ${width} ${height}`}
          role="img"
          aria-label="The scale over time, beside the plan"
        >
          {ticksOf(y, 3).map(({ at, said }) => (
            <g key={at}>
              <line className={classes.grid} x1={LEFT} x2={width - 8} y1={y(at)} y2={y(at)} />
              <text className={classes.tick} x={LEFT - 6} y={y(at) + 4} textAnchor="end">
                {said}
              </text>
            </g>
          ))}
          {x.ticks(5).map((t) => (
            <text key={t} className={classes.tick} x={x(t)} y={height - 6} textAnchor="middle">
              {clock(t)}
            </text>
          ))}
          <path className={classes.planned} d={path(plan)} />
          <path className={classes.scaled} d={path(points, Math.max(GAP_S, 3 * usualStep(points)))} />
        </svg>
      )}
    </div>
  );
}

/** The middle step between readings: a gap is measured against it. */
function usualStep(points: number[][]): number {
  const steps = points
    .slice(1)
    .map((p, i) => p[0]! - points[i]![0]!)
    .sort((a, b) => a - b);
  return steps[Math.floor(steps.length / 2)] ?? 1;
}
