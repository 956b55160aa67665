import { scaleLog } from '@visx/scale';
import chart from '../../charts/chart.module.css';
import { Sized } from '../../charts/Sized';
import { apartIn, apartUnit } from '../../ui/units';
import type { PalateRoom, Taster } from './queries';

const ROW = 18;
const TOP = 12;
const BOTTOM = 40;
const SIDE = 26;

/** Every taster's threshold with its interval, without a name and in no order of theirs, and the middle of them across. */
export function PanelStrip({ panel, tasters }: { panel: PalateRoom['panels'][number]; tasters: Taster[] }) {
  const told = tasters.filter((t) => t.axis === panel.axis && t.told !== null && t.interval !== null);
  if (!told.length) return null;
  const height = TOP + ROW * told.length + BOTTOM;
  const foot = TOP + ROW * told.length;
  return (
    <Sized height={height} label={`${panel.text} Intervals of ${told.length} tasters, unnamed.`} role="img">
      {(width) => {
        const x = scaleLog<number>({
          domain: [
            Math.min(...told.map((t) => t.interval![0]!)) * 0.8,
            Math.max(...told.map((t) => t.interval![1]!)) * 1.25,
          ],
          range: [SIDE, Math.max(SIDE + 40, width - SIDE)],
        });
        return (
          <>
            <line
              x1={x(panel.middle)}
              x2={x(panel.middle)}
              y1={4}
              y2={foot}
              stroke="var(--verdigris)"
              strokeWidth={2}
              strokeDasharray="5 3"
            />
            {told.map((t, i) => {
              const y = TOP + ROW * i + ROW / 2;
              return (
                <g key={t.person_id}>
                  <line
                    x1={x(t.interval![0]!)}
                    x2={x(t.interval![1]!)}
                    y1={y}
                    y2={y}
                    stroke="var(--brass-deep)"
                    strokeWidth={3}
                  />
                  <circle cx={x(t.told!)} cy={y} r={6} fill="var(--brass)" stroke="var(--ink)" />
                </g>
              );
            })}
            {TICKS.filter((v) => v >= x.domain()[0]! && v <= x.domain()[1]!).map((v) => (
              <text key={v} className={chart.tick} x={x(v)} y={foot + 16} textAnchor="middle">
                {apartIn(v, panel.unit)}
              </text>
            ))}
            <text className={chart.axis} x={width / 2} y={foot + 34} textAnchor="middle">
              told apart three times in four, {apartUnit(panel.unit)}
            </text>
          </>
        );
      }}
    </Sized>
  );
}

const TICKS = [0.02, 0.05, 0.1, 0.2, 0.5, 1, 2, 5, 10, 20, 50];
