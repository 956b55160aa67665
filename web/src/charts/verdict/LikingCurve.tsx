import { scaleLinear } from '@visx/scale';
import { fixed } from '../../ui/numbers';
import { Penny } from '../../ui/Penny';
import { axisOf, measured } from '../../ui/units';
import chart from '../chart.module.css';
import { Sized, XTicks, YTicks } from '../Sized';

type Curve = {
  measure: string;
  label: string;
  unit: string;
  places: number;
  group: string;
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
export function LikingCurve({ curve, attribute }: { curve: Curve; attribute: string }) {
  if (!curve.points.length) return null;
  return (
    <Sized height={HEIGHT} label={`${attribute} against ${curve.label.toLowerCase()}`}>
      {(width) => <Drawn curve={curve} width={width} />}
    </Sized>
  );
}

function Drawn({ curve, width }: { curve: Curve; width: number }) {
  const { places } = curve;
  const xs = [...curve.points.map((p) => p.x), ...curve.x];
  const ys = [...curve.points.map((p) => p.mean), ...curve.low, ...curve.high];
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
    <>
      <YTicks y={y} left={LEFT} right={width - RIGHT} count={5} />
      <XTicks
        x={x}
        y={HEIGHT - BOTTOM + 16}
        label={axisOf(curve)}
        said={(v) => measured(curve.measure, v, places)}
        labelY={HEIGHT - 6}
        middle={(LEFT + width - RIGHT) / 2}
      />
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
        <svg key={p.label} x={x(p.x) - COIN / 2} y={y(p.mean) - COIN / 2} width={COIN} height={COIN} overflow="visible">
          <Penny
            stamp={p.letter}
            size={COIN}
            label={`${p.label}: ${fixed(p.mean, 1)} at ${measured(curve.measure, p.x, places)}`}
          />
        </svg>
      ))}
    </>
  );
}
