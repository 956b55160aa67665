import { useElementSize } from '@mantine/hooks';
import { useRef } from 'react';
import { clock, fixed } from '../../ui/numbers';
import chart from '../chart.module.css';
import { type Box, type Stair, scalesOf, stairsOf, timeTicks } from './geometry';
import classes from './Staircase.module.css';

type StaircaseProps = {
  timeline: Parameters<typeof stairsOf>[0];
  total_s: number;
  /** The time window of the whole brew, s. */
  window_s?: (number | null)[] | undefined;
  height: number;
  /** Both axes may be fixed, so that several staircases compare. */
  most_s?: number;
  most_g?: number;
  selected?: number | null;
  onSelect?: (index: number) => void;
  /** Moves a pour: its reading by so many grams, its start and its end by so many seconds. */
  onMove?: (index: number, by: { g: number; start_s: number; end_s: number }) => void;
};

const KEYS: Record<string, [g: number, s: number]> = {
  ArrowUp: [1, 0],
  ArrowDown: [-1, 0],
  ArrowLeft: [0, -1],
  ArrowRight: [0, 1],
};

/** Each pour is a stair as high as its target; brass is being poured, pale is waiting. Stairs can be dragged or moved by arrow keys. */
export function Staircase(props: StaircaseProps) {
  const { timeline, total_s, window_s, height, selected, onSelect, onMove } = props;
  const { ref, width } = useElementSize();
  const { stairs, marks } = stairsOf(timeline, total_s);
  const latest = window_s?.[1] ?? total_s;
  const most_s = props.most_s ?? Math.max(total_s, latest, ...stairs.map((s) => s.end_s)) * 1.02;
  const most_g = props.most_g ?? Math.max(...stairs.map((s) => s.to_g), 10) * 1.04;
  const box: Box = { width, height, left: 8, right: 12, top: 30, bottom: 44 };
  const { x, y } = scalesOf(box, most_s, most_g);
  const base = y(0);
  return (
    <div ref={ref} className={classes.whole}>
      {width > 0 && (
        <svg
          className={chart.svg}
          height={height}
          viewBox={`0 0 ${width} ${height}`}
          role="group"
          aria-label="Pour staircase"
        >
          {window_s && (
            <DoneWindow low={window_s[0] ?? null} high={window_s[1] ?? null} x={x} top={box.top - 16} base={base} />
          )}
          {stairs.map((stair) => (
            <StairBox
              key={stair.index}
              stair={stair}
              x={x}
              y={y}
              selected={selected === stair.index}
              onSelect={onSelect}
              onMove={onMove}
            />
          ))}
          <line className={classes.base} x1={box.left} x2={width - box.right} y1={base} y2={base} />
          {timeTicks(most_s, width).map((t) => (
            <text key={t} className={chart.tick} x={x(t)} y={base + 16} textAnchor={t === 0 ? 'start' : 'middle'}>
              {clock(t)}
            </text>
          ))}
          {marks.map((mark, i) => (
            <g key={mark.index} className={classes.mark} data-selected={selected === mark.index} aria-hidden>
              <path d={`M${x(mark.at_s)} ${base - 1}l-4 8h8z`} />
              {i < 9 && (
                <text x={x(mark.at_s)} y={base + 34} textAnchor={x(mark.at_s) > width - 90 ? 'end' : 'start'}>
                  {marksApart(marks, i, x) ? mark.label.toLowerCase() : ''}
                </text>
              )}
            </g>
          ))}
          {stairs.length === 0 && (
            <text className={chart.empty} x={width / 2} y={height / 2} textAnchor="middle">
              A stair stands here for each pour.
            </text>
          )}
        </svg>
      )}
    </div>
  );
}

/** A mark is named when there is room up to the next one. */
function marksApart(marks: { at_s: number; label: string }[], i: number, x: (s: number) => number): boolean {
  const next = marks[i + 1];
  return !next || x(next.at_s) - x(marks[i]!.at_s) > 6.4 * marks[i]!.label.length;
}

type DoneWindowProps = { low: number | null; high: number | null; x: (s: number) => number; top: number; base: number };

/** When the brew is to be over: a stretch of time, or one end of it. */
function DoneWindow({ low, high, x, top, base }: DoneWindowProps) {
  if (low === null && high === null) return null;
  const at = x(high ?? low ?? 0);
  return (
    <g>
      {low !== null && high !== null && (
        <rect className={classes.window} x={x(low)} y={top} width={Math.max(2, at - x(low))} height={base - top} />
      )}
      {(low === null || high === null) && <line className={classes.windowEdge} x1={at} x2={at} y1={top} y2={base} />}
      <text className={classes.windowLabel} x={at - 4} y={top + 12} textAnchor="end">
        {low !== null && high !== null ? 'done' : high !== null ? 'done by' : 'done after'}
      </text>
    </g>
  );
}

type StairBoxProps = {
  stair: Stair;
  x: ReturnType<typeof scalesOf>['x'];
  y: ReturnType<typeof scalesOf>['y'];
  selected: boolean;
  onSelect?: StaircaseProps['onSelect'];
  onMove?: StaircaseProps['onMove'];
};

function StairBox({ stair, x, y, selected, onSelect, onMove }: StairBoxProps) {
  const held = useRef<{ px: number; py: number; edge: 'top' | 'end' | 'whole' } | null>(null);
  const left = x(stair.start_s);
  const top = y(stair.to_g);
  const wide = Math.max(3, x(stair.end_s) - left - 3);
  const poured = Math.max(2, Math.min(wide, x(stair.poured_s) - left));
  const low = stair.kind === 'bypass' ? y(stair.from_g) : y(0);
  const perGram = y(0) - y(1);
  const perSecond = x(1) - x(0);
  const pour = `${fixed(stair.to_g - stair.from_g, 0)} g`;

  const pressed = (event: React.KeyboardEvent) => {
    const step = KEYS[event.key];
    if (!step || !onMove) return;
    event.preventDefault();
    const times = event.shiftKey ? (step[0] ? 10 : 1) : 1;
    const longer = event.shiftKey && step[1] !== 0;
    onMove(stair.index, { g: step[0] * times, start_s: longer ? 0 : step[1], end_s: step[1] });
  };
  const grab = (edge: 'top' | 'end' | 'whole') => (event: React.PointerEvent) => {
    onSelect?.(stair.index);
    if (!onMove) return;
    (event.currentTarget as Element).setPointerCapture(event.pointerId);
    held.current = { px: event.clientX, py: event.clientY, edge };
    event.stopPropagation();
  };
  const drag = (event: React.PointerEvent) => {
    const from = held.current;
    if (!from || !onMove) return;
    const g = from.edge === 'end' ? 0 : Math.round((from.py - event.clientY) / perGram);
    const s = from.edge === 'top' ? 0 : Math.round((event.clientX - from.px) / perSecond);
    if (!g && !s) return;
    held.current = { ...from, px: from.px + s * perSecond, py: from.py - g * perGram };
    onMove(stair.index, { g, start_s: from.edge === 'end' ? 0 : s, end_s: s });
  };
  const letGo = () => {
    held.current = null;
  };
  const pointer = (edge: 'top' | 'end' | 'whole') => ({
    onPointerDown: grab(edge),
    onPointerMove: drag,
    onPointerUp: letGo,
    onPointerCancel: letGo,
  });

  return (
    <g
      className={classes.stair}
      data-selected={selected}
      data-kind={stair.kind}
      data-still={!onMove}
      {...(onMove && {
        role: 'slider',
        tabIndex: 0,
        'aria-label': `${stair.label}, ${clock(stair.start_s)} to ${clock(stair.poured_s)}`,
        'aria-valuenow': Math.round(stair.to_g),
        'aria-valuemin': 0,
        'aria-valuemax': 100_000,
        'aria-valuetext': `to ${fixed(stair.to_g, 0)} g, ${pour} of it here`,
        onKeyDown: pressed,
        onFocus: () => onSelect?.(stair.index),
      })}
    >
      <rect
        className={classes.wait}
        x={left}
        y={top}
        width={wide}
        height={Math.max(1, low - top)}
        {...pointer('whole')}
      />
      <rect
        className={classes.pour}
        x={left}
        y={top}
        width={poured}
        height={Math.max(1, low - top)}
        pointerEvents="none"
      />
      <rect className={classes.tread} x={left} y={top - 1.5} width={wide} height={3} pointerEvents="none" />
      {onMove && (
        <>
          <rect className={classes.topGrip} x={left} y={top - 7} width={wide} height={14} {...pointer('top')} />
          <rect
            className={classes.endGrip}
            x={left + poured - 6}
            y={top + 7}
            width={12}
            height={Math.max(1, low - top - 7)}
            {...pointer('end')}
          />
        </>
      )}
      <text
        className={classes.target}
        data-narrow={wide < 30 || undefined}
        x={left + 2}
        y={top - 7}
        pointerEvents="none"
      >
        {fixed(stair.to_g, 0)}
        {wide > 92 && stair.from_g > 0 && (
          <tspan className={classes.own}>{`  +${fixed(stair.to_g - stair.from_g, 0)} g`}</tspan>
        )}
      </text>
      {wide > 44 && low - top > 22 && (
        <text className={classes.name} x={left + 6} y={low - 8} pointerEvents="none">
          {stair.kind === 'hold_level' ? 'hold level' : stair.kind}
        </text>
      )}
    </g>
  );
}
