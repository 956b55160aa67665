import { clock, plural } from '../../ui/numbers';
import type { LiveBrew, LiveStep } from './queries';

/** A1, or what a loose brew is called. */
export const calledOf = (b: LiveBrew) => (b.trial_id === null ? b.name : `${b.letter}${b.number}`);

/** Where a brew is listed. */
export const homeOf = (brew: LiveBrew) => (brew.trial_id === null ? '/brew' : `/trials/${brew.trial_id}/brew`);

/** The step that is at hand, and the one after it. */
export function whereIs(b: LiveBrew) {
  const done = new Set(b.marks.filter((m) => m.kind === 'step_done').map((m) => m.index));
  const [current, next] = b.steps.filter((s) => !done.has(s.index));
  return { current, next };
}

const LONG_OVER_S = 120;

/** One line for a brew in its lane. wants: the step that asks for a hand next. */
export function laneSays(b: LiveBrew, at: number, current: LiveStep | undefined, wants: LiveStep | undefined): string {
  if (!b.started_at) return 'waits for its first water';
  if (at > b.total_s + LONG_OVER_S) return 'over by its plan: weigh it, or give it up';
  if (current && current.start_s <= at && at < current.end_s) return `${current.text} until ${clock(current.end_s)}`;
  return wants ? `${wants.text} at ${clock(wants.start_s)}` : (current?.text ?? 'drains');
}

/** What was touched so far, in words. */
export function marksSaid(brew: LiveBrew): string {
  const drip = brew.marks.find((m) => m.kind === 'first_drip');
  const spills = brew.marks.filter((m) => m.kind === 'spill').length;
  return [drip && `first drip ${clock(drip.at_s)}`, spills > 0 && plural(spills, 'spill')].filter(Boolean).join(' · ');
}

/** The scale's last reading, else what the plan pours: a person without a scale on the bench corrects it here. */
export function pouredSaid(brew: LiveBrew): number {
  const pours = new Set(brew.steps.filter((s) => s.to_g !== null).map((s) => s.index));
  const read = brew.marks
    .filter((m) => m.kind === 'step_done' && m.index !== null && pours.has(m.index))
    .at(-1)?.reading_g;
  return Math.round(10 * (read ?? brew.water_g)) / 10;
}
