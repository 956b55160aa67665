import { BREWER_KINDS } from '../../api/vocabulary';
import { clock, fixed } from '../../ui/numbers';
import type { LiveBrew, LiveStep } from './queries';
import classes from './Steep.module.css';

const WIDE = 420;
const WALL = { left: 110, right: 310, top: 50, bottom: 360 };
const PRESSED = new Set(['press']);
/** Steeped in the open, so that a crust forms. */
const CRUSTED = new Set<string>(
  BREWER_KINDS.filter(
    (k) =>
      (k.steeped || k.valved) && !(k.ends as readonly string[]).includes('valve_opened') && k.ends[0] !== 'pressed',
  ).map((k) => k.code),
);

type SteepStageProps = { brew: LiveBrew; step: LiveStep; elapsed_s: number; press_kg: number | null };

/** The vessel while nothing is poured: steeping, the crust, the skim, the turn, the press. */
export function SteepStage({ brew, step, elapsed_s, press_kg }: SteepStageProps) {
  const lasts = Math.max(0.1, step.end_s - step.start_s);
  const share = Math.min(1, Math.max(0, (elapsed_s - step.start_s) / lasts));
  const done = new Set(brew.now.made.map((m) => m.index));
  const broken = brew.steps.some((s) => s.kind === 'break_crust' && done.has(s.index));
  const crust = CRUSTED.has(brew.brewer_type ?? '') && !broken;
  // A recipe that is turned over begins upside down, plunger below.
  const turns = brew.steps.filter((s) => s.kind === 'invert');
  const inverted = turns.filter((s) => !done.has(s.index)).length % 2 === 1;
  const surface = WALL.top + 60;
  const plunger = PRESSED.has(step.kind) ? surface + share * (WALL.bottom - surface - 50) : surface - 40;
  const caution = brew.cautions.find((c) => c.steps.includes(step.index));
  return (
    <div className={classes.stage}>
      <svg viewBox="70 0 310 372" role="img" aria-label={`${step.text}: ${Math.round(100 * share)} % of its time`}>
        <g transform={inverted ? `rotate(180 ${WIDE / 2} ${(WALL.top + WALL.bottom) / 2})` : undefined}>
          <rect
            className={classes.water}
            x={WALL.left}
            y={PRESSED.has(step.kind) ? plunger : surface}
            width={WALL.right - WALL.left}
            height={WALL.bottom - (PRESSED.has(step.kind) ? plunger : surface)}
          />
          {crust && (
            <rect
              className={classes.crust}
              x={WALL.left}
              y={surface}
              width={WALL.right - WALL.left}
              height={26}
              rx={6}
            />
          )}
          {step.kind === 'break_crust' && (
            <path
              className={classes.spoon}
              d={`M${WALL.right + 60} ${surface - 70}L${WALL.left + 120} ${surface + 22}`}
            />
          )}
          {brew.steps.some((s) => s.kind === 'press') && (
            <>
              <path className={classes.rod} d={`M${WIDE / 2} ${plunger - 110}V${plunger}`} />
              <rect
                className={classes.plate}
                x={WALL.left + 3}
                y={plunger}
                width={WALL.right - WALL.left - 6}
                height={10}
              />
            </>
          )}
          <path className={classes.wall} d={`M${WALL.left} ${WALL.top}V${WALL.bottom}H${WALL.right}V${WALL.top}`} />
        </g>
      </svg>
      <div className={classes.side}>
        <p className={classes.what}>{step.text[0]!.toUpperCase() + step.text.slice(1)}</p>
        <progress max={1} value={share} aria-label="Time of this step" />
        <p className="num">
          {clock(Math.max(0, elapsed_s - step.start_s))} of {clock(lasts)}
        </p>
        {PRESSED.has(step.kind) && (
          <ForceGauge kg={press_kg} share={share} steady={[brew.steady_press_kg[0]!, brew.steady_press_kg[1]!]} />
        )}
        {caution && (
          <p role="note" className={classes.caution}>
            {caution.text}
          </p>
        )}
      </div>
    </div>
  );
}

const MOST_KG = 30;

/** A bathroom scale under the press: keep the pointer in the band, from the first second to the hiss. */
function ForceGauge({ kg, share, steady }: { kg: number | null; share: number; steady: [number, number] }) {
  const at = (value: number) => (100 * Math.min(MOST_KG, value)) / MOST_KG;
  return (
    <div className={classes.gauge}>
      <div
        className={classes.scale}
        role="meter"
        aria-valuemin={0}
        aria-valuemax={MOST_KG}
        aria-valuenow={kg ?? 0}
        aria-label="Force, kg"
      >
        <span
          className={classes.band}
          style={{ left: `${at(steady[0])}%`, width: `${at(steady[1]) - at(steady[0])}%` }}
        />
        {kg !== null && <span className={classes.pointer} style={{ left: `${at(kg)}%` }} />}
      </div>
      <p className="small">
        {kg === null
          ? `Steady: the plunger should be ${Math.round(100 * share)} % down now. A bathroom scale under the press shows the force.`
          : `${fixed(kg, 0)} kg. ${kg < steady[0] ? 'A little more.' : kg > steady[1] ? 'Gentler: it forces fines through.' : 'Hold it there.'}`}
      </p>
    </div>
  );
}
