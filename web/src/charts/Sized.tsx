import { useElementSize } from '@mantine/hooks';
import type { ReactNode } from 'react';
import chart from './chart.module.css';

type Scale = ((value: number) => number) & {
  ticks: (count?: number) => number[];
  tickFormat: (count?: number) => (value: number) => string;
};

/** Where the ticks are and what each says: as fine as their step, so that no two read the same. */
export const ticksOf = (scale: Scale, count: number) => {
  const said = scale.tickFormat(count);
  return scale.ticks(count).map((at) => ({ at, said: said(at) }));
};

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
  lines = true,
}: {
  y: Scale;
  left: number;
  right: number;
  count?: number;
  lines?: boolean;
}) {
  return (
    <g aria-hidden>
      {ticksOf(y, count).map(({ at, said }) => (
        <g key={at}>
          {lines && <line className={chart.grid} x1={left} x2={right} y1={y(at)} y2={y(at)} />}
          <text className={chart.tick} x={left - 6} y={y(at) + 4} textAnchor="end">
            {said}
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
  said: saidAs,
}: {
  x: Scale;
  y: number;
  label: string;
  labelY: number;
  middle: number;
  count?: number;
  /** How a tick is told, where not as the axis's own numbers. */
  said?: (value: number) => string;
}) {
  return (
    <g aria-hidden>
      {ticksOf(x, count).map(({ at, said }) => (
        <text key={at} className={chart.tick} x={x(at)} y={y} textAnchor="middle">
          {saidAs ? saidAs(at) : said}
        </text>
      ))}
      <text className={chart.axis} x={middle} y={labelY} textAnchor="middle">
        {label}
      </text>
    </g>
  );
}
