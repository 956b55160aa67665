import { useElementSize } from '@mantine/hooks';
import { fixed } from '../../ui/numbers';
import { hueOf, Penny } from '../../ui/Penny';
import { ratio, ratioAxis, ratioTick } from '../../ui/units';
import classes from '../chart.module.css';
import { ticksOf } from '../Sized';
import { panelScales, type Rung, ratioEnds } from './geometry';

type Fitted = { ratios: number[]; values: number[]; lows: number[]; highs: number[]; said: string };
export type Panel = { label: string; places: number; rungs: Rung[]; fitted?: Fitted | null };

const LEFT = 44;
const RIGHT = 14;
const PENNY_PX = 17;
const CAP_PX = 6;

/** TDS, yield and liking against brew ratio, one above the other, with 95 % intervals. This is where a ladder is read: a line is drawn
 * through the tested range and never beyond it. */
export function RatioLadder({ panels, ratios, height }: { panels: Panel[]; ratios: number[]; height: number }) {
  const { ref, width } = useElementSize();
  const bottom = height - 34;
  const each = (bottom - 6) / panels.length;
  const ends = ratioEnds(ratios.length ? ratios : [16]);
  const said = panels.map((p) => p.fitted?.said).filter(Boolean);
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
          <RatioTicks ends={ends} width={width} y={bottom + 8} tested={ratios} />
          <text className={classes.axis} x={(LEFT + width - RIGHT) / 2} y={height - 2} textAnchor="middle" aria-hidden>
            {ratioAxis()}
          </text>
        </svg>
      )}
      {said.length > 0 && <p className={`${classes.said} ${classes.ladderSaid}`}>{said.join(' ')}</p>}
    </div>
  );
}

type PanelDrawnProps = { panel: Panel; ends: readonly [number, number]; top: number; bottom: number; width: number };

function PanelDrawn({ panel, ends, top, bottom, width }: PanelDrawnProps) {
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
      {ticksOf(y, 3).map(({ at, said }) => (
        <g key={at} aria-hidden>
          <line className={classes.grid} x1={LEFT} x2={width - RIGHT} y1={y(at)} y2={y(at)} />
          <text className={classes.tick} x={LEFT - 6} y={y(at) + 4} textAnchor="end">
            {said}
          </text>
        </g>
      ))}
      {panel.fitted ? (
        <Line fitted={panel.fitted} x={x} y={y} top={top} bottom={bottom} />
      ) : (
        <polyline className={classes.join} points={sorted.map((r) => `${x(r.ratio)},${y(r.value)}`).join(' ')} />
      )}
      {sorted.map((r) => (
        <g
          key={r.key ?? r.letter}
          role="img"
          aria-label={`${r.name}, ${ratio(r.ratio)}: ${fixed(r.value, 2)} ${panel.label}`}
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

type LineProps = { fitted: Fitted; x: (v: number) => number; y: (v: number) => number; top: number; bottom: number };

/** The fitted line and its band, cut to the panel. */
function Line({ fitted, x, y, top, bottom }: LineProps) {
  const within = (v: number) => Math.min(bottom, Math.max(top, y(v)));
  const there = fitted.ratios.map((r, i) => `${x(r)},${within(fitted.highs[i]!)}`);
  const back = fitted.ratios.map((r, i) => `${x(r)},${within(fitted.lows[i]!)}`).reverse();
  return (
    <g aria-hidden>
      <polygon className={classes.band} points={[...there, ...back].join(' ')} />
      <polyline
        className={classes.fitted}
        points={fitted.ratios.map((r, i) => `${x(r)},${within(fitted.values[i]!)}`).join(' ')}
      />
    </g>
  );
}

/** An upright interval with caps, so that it shows behind its penny. */
function capped(x: number, low: number, high: number): string {
  return `M${x - CAP_PX} ${low}h${2 * CAP_PX}M${x - CAP_PX} ${high}h${2 * CAP_PX}M${x} ${low}V${high}`;
}

type RatioTicksProps = { ends: readonly [number, number]; width: number; y: number; tested: number[] };

function RatioTicks({ ends, width, y, tested }: RatioTicksProps) {
  const at = (ratio: number) => LEFT + ((ratio - ends[0]) / (ends[1] - ends[0])) * (width - LEFT - RIGHT);
  const first = Math.ceil(ends[0]);
  const count = Math.floor(ends[1]) - first + 1;
  return (
    <g aria-hidden>
      {tested.length > 1 && (
        <line
          className={classes.tested}
          x1={at(Math.min(...tested))}
          x2={at(Math.max(...tested))}
          y1={y - 16}
          y2={y - 16}
        >
          <title>the tested range</title>
        </line>
      )}
      {Array.from({ length: Math.min(count, 30) }, (_, i) => first + i).map((ratio) => (
        <text key={ratio} className={classes.tick} x={at(ratio)} y={y} textAnchor="middle">
          {ratioTick(ratio)}
        </text>
      ))}
    </g>
  );
}
