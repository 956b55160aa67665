import { scaleLinear } from '@visx/scale';
import chart from '../../charts/chart.module.css';
import { Sized } from '../../charts/Sized';
import { degrees, heat } from '../../ui/units';
import type { Flight } from './queries';

const HEIGHT = 170;
const LEFT = 34;
const BOTTOM = 24;

/** The cups cooling through the bands of the passes, and where they are now. */
export function CoolingCurve({ flight }: { flight: Flight }) {
  const { cooling } = flight;
  if (!cooling) return null;
  return (
    <Sized height={HEIGHT} role="img" label={`The cups cool; they should be at ${heat(cooling.now_c)} now`}>
      {(width) => <Drawn passes={flight.passes} cooling={cooling} width={width} />}
    </Sized>
  );
}

type DrawnProps = { passes: Flight['passes']; cooling: NonNullable<Flight['cooling']>; width: number };

function Drawn({ passes, cooling, width }: DrawnProps) {
  const start = Date.parse(cooling.curve[0]!.at);
  const minutes = (iso: string) => (Date.parse(iso) - start) / 60_000;
  const last = minutes(cooling.curve.at(-1)!.at);
  const x = scaleLinear<number>({ domain: [0, last], range: [LEFT, Math.max(LEFT + 10, width - 8)] });
  const y = scaleLinear<number>({ domain: [20, Math.max(70, cooling.curve[0]!.cup_c)], range: [HEIGHT - BOTTOM, 8] });
  const now = (Date.now() - start) / 60_000;
  const line = cooling.curve.map((p, i) => `${i ? 'L' : 'M'}${x(minutes(p.at))} ${y(p.cup_c)}`).join('');
  return (
    <>
      {passes.map((p) => (
        <g key={p.name}>
          <rect
            x={LEFT}
            width={Math.max(0, width - LEFT - 8)}
            y={y(p.from_c)}
            height={y(p.to_c) - y(p.from_c)}
            fill={p.asked ? 'var(--brass-wash)' : 'var(--sunk)'}
          />
          <text className={chart.tick} x={width - 14} y={(y(p.from_c) + y(p.to_c)) / 2 + 4} textAnchor="end">
            {p.name}
          </text>
        </g>
      ))}
      {[30, 50, 70].map((c) => (
        <text key={c} className={chart.tick} x={LEFT - 6} y={y(c) + 4} textAnchor="end">
          {degrees(c, 0)}
        </text>
      ))}
      {[0, 10, 20, 30, 40, 50].map((m) => (
        <text key={m} className={chart.tick} x={x(m)} y={HEIGHT - 6} textAnchor="middle">
          {m === 0 ? '0 min' : m}
        </text>
      ))}
      <path d={line} fill="none" stroke="var(--brass)" strokeWidth={2.5} />
      {cooling.readings
        .filter((r) => minutes(r.at) >= 0)
        .map((r) => (
          <circle key={r.at} cx={x(minutes(r.at))} cy={y(r.cup_c)} r={4} fill="var(--brass-deep)" />
        ))}
      {now >= 0 && now <= last && (
        <g>
          <line x1={x(now)} x2={x(now)} y1={8} y2={HEIGHT - BOTTOM} stroke="var(--ink)" strokeWidth={1.5} />
          <text className={chart.tick} x={x(now) + 6} y={18}>
            now {heat(cooling.now_c, 1)}
          </text>
        </g>
      )}
    </>
  );
}
