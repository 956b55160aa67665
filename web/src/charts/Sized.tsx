import { useElementSize } from '@mantine/hooks';
import type { ReactNode } from 'react';
import { fixed } from '../ui/numbers';
import chart from './chart.module.css';

type Scale = ((value: number) => number) & { ticks: (count?: number) => number[] };

/** A drawing as wide as its place. role "img" when nothing in it is read out on its own. */
export function Sized({
  height,
  label,
  role = 'group',
  children,
}: {
  height: number;
  label: string;
  role?: 'group' | 'img';
  children: (width: number) => ReactNode;
}) {
  const { ref, width } = useElementSize();
  return (
    <div ref={ref}>
      {width > 0 && (
        <svg className={chart.svg} height={height} viewBox={`0 0 ${width} ${height}`} role={role} aria-label={label}>
          {children(width)}
        </svg>
      )}
    </div>
  );
}

/** Numbers up the left side, each with a line across. */
export function YTicks({
  y,
  left,
  right,
  count = 4,
  places = 0,
  lines = true,
}: {
  y: Scale;
  left: number;
  right: number;
  count?: number;
  places?: number;
  lines?: boolean;
}) {
  return (
    <g aria-hidden>
      {y.ticks(count).map((t) => (
        <g key={t}>
          {lines && <line className={chart.grid} x1={left} x2={right} y1={y(t)} y2={y(t)} />}
          <text className={chart.tick} x={left - 6} y={y(t) + 4} textAnchor="end">
            {Number.isInteger(t) && places === 0 ? t : fixed(t, Math.max(1, places))}
          </text>
        </g>
      ))}
    </g>
  );
}

/** Numbers along the foot, and what they are. */
export function XTicks({
  x,
  y,
  label,
  labelY,
  middle,
  count = 5,
  places = 0,
}: {
  x: Scale;
  y: number;
  label: string;
  labelY: number;
  middle: number;
  count?: number;
  places?: number;
}) {
  return (
    <g aria-hidden>
      {x.ticks(count).map((t) => (
        <text key={t} className={chart.tick} x={x(t)} y={y} textAnchor="middle">
          {places === 0 && Number.isInteger(t) ? t : fixed(t, Math.max(1, places))}
        </text>
      ))}
      <text className={chart.axis} x={middle} y={labelY} textAnchor="middle">
        {label}
      </text>
    </g>
  );
}
