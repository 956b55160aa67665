import { useElementSize } from '@mantine/hooks';
import { scaleLinear } from '@visx/scale';
import { clock, fixed } from '../../ui/numbers';
import classes from './Along.module.css';
import type { LiveBrew } from './queries';

type LiveStairsProps = { brew: LiveBrew; elapsed_s: number; scale_g: number | null; plan_g: number };

/** Each pour is a stair as high as its target; the current one fills as the scale rises; done ones keep their reading on the tread. */
export function LiveStairs({ brew, elapsed_s, scale_g, plan_g }: LiveStairsProps) {
  const { ref, width, height } = useElementSize();
  const pours = brew.steps.filter((s) => s.to_g !== null);
  const doneAt = new Map(brew.marks.filter((m) => m.kind === 'step_done').map((m) => [m.index, m.reading_g]));
  const last = Math.max(brew.total_s, ...brew.steps.map((s) => s.end_s), 10);
  const x = scaleLinear<number>({ domain: [0, last], range: [4, Math.max(20, width - 4)] });
  const y = scaleLinear<number>({
    domain: [0, Math.max(1, ...pours.map((p) => p.to_g!)) * 1.02],
    range: [height - 34, 46],
  });
  const current = pours.find((p) => !doneAt.has(p.index));
  return (
    <div ref={ref} className={classes.stairs}>
      {width > 0 && (
        <svg width={width} height={height} role="img" aria-label={`Pour staircase, scale at ${fixed(scale_g, 0)} g`}>
          {pours.map((p, i) => {
            const left = x(p.start_s);
            const wide = Math.max(6, x(pours[i + 1]?.start_s ?? last) - left - 5);
            const done = doneAt.get(p.index);
            const isDone = doneAt.has(p.index);
            const isNow = p === current;
            const full = isDone ? (done ?? p.to_g!) : isNow ? Math.max(0, scale_g ?? 0) : 0;
            const filled = Math.min(full, p.to_g! * 1.02);
            return (
              <g key={p.index} className={classes.stair} data-state={isDone ? 'done' : isNow ? 'now' : 'next'}>
                <rect className={classes.box} x={left} y={y(p.to_g!)} width={wide} height={y(0) - y(p.to_g!)} />
                <rect
                  className={classes.fill}
                  x={left}
                  y={y(filled)}
                  width={wide}
                  height={Math.max(0, y(0) - y(filled))}
                />
                <rect className={classes.tread} x={left} y={y(p.to_g!) - 2} width={wide} height={4} />
                <text className={classes.tag} x={left + 6} y={y(p.to_g!) - 12}>
                  {isDone && done != null ? fixed(done, 1) : fixed(p.to_g, 0)}
                  {isDone && done != null && wide > 110 && <tspan className={classes.of}> of {fixed(p.to_g, 0)}</tspan>}
                </text>
                <text className={classes.time} x={left + 2} y={height - 12}>
                  {clock(p.start_s)}
                </text>
              </g>
            );
          })}
          {current && brew.started_at && plan_g > current.from_g && plan_g < current.to_g! && (
            <g>
              <line className={classes.planLine} x1={x(current.start_s)} x2={width - 4} y1={y(plan_g)} y2={y(plan_g)} />
              <text className={classes.planWord} x={width - 12} y={y(plan_g) - 6} textAnchor="end">
                plan now {fixed(plan_g, 0)}
              </text>
            </g>
          )}
          {brew.started_at && (
            <path className={classes.nowMark} d={`M${x(Math.min(elapsed_s, last))} ${height - 34}l-8 12h16z`} />
          )}
        </svg>
      )}
    </div>
  );
}
