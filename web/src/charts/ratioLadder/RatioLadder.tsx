import { useElementSize } from '@mantine/hooks';
import { fixed } from '../../ui/numbers';
import { hueOf, Penny } from '../../ui/Penny';
import classes from '../chart.module.css';
import { panelScales, type Rung, ratioEnds } from './geometry';

type Panel = { label: string; places: number; rungs: Rung[] };

const LEFT = 44;
const RIGHT = 14;
const PENNY_PX = 17;
const CAP_PX = 6;

/** TDS and yield against brew ratio, one above the other, with 95 % intervals. This is where a ladder is read. */
export function RatioLadder({ panels, ratios, height }: { panels: Panel[]; ratios: number[]; height: number }) {
  const { ref, width } = useElementSize();
  const bottom = height - 34;
  const each = (bottom - 6) / panels.length;
  const ends = ratioEnds(ratios.length ? ratios : [16]);
  return (
    <div ref={ref}>
      {width > 0 && (
        <svg
          className={classes.svg}
          height={height}
          viewBox={`0 0 ${width} ${height}`}
          role="group"
          aria-label="Strength and yield against brew ratio"
        >
          {panels.map((panel, i) => (
            <PanelDrawn
              key={panel.label}
              panel={panel}
              ends={ends}
              top={6 + i * each}
              bottom={6 + (i + 1) * each - 12}
              width={width}
            />
          ))}
          <RatioTicks ends={ends} width={width} y={bottom + 8} />
          <text className={classes.axis} x={(LEFT + width - RIGHT) / 2} y={height - 2} textAnchor="middle" aria-hidden>
            brew ratio, water in
          </text>
        </svg>
      )}
    </div>
  );
}

function PanelDrawn({
  panel,
  ends,
  top,
  bottom,
  width,
}: {
  panel: Panel;
  ends: readonly [number, number];
  top: number;
  bottom: number;
  width: number;
}) {
  const { rungs } = panel;
  if (!rungs.length) {
    return (
      <g>
        <rect className={classes.plot} x={LEFT} y={top} width={width - LEFT - RIGHT} height={bottom - top} />
        <text className={classes.empty} x={(LEFT + width - RIGHT) / 2} y={(top + bottom) / 2} textAnchor="middle">
          {`no ${panel.label} yet`}
        </text>
      </g>
    );
  }
  const { x, y } = panelScales(rungs, ends, { left: LEFT, right: width - RIGHT, top: top + 16, bottom });
  const sorted = [...rungs].sort((a, b) => a.ratio - b.ratio);
  return (
    <g>
      <rect className={classes.plot} x={LEFT} y={top} width={width - LEFT - RIGHT} height={bottom - top} />
      <text className={classes.axis} x={LEFT + 6} y={top + 15} aria-hidden>
        {panel.label}
      </text>
      {y.ticks(3).map((tick) => (
        <g key={tick} aria-hidden>
          <line className={classes.grid} x1={LEFT} x2={width - RIGHT} y1={y(tick)} y2={y(tick)} />
          <text className={classes.tick} x={LEFT - 6} y={y(tick) + 4} textAnchor="end">
            {tick.toFixed(panel.places)}
          </text>
        </g>
      ))}
      <polyline className={classes.join} points={sorted.map((r) => `${x(r.ratio)},${y(r.value)}`).join(' ')} />
      {sorted.map((r) => (
        <g
          key={r.letter}
          role="img"
          aria-label={`${r.name}, 1:${r.ratio.toFixed(1)}: ${fixed(r.value, 2)} ${panel.label}`}
        >
          <title>{`${r.letter} · ${r.name}: ${fixed(r.value, 2)} (${fixed(r.low, 2)} to ${fixed(r.high, 2)})`}</title>
          <path
            className={classes.interval}
            style={{ stroke: hueOf(r.letter) }}
            d={capped(x(r.ratio), y(r.low), y(r.high))}
          />
          <g transform={`translate(${x(r.ratio) - PENNY_PX / 2} ${y(r.value) - PENNY_PX / 2})`}>
            <Penny stamp={r.letter} size={PENNY_PX} />
          </g>
        </g>
      ))}
    </g>
  );
}

/** An upright interval with caps, so that it shows behind its penny. */
function capped(x: number, low: number, high: number): string {
  return `M${x - CAP_PX} ${low}h${2 * CAP_PX}M${x - CAP_PX} ${high}h${2 * CAP_PX}M${x} ${low}V${high}`;
}

function RatioTicks({ ends, width, y }: { ends: readonly [number, number]; width: number; y: number }) {
  const at = (ratio: number) => LEFT + ((ratio - ends[0]) / (ends[1] - ends[0])) * (width - LEFT - RIGHT);
  const first = Math.ceil(ends[0]);
  const count = Math.floor(ends[1]) - first + 1;
  return (
    <g aria-hidden>
      {Array.from({ length: Math.min(count, 30) }, (_, i) => first + i).map((ratio) => (
        <text key={ratio} className={classes.tick} x={at(ratio)} y={y} textAnchor="middle">
          {`1:${ratio}`}
        </text>
      ))}
    </g>
  );
}
