import { scaleLinear, scalePoint } from '@visx/scale';
import { fixed } from '../../ui/numbers';
import { hueOf, Penny } from '../../ui/Penny';
import chart from '../chart.module.css';
import { Sized, YTicks } from '../Sized';

type Row = { setup: string; by_pass: Record<string, number> };

const HEIGHT = 150;
const LEFT = 30;
const RIGHT = 40;
const COIN = 26;

/** Each setup's mean from pass to pass, its penny at the end of its line. */
export function AsItCools({ rows, passes, label }: { rows: Row[]; passes: string[]; label: string }) {
  return (
    <Sized height={HEIGHT} label={label}>
      {(width) => <Lines rows={rows} passes={passes} width={width} />}
    </Sized>
  );
}

function Lines({ rows, passes, width }: { rows: Row[]; passes: string[]; width: number }) {
  const values = rows.flatMap((r) => Object.values(r.by_pass));
  const x = scalePoint<string>({ domain: passes, range: [LEFT + 20, Math.max(LEFT + 30, width - RIGHT - 24)] });
  const y = scaleLinear<number>({
    domain: [Math.min(...values) - 0.6, Math.max(...values) + 0.6],
    range: [HEIGHT - 24, 8],
  });
  const ends = endsApart(
    rows.map((r) => ({ setup: r.setup, y: y(r.by_pass[passes.at(-1)!] ?? Object.values(r.by_pass).at(-1)!) })),
  );
  return (
    <>
      <YTicks y={y} left={LEFT} right={width - RIGHT} />
      {passes.map((p) => (
        <text key={p} className={chart.axis} x={x(p)} y={HEIGHT - 4} textAnchor="middle">
          {p}
        </text>
      ))}
      {rows.map((r) => {
        const points = passes.filter((p) => r.by_pass[p] !== undefined);
        return (
          <g key={r.setup}>
            <path
              d={points.map((p, i) => `${i ? 'L' : 'M'}${x(p)} ${y(r.by_pass[p]!)}`).join('')}
              fill="none"
              stroke={hueOf(r.setup)}
              strokeWidth={2.5}
            />
            {points.map((p) => (
              <circle key={p} cx={x(p)} cy={y(r.by_pass[p]!)} r={3.5} fill={hueOf(r.setup)}>
                <title>{`${r.setup} ${p}: ${fixed(r.by_pass[p], 1)}`}</title>
              </circle>
            ))}
          </g>
        );
      })}
      {ends.map((e) => (
        <svg key={e.setup} x={width - RIGHT + 4} y={e.y - COIN / 2} width={COIN} height={COIN} overflow="visible">
          <Penny stamp={e.setup} size={COIN} />
        </svg>
      ))}
    </>
  );
}

/** Pennies at the line ends, moved apart where they would cover one another. */
function endsApart(ends: { setup: string; y: number }[]) {
  const sorted = [...ends].sort((a, b) => a.y - b.y);
  let before = Number.NEGATIVE_INFINITY;
  return sorted.map((e) => {
    before = Math.max(e.y, before + COIN);
    return { ...e, y: before };
  });
}
