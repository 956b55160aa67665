import { useElementSize } from '@mantine/hooks';
import { scaleLinear } from '@visx/scale';
import { fixed } from '../../ui/numbers';
import { Penny } from '../../ui/Penny';
import chart from '../chart.module.css';

type Curve = {
  label: string;
  unit: string;
  best: number | null;
  interval: number[] | null;
  kind: string;
  x: number[];
  y: number[];
  low: number[];
  high: number[];
  points: { letter: string; label: string; x: number; mean: number; n: number }[];
};

const HEIGHT = 250;
const LEFT = 36;
const RIGHT = 16;
const BOTTOM = 44;
const COIN = 24;

/** An attribute along one measured number: brews as pennies, the panel's curve with its band, the best point with its interval. */
export function LikingCurve({ curve, attribute, places }: { curve: Curve; attribute: string; places: number }) {
  const { ref, width } = useElementSize();
  const xs = [...curve.points.map((p) => p.x), ...curve.x];
  const ys = [...curve.points.map((p) => p.mean), ...curve.low, ...curve.high];
  if (!xs.length) return <div ref={ref} />;
  const spread = Math.max(...xs) - Math.min(...xs) || 1;
  const x = scaleLinear<number>({
    domain: [Math.min(...xs) - 0.06 * spread, Math.max(...xs) + 0.06 * spread],
    range: [LEFT, Math.max(LEFT + 10, width - RIGHT)],
  });
  const y = scaleLinear<number>({
    domain: [Math.floor(Math.min(...ys) - 0.2), Math.ceil(Math.max(...ys) + 0.2)],
    range: [HEIGHT - BOTTOM, 10],
  });
  const line = (values: number[]) => values.map((v, i) => `${i ? 'L' : 'M'}${x(curve.x[i]!)} ${y(v)}`).join('');
  const back = [...curve.x.keys()]
    .reverse()
    .map((i) => `L${x(curve.x[i]!)} ${y(curve.low[i]!)}`)
    .join('');
  return (
    <div ref={ref}>
      {width > 0 && (
        <svg
          className={chart.svg}
          height={HEIGHT}
          viewBox={`0 0 ${width} ${HEIGHT}`}
          role="group"
          aria-label={`${attribute} against ${curve.label.toLowerCase()}`}
        >
          {y.ticks(5).map((t) => (
            <g key={t} aria-hidden>
              <line className={chart.grid} x1={LEFT} x2={width - RIGHT} y1={y(t)} y2={y(t)} />
              <text className={chart.tick} x={LEFT - 6} y={y(t) + 4} textAnchor="end">
                {t}
              </text>
            </g>
          ))}
          {x.ticks(5).map((t) => (
            <text key={t} className={chart.tick} x={x(t)} y={HEIGHT - BOTTOM + 16} textAnchor="middle" aria-hidden>
              {fixed(t, places)}
            </text>
          ))}
          <text className={chart.axis} x={(LEFT + width - RIGHT) / 2} y={HEIGHT - 6} textAnchor="middle" aria-hidden>
            {curve.label}
            {curve.unit && `, ${curve.unit}`}
          </text>
          {curve.x.length > 0 && (
            <>
              <path className={chart.band} d={`${line(curve.high)}${back}Z`} />
              <path className={chart.fitted} d={line(curve.y)} />
            </>
          )}
          {curve.kind === 'peak' && curve.interval && curve.best !== null && (
            <g aria-hidden>
              <line
                x1={x(curve.interval[0]!)}
                x2={x(curve.interval[1]!)}
                y1={HEIGHT - BOTTOM - 4}
                y2={HEIGHT - BOTTOM - 4}
                stroke="var(--verdigris)"
                strokeWidth={4}
              />
              <path
                d={`M${x(curve.best)} ${HEIGHT - BOTTOM - 8}l6 -9h-12z`}
                fill="var(--verdigris)"
                stroke="var(--surface)"
              />
            </g>
          )}
          {curve.points.map((p) => (
            <svg
              key={p.label}
              x={x(p.x) - COIN / 2}
              y={y(p.mean) - COIN / 2}
              width={COIN}
              height={COIN}
              overflow="visible"
            >
              <Penny stamp={p.letter} size={COIN} label={`${p.label}: ${fixed(p.mean, 1)} at ${fixed(p.x, places)}`} />
            </svg>
          ))}
        </svg>
      )}
    </div>
  );
}
