import { fixed } from '../../ui/numbers';
import type { LiveBrew, LiveStep, Now } from './queries';

/** Where a brew stands, with the second of the brew at which it stood there. */
export type Standing = { now: Now; at_s: number };

export type Stage = {
  kind: 'pour' | 'landing' | 'end';
  step: LiveStep | undefined;
  /** Pours that are over, oldest first, and pours to come. */
  past: { index: number; to_g: number }[];
  coming: { index: number; to_g: number; start_s: number }[];
  /** Of the current pour: how full it is and how full it should be, 0 to 1 and beyond. */
  filled: number;
  planned: number;
  /** Of its time: 0 before it begins, beyond 1 when it is overdue. */
  time: number;
  /** Until it begins; nought or less once it has. */
  begins_in_s: number;
  left_s: number;
  /** Whether anything says when: a setup of amounts alone has no times, and nothing of it is late. */
  timed: boolean;
  /** Grams left to pour; null where nothing is poured. */
  rest_g: number | null;
  /** What the scale must come to read, where none speaks to the bench and eyes do; null where one does, or nothing is poured. */
  reach_g: number | null;
  /** Nothing may be poured yet. */
  waits: boolean;
  says: string;
};

export function stageOf(brew: LiveBrew, { now, at_s }: Standing, elapsed_s: number): Stage {
  const step = brew.steps.find((s) => s.index === now.current);
  const pours = brew.steps.filter((s) => s.to_g !== null);
  const made = new Map(now.made.map((m) => [m.index, m]));
  const since = elapsed_s - at_s;
  const begins_in_s = now.begins_in_s - since;
  const left_s = now.left_s - since;
  const begun = now.phase !== 'before';
  const lasts = Math.max(0.1, left_s - begins_in_s);
  const own = step?.to_g ? step.to_g - step.from_g : 0;
  const pouring = step !== undefined && step.to_g !== null && (now.phase === 'before' || now.phase === 'brew');
  return {
    kind: pouring ? 'pour' : step ? 'landing' : 'end',
    step,
    past: pours
      .filter((p) => made.has(p.index))
      .map((p) => ({ index: p.index, to_g: made.get(p.index)!.to_g ?? p.to_g! })),
    coming: pours
      .filter((p) => !made.has(p.index) && p.index !== step?.index)
      .map((p) => ({ index: p.index, to_g: p.to_g!, start_s: p.start_s })),
    filled: pouring && own > 0 && now.rest_g !== null && now.poured_g !== null ? 1 - now.rest_g / own : 0,
    planned: pouring && own > 0 ? Math.min(1, Math.max(0, (now.plan_g - step.from_g) / own)) : 0,
    time: begun ? Math.max(0, -begins_in_s / lasts) : 0,
    begins_in_s: begun ? begins_in_s : 0,
    left_s,
    timed: !brew.no_steps,
    rest_g: pouring ? now.rest_g : null,
    reach_g: pouring && now.poured_g === null ? (now.reads_g ?? step.reads_g ?? step.to_g) : null,
    waits: begun && begins_in_s > 0.5,
    says: sentence(brew, now, step),
  };
}

function sentence(brew: LiveBrew, now: Now, step: LiveStep | undefined): string {
  if (step) {
    // The sentence tells what the recipe's scale reads; one that was zeroed since reads something else.
    const zeroed = now.reads_g !== null && step.reads_g !== null && Math.abs(now.reads_g - step.reads_g) > 1;
    return zeroed ? `${step.text}; this scale will then read ${fixed(now.reads_g, 1)} g` : step.text;
  }
  return now.phase === 'ending' ? brew.end.ask : brew.end.text;
}

/** What the large key does now, and says. */
export function keyOf(brew: LiveBrew, now: Now): { does: 'start' | 'step' | 'end' | 'none'; says: string } {
  if (now.phase === 'before') return { does: 'start', says: 'Start pour' };
  if (now.phase === 'over') return { does: 'none', says: '' };
  if (now.phase === 'ending') return { does: 'end', says: brew.end.done };
  const step = brew.steps.find((s) => s.index === now.current);
  if (!step) return { does: 'none', says: '' };
  if (step.index === brew.end.by) return { does: 'step', says: brew.end.done };
  return { does: 'step', says: step.to_g === null ? 'Done' : 'Poured' };
}

/** What comes after the step at hand, with its time. */
export function nextSaid(brew: LiveBrew, now: Now, clock: (s: number) => string): string {
  if (now.phase === 'before') return brew.before.join(' · ') || 'Kettle, scale and server ready?';
  const next = brew.steps.find((s) => s.index === now.next);
  if (next) return `${next.text} at ${clock(next.start_s)}`;
  if (now.phase === 'brew')
    return now.current === brew.end.by
      ? afterEnd(brew)
      : brew.end.ask + (brew.no_steps ? '' : `, near ${clock(brew.end.at_s)}`);
  return now.phase === 'ending' ? afterEnd(brew) : 'Weigh the drink';
}

const afterEnd = (brew: LiveBrew) => brew.steps.find((s) => s.after)?.text ?? 'Weigh the drink';

/** What a voice says of the step at hand: the same words until the next step, so that it is said once. */
export const aloudOf = (stage: Stage) =>
  stage.waits && stage.kind === 'pour' ? `Wait. Next: ${stage.says}` : stage.says;

/** Seconds as read from afar: whole, with a sign only when overdue. */
export const secondsSaid = (s: number) => (s < 0 ? `+${Math.round(-s)}` : String(Math.ceil(s)));
