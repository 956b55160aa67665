import { clock, plural } from '../../ui/numbers';
import { NOTHING_SEEN, type Observed } from '../brewing/seen';
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

/** What was touched while it was made. */
export function markedOf(brew: LiveBrew): Observed {
  const drip = brew.marks.find((m) => m.kind === 'first_drip');
  const ground = brew.marks.find((m) => m.kind === 'ground');
  const pressed = brew.steps.find((s) => s.kind === 'press');
  return {
    ...NOTHING_SEEN,
    first_drip_s: drip?.at_s ?? null,
    ground_min: ground && brew.started_at ? minutesBetween(ground.text, brew.started_at) : null,
    press_s: pressed ? pressTook(brew, pressed.index) : null,
    mishaps: brew.marks.some((m) => m.kind === 'spill') ? ['spill'] : [],
  };
}

const minutesBetween = (from: string, to: string) => Math.round((Date.parse(to) - Date.parse(from)) / 6000) / 10;

/** From the mark before it to its own: how long the press took, s. */
export function pressTook(brew: LiveBrew, index: number): number | null {
  const done = brew.marks.filter((m) => m.kind === 'step_done').sort((a, b) => a.at_s - b.at_s);
  const at = done.findIndex((m) => m.index === index);
  return at < 1 ? null : Math.round(10 * (done[at]!.at_s - done[at - 1]!.at_s)) / 10;
}
