import { clock, plural } from '../../ui/numbers';
import type { LiveBrew, LiveStep } from './queries';

/** A1, or what a loose brew is called. */
export const calledOf = (b: LiveBrew) => (b.trial_id === null ? b.name : `${b.letter}${b.number}`);

/** Where a brew is listed. */
export const homeOf = (brew: LiveBrew) => (brew.trial_id === null ? '/brew' : `/trials/${brew.trial_id}/brew`);

/** The step that is at hand, and the one after it, as the bench said last. */
export function whereIs(b: LiveBrew) {
  const of = (index: number | null) => b.steps.find((s) => s.index === index);
  return { current: of(b.now.current), next: of(b.now.next) };
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

/** The scale's settled water, else the last reading, else what the plan pours: a person without a scale on the bench corrects it here. */
export function pouredSaid(brew: LiveBrew): number {
  const read = brew.pours.findLast((p) => p.reading_g !== null && p.by !== 'plan')?.reading_g;
  return Math.round(10 * (brew.now.poured_g || read || brew.water_g)) / 10;
}
