import { scaleLinear } from '@visx/scale';
import { fixed } from '../../ui/numbers';
import { Penny } from '../../ui/Penny';
import chart from '../chart.module.css';
import { Sized, XTicks, YTicks } from '../Sized';

type Point = { letter: string; ey: number; tds: number; likedBy: string };

const HEIGHT = 250;
const LEFT = 46;
const RIGHT = 20;
const BOTTOM = 42;
const COIN = 28;

/** Setups by yield and strength; a ring and a word at each that a group likes best. */
export function CampsChart({ points }: { points: Point[] }) {
  return (
    <Sized height={HEIGHT} label="Setups by yield and strength, with each group's favourite">
      {(width) => <Drawn points={points} width={width} />}
    </Sized>
  );
}

const around = (values: number[], least: number): [number, number] => {
  const [low, high] = [Math.min(...values), Math.max(...values)];
  const room = Math.max(0.25 * (high - low), least);
  return [low - room, high + room];
};

function Drawn({ points, width }: { points: Point[]; width: number }) {
  const right = Math.max(LEFT + 10, width - RIGHT);
  const x = scaleLinear<number>({
    domain: around(
      points.map((p) => p.ey),
      0.6,
    ),
    range: [LEFT, right],
  });
  const y = scaleLinear<number>({
    domain: around(
      points.map((p) => p.tds),
      0.04,
    ),
    range: [HEIGHT - BOTTOM, 14],
  });
  return (
    <>
      <YTicks y={y} left={LEFT} right={right} />
      <XTicks
        x={x}
        y={HEIGHT - BOTTOM + 16}
        label="yield, % · strength, % TDS upwards"
        labelY={HEIGHT - 4}
        middle={(LEFT + right) / 2}
      />
      {points.map((p) => (
        <g key={p.letter}>
          {p.likedBy && (
            <>
              <circle cx={x(p.ey)} cy={y(p.tds)} r={COIN / 2 + 5} fill="none" stroke="var(--ink)" strokeWidth={2.5} />
              <text
                className={chart.axis}
                x={x(p.ey)}
                y={y(p.tds) - COIN / 2 - 10}
                textAnchor={x(p.ey) > (LEFT + right) / 2 ? 'end' : 'start'}
              >
                {p.likedBy}
              </text>
            </>
          )}
          <svg x={x(p.ey) - COIN / 2} y={y(p.tds) - COIN / 2} width={COIN} height={COIN} overflow="visible">
            <Penny stamp={p.letter} size={COIN} label={`${p.letter}: ${fixed(p.ey, 1)} % EY, ${fixed(p.tds)} % TDS`} />
          </svg>
        </g>
      ))}
    </>
  );
}
