import { scaleLinear, scaleLog } from '@visx/scale';

export type CurvePoint = { aperture_um: number; finer_pct: number; low_pct: number; high_pct: number };
export type Box = { left: number; right: number; top: number; bottom: number };

const BESIDE = 1.3;

/** Size on a log axis that holds every aperture with room beside them; share finer from nought up. */
export function scalesOf(apertures: readonly number[], box: Box) {
  const low = Math.min(...apertures);
  const high = Math.max(...apertures);
  return {
    x: scaleLog<number>({
      domain: [low / BESIDE, high * BESIDE],
      range: [box.left, Math.max(box.left + 10, box.right)],
    }),
    y: scaleLinear<number>({ domain: [0, 100], range: [box.bottom, box.top] }),
  };
}

type Along = (value: number) => number;

export const linePath = (points: readonly CurvePoint[], x: Along, y: Along) =>
  points.map((p, i) => `${i ? 'L' : 'M'}${x(p.aperture_um).toFixed(1)} ${y(p.finer_pct).toFixed(1)}`).join('');

/** How far replicates lie apart, as one closed shape. */
export function bandPath(points: readonly CurvePoint[], x: Along, y: Along) {
  const up = points.map((p, i) => `${i ? 'L' : 'M'}${x(p.aperture_um).toFixed(1)} ${y(p.high_pct).toFixed(1)}`);
  const back = [...points].reverse().map((p) => `L${x(p.aperture_um).toFixed(1)} ${y(p.low_pct).toFixed(1)}`);
  return `${up.join('')}${back.join('')}Z`;
}

const STEP_UM = 10;

/** A band's end moved by keys or by hand: in whole tens, inside the stack, never past the other end. */
export function movedEnd(
  band: { from_um: number; to_um: number },
  end: 'from_um' | 'to_um',
  to_um: number,
  [low, high]: readonly [number, number],
) {
  const round = Math.round(to_um / STEP_UM) * STEP_UM;
  const within =
    end === 'from_um'
      ? Math.min(Math.max(low, round), band.to_um - STEP_UM)
      : Math.max(Math.min(high, round), band.from_um + STEP_UM);
  return { ...band, [end]: within };
}

/** Every setting of a dial between two, a step apart, none nearer than so many px to the one before. */
export function rulerTicks(
  settings: readonly [number, number],
  step: number,
  ends_um: readonly [number, number],
  x: Along,
  apart_px = 5,
): number[] {
  const [from, to] = settings;
  const count = Math.round((to - from) / step);
  const out: number[] = [];
  let last = Number.NEGATIVE_INFINITY;
  for (let i = 0; i <= count; i++) {
    const px = x(ends_um[0] + ((ends_um[1] - ends_um[0]) * i) / Math.max(1, count));
    if (Math.abs(px - last) < apart_px) continue;
    out.push(px);
    last = px;
  }
  return out;
}
