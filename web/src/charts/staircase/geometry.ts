import { scaleLinear } from '@visx/scale';

/** One pour as a stair: from its own start to the next pour's start, as high as the reading it ends at. */
export type Stair = {
  index: number;
  label: string;
  kind: 'bloom' | 'pour' | 'hold_level' | 'bypass';
  start_s: number;
  /** When the pouring itself ends. */
  poured_s: number;
  /** Where the stair ends: at the next pour, or with the brew. */
  end_s: number;
  from_g: number;
  to_g: number;
};

export type Mark = { index: number; label: string; at_s: number };

type Timed = {
  index: number;
  kind: string;
  label: string;
  start_s: number;
  end_s: number;
  water_g: number;
  to_g: number | null;
  rate_g_s: number | null;
};

const WET = new Set(['bloom', 'pour', 'hold_level', 'bypass']);

/** Stairs of the pours, marks for everything else done after the first water. */
export function stairsOf(timeline: Timed[], total_s: number): { stairs: Stair[]; marks: Mark[] } {
  const wet = timeline.filter((t) => WET.has(t.kind) && t.water_g > 0);
  const stairs = wet.map((t, i) => ({
    index: t.index,
    label: t.label,
    kind: t.kind as Stair['kind'],
    start_s: t.start_s,
    poured_s: t.rate_g_s ? t.start_s + t.water_g / t.rate_g_s : t.end_s,
    end_s: Math.max(t.end_s, wet[i + 1]?.start_s ?? (t.kind === 'bypass' ? t.end_s : total_s)),
    from_g: (t.to_g ?? 0) - t.water_g,
    to_g: t.to_g ?? 0,
  }));
  const marks = timeline
    .filter((t) => !WET.has(t.kind) && t.end_s > 0)
    .map((t) => ({ index: t.index, label: t.label, at_s: t.start_s }));
  return { stairs, marks };
}

export type Box = { width: number; height: number; left: number; right: number; top: number; bottom: number };

/** Scales of seconds and grams to px, and back. */
export function scalesOf(box: Box, most_s: number, most_g: number) {
  const x = scaleLinear<number>({ domain: [0, Math.max(10, most_s)], range: [box.left, box.width - box.right] });
  const y = scaleLinear<number>({ domain: [0, Math.max(10, most_g)], range: [box.height - box.bottom, box.top] });
  return { x, y };
}

const TICK_PX = 58;

/** Evenly spaced whole times that fit an axis of this width. */
export function timeTicks(most_s: number, width: number): number[] {
  const fit = Math.max(2, Math.min(9, width / TICK_PX));
  const step = [15, 30, 60, 120, 300, 600, 1800].find((s) => most_s / s <= fit) ?? 3600;
  return Array.from({ length: Math.floor(most_s / step) + 1 }, (_, i) => i * step);
}
