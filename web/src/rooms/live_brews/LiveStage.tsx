import { useElementSize } from '@mantine/hooks';
import { clock, fixed } from '../../ui/numbers';
import type { LiveBrew } from './queries';
import classes from './Stage.module.css';
import { type Stage, type Standing, secondsSaid, stageOf } from './stage';

type LiveStageProps = { brew: LiveBrew; standing: Standing; elapsed_s: number };

const NARROW = 560;

/** The staircase is the clock: the stair at hand fills the view, what is left rides on its tread, time runs along its foot. */
export function LiveStage({ brew, standing, elapsed_s }: LiveStageProps) {
  const { ref, width, height } = useElementSize();
  const stage = stageOf(brew, standing, elapsed_s);
  return (
    <div ref={ref} className={classes.stage}>
      {width > 0 && height > 0 && (
        <Drawn stage={stage} width={width} height={height} elapsed_s={elapsed_s} begun={brew.started_at !== null} />
      )}
    </div>
  );
}

type DrawnProps = { stage: Stage; width: number; height: number; elapsed_s: number; begun: boolean };

function Drawn({ stage, width, height, elapsed_s, begun }: DrawnProps) {
  const narrow = width < NARROW;
  const side = narrow ? 12 : Math.min(150, width * 0.14);
  const x0 = stage.past.length ? side : 6;
  const x1 = width - (stage.coming.length ? side : 6);
  const tread = height * 0.3;
  const foot = height * 0.78;
  const wide = x1 - x0;
  const big = Math.min(tread * 0.82, wide * (narrow ? 0.3 : 0.2));
  const over = stage.kind === 'pour' && stage.filled > 1.01;
  const fillTop = foot - Math.min(1, Math.max(0, stage.filled)) * (foot - tread);
  const late = stage.timed && stage.left_s < -0.5;
  const { waits } = stage;
  const holds = waits && stage.kind === 'pour';
  const timeX = x0 + Math.min(1, stage.time) * wide;
  const seconds = waits ? stage.begins_in_s : stage.left_s;
  const unit = !begun ? '' : waits ? (stage.kind === 'end' ? 'to go' : 'to wait') : late ? 'over its time' : 'left';
  const small = Math.max(15, big * 0.3);
  return (
    <svg width={width} height={height} role="img" aria-label={spoken(stage, seconds, waits)}>
      <Past stage={stage} x0={x0} foot={foot} height={height} />
      <Coming stage={stage} x1={x1} width={width} tread={tread} foot={foot} />
      <rect
        className={classes.box}
        data-kind={stage.kind}
        data-waits={holds || undefined}
        x={x0}
        y={tread}
        width={wide}
        height={foot - tread}
      />
      {stage.kind === 'pour' && (
        <>
          <rect className={classes.fill} x={x0} y={fillTop} width={wide} height={foot - fillTop} />
          {over && <rect className={classes.over} x={x0} y={tread - 10} width={wide} height={10} />}
          {begun && stage.timed && stage.planned > 0.02 && stage.planned < 0.98 && (
            <line
              className={classes.plan}
              x1={x0}
              x2={x1}
              y1={foot - stage.planned * (foot - tread)}
              y2={foot - stage.planned * (foot - tread)}
            />
          )}
        </>
      )}
      {stage.kind !== 'pour' && (
        <rect
          className={classes.landing}
          x={x0}
          y={tread}
          width={stage.timed ? Math.min(1, stage.time) * wide : 0}
          height={foot - tread}
        />
      )}
      <line className={classes.tread} x1={x0} x2={x1} y1={tread} y2={tread} />
      {holds && <Pause x={x1} y={tread} height={foot - tread} />}
      {holds ? (
        <text className={classes.figure} x={x0 + 4} y={tread - big * 0.12} fontSize={big}>
          <tspan fontSize={big * 0.6}>WAIT </tspan>
          {secondsSaid(seconds)}
          <tspan fontSize={small}> s</tspan>
        </text>
      ) : stage.reach_g !== null ? (
        <text className={classes.figure} x={x0 + 4} y={tread - big * 0.12} fontSize={big}>
          {fixed(stage.reach_g, 0)}
          <tspan fontSize={small}> g {narrow ? 'on scale' : 'on the scale'}</tspan>
        </text>
      ) : stage.rest_g !== null ? (
        <text className={classes.figure} data-over={over || undefined} x={x0 + 4} y={tread - big * 0.12} fontSize={big}>
          {over ? `+${fixed(-stage.rest_g, 0)}` : fixed(Math.max(0, stage.rest_g), 0)}
          <tspan fontSize={small}> g {over ? 'over' : 'left'}</tspan>
        </text>
      ) : (
        <text className={classes.figure} data-over={late || undefined} x={x0 + 4} y={tread - big * 0.12} fontSize={big}>
          {stage.timed ? secondsSaid(seconds) : clock(elapsed_s)}
          {stage.timed && <tspan fontSize={small}> s {unit}</tspan>}
        </text>
      )}
      {besideSaid(stage) && !narrow && (
        <text className={classes.target} x={x1 - 4} y={tread - 14} textAnchor="end">
          {besideSaid(stage)}
        </text>
      )}
      <foreignObject x={x0} y={tread + 6} width={wide} height={foot - tread - 10}>
        <div className={classes.within} data-still={stage.kind !== 'pour' || undefined} data-waits={holds || undefined}>
          <p className={classes.says}>{holds ? `Next: ${stage.says}` : stage.says}</p>
        </div>
      </foreignObject>
      <line className={classes.foot} x1={x0} x2={x1} y1={foot} y2={foot} />
      {stage.timed && (
        <line className={classes.ran} data-late={late || undefined} x1={x0} x2={timeX} y1={foot} y2={foot} />
      )}
      {begun && stage.timed && (
        <path className={classes.hand} data-late={late || undefined} d={`M${timeX} ${foot + 3}l-9 14h18z`} />
      )}
      {stage.rest_g !== null && stage.timed && !holds && (
        <text
          className={classes.figure}
          data-over={late || undefined}
          x={x0 + 4}
          y={height - 8}
          fontSize={Math.min(big * 0.8, height - foot - 20)}
        >
          {begun ? secondsSaid(seconds) : '0'}
          <tspan fontSize={small * 0.8}> s {unit}</tspan>
        </text>
      )}
      {(stage.timed || stage.rest_g !== null) && (
        <text className={classes.clock} x={x1 - 4} y={height - 12} textAnchor="end" fontSize={Math.min(44, big * 0.5)}>
          {clock(elapsed_s)}
        </text>
      )}
    </svg>
  );
}

/** What stands beside the largest figure: what is still to pour where that is the scale's reading, the target where that is what is left. */
function besideSaid(stage: Stage): string {
  if (stage.kind !== 'pour' || stage.waits) return '';
  if (stage.reach_g === null) return `to ${fixed(stage.step!.to_g, 0)} g`;
  return stage.rest_g !== null && Math.round(stage.rest_g) !== Math.round(stage.reach_g)
    ? `${fixed(stage.rest_g, 0)} g to pour`
    : '';
}

/** Two bars, as read from across a room: hands off. */
function Pause({ x, y, height }: { x: number; y: number; height: number }) {
  const bar = height * 0.13;
  return (
    <g className={classes.pause}>
      <rect x={x - bar * 2} y={y + height * 0.18} width={bar} height={height * 0.5} />
      <rect x={x - bar * 4} y={y + height * 0.18} width={bar} height={height * 0.5} />
    </g>
  );
}

function spoken(stage: Stage, seconds: number, waits: boolean): string {
  const grams = stage.rest_g === null ? '' : `, ${fixed(stage.rest_g, 0)} g left`;
  if (!stage.timed) return stage.says + grams;
  return `${stage.says}${grams}, ${secondsSaid(seconds)} s ${waits ? 'to wait' : 'left'}`;
}

/** Stairs behind: each lower than the one after it, with what was really poured on its tread. */
function Past({ stage, x0, foot, height }: { stage: Stage; x0: number; foot: number; height: number }) {
  const shown = stage.past.slice(-3);
  const wide = (x0 - 6) / Math.max(1, shown.length);
  if (x0 < 30) return null;
  return shown.map((p, i) => {
    const y = foot + (shown.length - 1 - i) * 26;
    const x = 2 + i * wide;
    return (
      <g key={p.index}>
        <rect className={classes.done} x={x} y={y} width={wide - 3} height={Math.max(4, height - y)} />
        <line className={classes.treadDone} x1={x} x2={x + wide - 3} y1={y} y2={y} />
        {wide > 34 && (
          <text className={classes.label} x={x + 3} y={y - 6}>
            {fixed(p.to_g, 0)}
          </text>
        )}
      </g>
    );
  });
}

function Coming({
  stage,
  x1,
  width,
  tread,
  foot,
}: {
  stage: Stage;
  x1: number;
  width: number;
  tread: number;
  foot: number;
}) {
  const shown = stage.coming.slice(0, 3);
  const wide = (width - x1 - 6) / Math.max(1, shown.length);
  if (width - x1 < 30) return null;
  return shown.map((c, i) => {
    const y = tread - (i + 1) * Math.min(34, tread / 5);
    const x = x1 + 5 + i * wide;
    return (
      <g key={c.index}>
        <rect className={classes.next} x={x} y={y} width={wide - 3} height={foot - y} />
        <line className={classes.treadNext} x1={x} x2={x + wide - 3} y1={y} y2={y} />
        {wide > 34 && (
          <text className={classes.label} x={x + 3} y={y - 6}>
            {fixed(c.to_g, 0)}
          </text>
        )}
        {wide > 44 && (
          <text className={classes.small} x={x + 3} y={foot + 18}>
            {clock(c.start_s)}
          </text>
        )}
      </g>
    );
  });
}
