import { useElementSize } from '@mantine/hooks';
import { scaleLinear } from '@visx/scale';
import chart from '../../charts/chart.module.css';
import { ticksOf } from '../../charts/Sized';
import classes from './Kit.module.css';
import type { Pair, Scale, Translation } from './queries';

type TwoScalesProps = {
  from: Scale;
  to: Scale;
  /** The matches between these two. */
  pairs: Pair[];
  setting: number | null;
  found: Translation | undefined;
  onSetting: (setting: number) => void;
};

const HEIGHT = 268;
const TOP = 62;
const BOTTOM = 196;
const EDGE = 26;

/** Two grinders' scales side by side, each in its own numbers, finer to the left on both; matches join them. */
export function TwoScales({ from, to, pairs, setting, found, onSetting }: TwoScalesProps) {
  const { ref, width } = useElementSize();
  const upper = axisOf(from, [...from.matched, setting], width);
  const lower = axisOf(to, [...to.matched, found?.low, found?.high], width);
  const pick = (event: React.PointerEvent<SVGRectElement>) => {
    const box = event.currentTarget.ownerSVGElement!.getBoundingClientRect();
    const value = upper.invert(event.clientX - box.left);
    onSetting(Number((Math.round(value / from.step) * from.step).toFixed(3)));
  };
  return (
    <div ref={ref} className={classes.ladder}>
      {width > 0 && (
        <svg
          className={chart.svg}
          height={HEIGHT}
          viewBox={`0 0 ${width} ${HEIGHT}`}
          role="img"
          aria-label={describe(from, to, setting, found)}
        >
          <text className={classes.scaleName} x={EDGE} y={16}>
            {from.name}
          </text>
          <text className={classes.scaleName} x={EDGE} y={HEIGHT - 8}>
            {to.name}
          </text>
          <text className={classes.scaleWord} x={EDGE} y={(TOP + BOTTOM) / 2}>
            ← finer
          </text>
          <text className={classes.scaleWord} x={width - EDGE} y={(TOP + BOTTOM) / 2} textAnchor="end">
            coarser →
          </text>
          {pairs.map((p) => {
            const [a, b] = p.a_id === from.id ? [p.a_setting, p.b_setting] : [p.b_setting, p.a_setting];
            return (
              <line
                key={p.id}
                className={classes.joined}
                data-match={p.match}
                data-fault={p.at_fault}
                x1={upper(a)}
                y1={TOP}
                x2={lower(b)}
                y2={BOTTOM}
              >
                <title>{`${a} = ${b}, ${p.match_label}`}</title>
              </line>
            );
          })}
          <Rail scale={upper} y={TOP} above />
          <Rail scale={lower} y={BOTTOM} />
          {/* The upper scale can be pressed anywhere: the number field does the same by keyboard. */}
          <rect
            x={EDGE}
            y={TOP - 26}
            width={Math.max(0, width - 2 * EDGE)}
            height={44}
            fill="transparent"
            style={{ cursor: 'pointer' }}
            onPointerDown={pick}
          />
          {setting !== null && (
            <g pointerEvents="none">
              {found && (
                <line className={classes.found} x1={upper(setting)} y1={TOP} x2={lower(found.setting)} y2={BOTTOM} />
              )}
              <circle className={classes.bead} cx={upper(setting)} cy={TOP} r={9} />
              <text
                className={classes.beadLabel}
                x={upper(setting)}
                y={TOP - 32 + 6}
                textAnchor="middle"
                stroke="var(--surface)"
                strokeWidth={6}
                paintOrder="stroke"
              >
                {setting}
              </text>
              {found && (
                <>
                  <rect
                    className={classes.spread}
                    x={Math.min(lower(found.low), lower(found.high))}
                    y={BOTTOM - 8}
                    width={Math.max(3, Math.abs(lower(found.high) - lower(found.low)))}
                    height={16}
                    rx={8}
                  />
                  <circle className={classes.bead} cx={lower(found.setting)} cy={BOTTOM} r={9} />
                  <text
                    className={classes.beadLabel}
                    x={lower(found.setting)}
                    y={BOTTOM + 34}
                    textAnchor="middle"
                    stroke="var(--surface)"
                    strokeWidth={6}
                    paintOrder="stroke"
                  >
                    {found.nearest}
                  </text>
                </>
              )}
            </g>
          )}
        </svg>
      )}
    </div>
  );
}

type Axis = ReturnType<typeof axisOf>;

/** A scale's own numbers over the width; a scale where larger is finer runs the other way. */
function axisOf(scale: Scale, values: (number | null | undefined)[], width: number) {
  const known = values.filter((v): v is number => typeof v === 'number');
  const low = known.length ? Math.min(...known) : 0;
  const high = known.length ? Math.max(...known) : 10;
  const room = Math.max(2 * scale.step, (high - low) * 0.12);
  const domain = scale.direction === 'larger_is_finer' ? [high + room, low - room] : [low - room, high + room];
  return scaleLinear<number>({ domain, range: [EDGE, Math.max(EDGE + 1, width - EDGE)] });
}

function Rail({ scale, y, above }: { scale: Axis; y: number; above?: boolean }) {
  const [left, right] = scale.range() as [number, number];
  return (
    <g aria-hidden>
      <line className={classes.rail} x1={left} x2={right} y1={y} y2={y} />
      {ticksOf(scale, 8).map(({ at, said }) => (
        <g key={at}>
          <line className={classes.notch} x1={scale(at)} x2={scale(at)} y1={y} y2={above ? y - 8 : y + 8} />
          <text className={chart.tick} x={scale(at)} y={above ? y - 12 : y + 20} textAnchor="middle">
            {said}
          </text>
        </g>
      ))}
    </g>
  );
}

function describe(from: Scale, to: Scale, setting: number | null, found: Translation | undefined): string {
  if (setting === null || !found) return `Scales of ${from.name} and ${to.name}`;
  return `${from.name} ${setting} is ${to.name} ${found.nearest}, ${found.low} to ${found.high}`;
}
