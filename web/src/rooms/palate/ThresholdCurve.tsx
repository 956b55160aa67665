import { scaleLinear, scaleLog } from '@visx/scale';
import chart from '../../charts/chart.module.css';
import { Sized } from '../../charts/Sized';
import { apartIn, apartUnit } from '../../ui/units';
import type { Taster } from './queries';

const HEIGHT = 260;
const LEFT = 44;
const RIGHT = 14;
const BOTTOM = 46;

/** Share right along the steps: answers as dots as large as they are many, the curve believed with its band, the threshold with its interval. */
export function ThresholdCurve({ taster }: { taster: Taster }) {
  return (
    <Sized height={HEIGHT} label={`${taster.name}: share right by step`} role="img">
      {(width) => <Drawn taster={taster} width={width} />}
    </Sized>
  );
}

function Drawn({ taster, width }: { taster: Taster; width: number }) {
  const right = Math.max(LEFT + 40, width - RIGHT);
  const x = scaleLog<number>({
    domain: [taster.curve[0]!.step, taster.curve[taster.curve.length - 1]!.step],
    range: [LEFT, right],
  });
  const y = scaleLinear<number>({ domain: [0, 1], range: [HEIGHT - BOTTOM, 12] });
  const line = (of: 'share' | 'high') =>
    taster.curve.map((p, i) => `${i ? 'L' : 'M'}${x(p.step)} ${y(p[of])}`).join('');
  const back = [...taster.curve]
    .reverse()
    .map((p) => `L${x(p.step)} ${y(p.low)}`)
    .join('');
  return (
    <>
      {[0, 0.25, 0.5, 0.75, 1].map((share) => (
        <g key={share}>
          <line
            className={chart.grid}
            x1={LEFT}
            x2={right}
            y1={y(share)}
            y2={y(share)}
            strokeDasharray={share === 0.75 ? '5 3' : undefined}
          />
          <text className={chart.tick} x={LEFT - 6} y={y(share) + 4} textAnchor="end">
            {share * 100}
          </text>
        </g>
      ))}
      {taster.at_steps.map((a) => (
        <text key={a.step} className={chart.tick} x={x(a.step)} y={HEIGHT - BOTTOM + 16} textAnchor="middle">
          {apartIn(a.step, taster.unit)}
        </text>
      ))}
      <text className={chart.axis} x={(LEFT + right) / 2} y={HEIGHT - 6} textAnchor="middle">
        step, {apartUnit(taster.unit)} · share right, %
      </text>
      <path className={chart.band} d={`${line('high')}${back}Z`} />
      <path className={chart.fitted} d={line('share')} />
      {taster.told !== null && taster.interval !== null && (
        <g>
          <line
            x1={x(Math.max(taster.interval[0]!, taster.curve[0]!.step))}
            x2={x(Math.min(taster.interval[1]!, taster.curve[taster.curve.length - 1]!.step))}
            y1={y(0.75)}
            y2={y(0.75)}
            stroke="var(--verdigris)"
            strokeWidth={5}
          />
          <path d={`M${x(taster.told)} ${y(0.75) - 5}l6 -9h-12z`} fill="var(--verdigris)" stroke="var(--surface)" />
        </g>
      )}
      {taster.at_steps.map((a) => (
        <circle
          key={a.step}
          cx={x(a.step)}
          cy={y(a.right / a.of)}
          r={Math.min(11, 3 + 1.6 * Math.sqrt(a.of))}
          fill="var(--brass)"
          stroke="var(--ink)"
        >
          <title>{`${a.right} of ${a.of} right at ${apartIn(a.step, taster.unit)} ${apartUnit(taster.unit)}`}</title>
        </circle>
      ))}
    </>
  );
}
