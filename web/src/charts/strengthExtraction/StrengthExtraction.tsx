import { useElementSize } from '@mantine/hooks';
import { fixed } from '../../ui/numbers';
import { hueOf, Penny } from '../../ui/Penny';
import classes from '../chart.module.css';
import { type Ends, type Frame, lineOnChart, scalesOf } from './geometry';

type Interval = { value: number; low: number; high: number };
export type ChartPoint = { key: string; letter: string; label: string; ey: Interval; tds: Interval };

type StrengthExtractionProps = {
  points: ChartPoint[];
  lines: { brew_ratio: number; points: number[][] }[];
  windows: { code: string; label: string; about: string; ey_pct: number[]; tds_pct: number[] }[];
  eyEnds: Ends;
  tdsEnds: Ends;
  schoolLabel: string;
  height: number;
};

const PENNY_PX = 24;

/** Extraction yield across, strength up; ellipses are 95 % intervals; lines are brews of equal ratio. */
export function StrengthExtraction({
  points,
  lines,
  windows,
  eyEnds,
  tdsEnds,
  schoolLabel,
  height,
}: StrengthExtractionProps) {
  const { ref, width } = useElementSize();
  const frame: Frame = { width, height, left: 44, right: 40, top: 38, bottom: 40 };
  const scales = scalesOf(frame, eyEnds, tdsEnds);
  const drawn = lines
    .map((line) => lineOnChart(line.points, line.brew_ratio, scales, tdsEnds))
    .filter((x) => x !== null);
  return (
    <div ref={ref}>
      {width > 0 && (
        <svg
          className={classes.svg}
          height={height}
          viewBox={`0 0 ${width} ${height}`}
          role="group"
          aria-label={`Strength against ${schoolLabel}, ${points.length} brews`}
        >
          <rect
            className={classes.plot}
            x={frame.left}
            y={frame.top}
            width={width - frame.left - frame.right}
            height={height - frame.top - frame.bottom}
          />
          {windows.map((w) => (
            <g key={w.code}>
              <rect
                className={classes.window}
                x={scales.x(w.ey_pct[0]!)}
                y={scales.y(w.tds_pct[1]!)}
                width={scales.x(w.ey_pct[1]!) - scales.x(w.ey_pct[0]!)}
                height={scales.y(w.tds_pct[0]!) - scales.y(w.tds_pct[1]!)}
              >
                <title>{w.about}</title>
              </rect>
              <text className={classes.windowLabel} x={scales.x(w.ey_pct[0]!) + 6} y={scales.y(w.tds_pct[0]!) - 7}>
                {w.label}
              </text>
            </g>
          ))}
          {drawn.map((line) => (
            <g key={line.label} aria-hidden>
              <path className={classes.ratio} d={line.path} />
              <text className={classes.ratioLabel} x={line.labelX} y={line.labelY} textAnchor={line.anchor}>
                {line.label}
              </text>
            </g>
          ))}
          <Axes frame={frame} scales={scales} schoolLabel={schoolLabel} />
          {points.map((p) => (
            <ellipse
              key={p.key}
              className={classes.ellipse}
              style={{ fill: hueOf(p.letter), stroke: hueOf(p.letter) }}
              cx={scales.x(p.ey.value)}
              cy={scales.y(p.tds.value)}
              rx={Math.max(1, (scales.x(p.ey.high) - scales.x(p.ey.low)) / 2)}
              ry={Math.max(1, (scales.y(p.tds.low) - scales.y(p.tds.high)) / 2)}
            />
          ))}
          {points.map((p) => (
            <g
              key={p.key}
              className={classes.point}
              role="img"
              tabIndex={0}
              aria-label={`${p.label}: ${fixed(p.tds.value)} % TDS, ${fixed(p.ey.value, 1)} % ${schoolLabel}`}
              transform={`translate(${scales.x(p.ey.value) - PENNY_PX / 2} ${scales.y(p.tds.value) - PENNY_PX / 2})`}
            >
              <title>{`${p.label}: ${fixed(p.tds.value)} % TDS, ${fixed(p.ey.value, 1)} % (${fixed(p.ey.low, 1)} to ${fixed(p.ey.high, 1)})`}</title>
              <Penny stamp={p.letter} size={PENNY_PX} label={p.label} />
            </g>
          ))}
          {points.length === 0 && (
            <text className={classes.empty} x={width / 2} y={height / 2} textAnchor="middle">
              A brew stands here once it has a reading and a beverage mass.
            </text>
          )}
        </svg>
      )}
    </div>
  );
}

function Axes({
  frame,
  scales,
  schoolLabel,
}: {
  frame: Frame;
  scales: ReturnType<typeof scalesOf>;
  schoolLabel: string;
}) {
  const base = frame.height - frame.bottom;
  return (
    <g aria-hidden>
      {scales.x.ticks(8).map((tick) => (
        <text key={tick} className={classes.tick} x={scales.x(tick)} y={base + 16} textAnchor="middle">
          {tick}
        </text>
      ))}
      {scales.y.ticks(7).map((tick) => (
        <text key={tick} className={classes.tick} x={frame.left - 7} y={scales.y(tick) + 4} textAnchor="end">
          {tick.toFixed(1)}
        </text>
      ))}
      <text
        className={classes.axis}
        x={(frame.left + frame.width - frame.right) / 2}
        y={frame.height - 6}
        textAnchor="middle"
      >
        {`${schoolLabel}, % of the dose`}
      </text>
      <text className={classes.axis} x={4} y={12}>
        strength, % TDS
      </text>
    </g>
  );
}
