import { useElementSize } from '@mantine/hooks';
import { scaleLinear } from '@visx/scale';
import { clock } from '../../ui/numbers';
import { hueOf } from '../../ui/Penny';
import { heat } from '../../ui/units';
import chart from '../chart.module.css';
import classes from './DayChart.module.css';
import { lanesOf } from './lanes';

type Block = { brew: string; lane: string; label: string; start_s: number; end_s: number };
type Cup = {
  brew: string;
  letter: string;
  ready_s: number;
  poured_s: number;
  temperature_c: number;
  curve: number[][];
};

type DayChartProps = {
  blocks: Block[];
  cups: Cup[];
  tasting_s: number;
  low_c: number;
  high_c: number;
  /** Seconds since the day began, when it is now. */
  now_s?: number | undefined;
};

const LEFT = 132;
const RIGHT = 46;
const ROW = 30;
const CURVES = 190;
const AFTER_S = 600;

/** Lanes of hands, kettle, grinders and brewers over time; under them the cooling curves, meeting in one band at tasting. */
export function DayChart({ blocks, cups, tasting_s, low_c, high_c, now_s }: DayChartProps) {
  const { ref, width } = useElementSize();
  const lanes = lanesOf(blocks);
  const rows = lanes.reduce((n, l) => n + l.rows.length, 0);
  const top = 22;
  const lanesEnd = top + rows * ROW + lanes.length * 6;
  const height = lanesEnd + CURVES + 36;
  const x = scaleLinear<number>({
    domain: [0, tasting_s + AFTER_S],
    range: [LEFT, Math.max(LEFT + 10, width - RIGHT)],
  });
  const hottest = Math.max(high_c + 6, ...cups.flatMap((c) => c.curve.map((p) => p[1]!)));
  const coolest = Math.min(low_c - 4, ...cups.flatMap((c) => c.curve.map((p) => p[1]!)));
  const y = scaleLinear<number>({ domain: [coolest, hottest], range: [lanesEnd + CURVES, lanesEnd + 18] });
  const every = [60, 120, 300, 600, 900, 1800].find((s) => (tasting_s + AFTER_S) / s <= 14) ?? 3600;
  const ticks = Array.from({ length: Math.floor((tasting_s + AFTER_S) / every) + 1 }, (_, i) => i * every);
  let at = top;
  return (
    <div ref={ref}>
      {width > 0 && (
        <svg
          className={chart.svg}
          height={height}
          viewBox={`0 0 ${width} ${height}`}
          role="group"
          aria-label="The day in lanes, and how the cups cool"
        >
          {ticks.map((t) => (
            <g key={t} aria-hidden>
              <line className={chart.grid} x1={x(t)} x2={x(t)} y1={top - 4} y2={lanesEnd + CURVES} />
              <text className={chart.tick} x={x(t)} y={12} textAnchor="middle">
                {Math.round(t / 60)}
              </text>
            </g>
          ))}
          <text className={chart.axis} x={0} y={12}>
            minutes
          </text>
          {lanes.map((lane) => {
            const y0 = at;
            at += lane.rows.length * ROW + 6;
            return (
              <g key={lane.name}>
                <text className={classes.lane} x={0} y={y0 + ROW / 2 + 2}>
                  {short(lane.name)}
                  <title>{lane.name}</title>
                </text>
                {lane.rows.map((row, r) =>
                  row.map((b) => (
                    <BlockBox
                      key={`${b.brew}${b.start_s}${b.label}`}
                      block={b}
                      x={x}
                      y={y0 + r * ROW}
                      passive={lane.passive}
                    />
                  )),
                )}
              </g>
            );
          })}
          <rect
            className={classes.band}
            x={LEFT}
            y={y(high_c)}
            width={width - LEFT - RIGHT}
            height={y(low_c) - y(high_c)}
          />
          <text className={classes.bandLabel} x={LEFT - 8} y={y(high_c) + 4} textAnchor="end">
            {heat(high_c)}
          </text>
          <text className={classes.bandLabel} x={LEFT - 8} y={y(low_c) + 4} textAnchor="end">
            {heat(low_c)}
          </text>
          <text className={classes.lane} x={0} y={lanesEnd + 30}>
            Cups cool
          </text>
          {cups.map((c) => (
            <path key={c.brew} className={classes.curve} style={{ stroke: hueOf(c.letter) }} d={pathOf(c.curve, x, y)}>
              <title>{`${c.brew}: ${heat(c.temperature_c, 1)} at tasting`}</title>
            </path>
          ))}
          {startLabels(cups, x, y).map((l) => (
            <text
              key={l.brew}
              className={classes.cupLabel}
              style={{ fill: hueOf(l.letter) }}
              x={l.x}
              y={l.y}
              textAnchor="middle"
            >
              {l.brew}
            </text>
          ))}
          <line className={classes.tasting} x1={x(tasting_s)} x2={x(tasting_s)} y1={top - 4} y2={lanesEnd + CURVES} />
          <text className={classes.tastingLabel} x={x(tasting_s)} y={height - 16} textAnchor="middle">
            taste at {clock(tasting_s)}
          </text>
          {now_s !== undefined && now_s > 0 && now_s < tasting_s + AFTER_S && (
            <g>
              <line className={classes.now} x1={x(now_s)} x2={x(now_s)} y1={top - 4} y2={lanesEnd + CURVES} />
              <text className={classes.nowLabel} x={x(now_s)} y={height - 2} textAnchor="middle">
                now
              </text>
            </g>
          )}
        </svg>
      )}
    </div>
  );
}

/** "brewer: Binnacle flat bed, three-hole" → "Binnacle flat bed". */
function short(lane: string): string {
  const name = lane.includes(': ') ? lane.slice(lane.indexOf(': ') + 2) : lane.charAt(0).toUpperCase() + lane.slice(1);
  return name.length > 19 ? `${name.slice(0, 18).trimEnd()}…` : name;
}

type X = (s: number) => number;

function BlockBox({ block, x, y, passive }: { block: Block; x: X; y: number; passive: boolean }) {
  const left = x(block.start_s);
  const wide = Math.max(2.5, x(block.end_s) - left - 1);
  return (
    <g
      className={classes.block}
      data-passive={passive}
      style={{ '--hue': hueOf(block.brew.charAt(0)) } as React.CSSProperties}
    >
      <rect x={left} y={y + 2} width={wide} height={ROW - 6} rx={3} />
      {wide > 19 && (
        <text x={left + wide / 2} y={y + ROW / 2 + 3.5} textAnchor="middle">
          {block.brew}
        </text>
      )}
      <title>{`${block.brew}, ${clock(block.start_s)} to ${clock(block.end_s)}: ${block.label}`}</title>
    </g>
  );
}

function pathOf(curve: number[][], x: X, y: X): string {
  return curve.map((p, i) => `${i ? 'L' : 'M'}${x(p[0]!).toFixed(1)} ${y(p[1]!).toFixed(1)}`).join('');
}

/** Each cup's name stands where its curve begins, two close ones not on each other. */
function startLabels(cups: Cup[], x: X, y: X) {
  const out: { brew: string; letter: string; x: number; y: number }[] = [];
  for (const c of [...cups].sort((a, b) => a.ready_s - b.ready_s)) {
    const [s, t] = c.curve[0] as [number, number];
    const at = { brew: c.brew, letter: c.letter, x: x(s), y: y(t) - 6 };
    const last = out.at(-1);
    if (last && at.x - last.x < 22) at.x = last.x + 22;
    out.push(at);
  }
  return out;
}
