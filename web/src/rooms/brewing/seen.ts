import type { Schemas } from '../../api/client';
import { clock, fixed } from '../../ui/numbers';
import { heat } from '../../ui/units';

export type Observed = Required<Schemas['Observed']>;

export const NOTHING_SEEN: Observed = {
  first_drip_s: null,
  stopped_first_s: null,
  slurry_c: null,
  press_s: null,
  press_kg: null,
  press_with: '',
  topped_up_g: null,
  bed: [],
  clouding: null,
  mishaps: [],
  ground_min: null,
  sediment_g: null,
  sediment_left: false,
  held_level: false,
  simulated: false,
  cue: '',
};

/** What was seen of a brew, in one line. */
export function seenSaid(seen: Schemas['Observed']): string {
  const o: Observed = { ...NOTHING_SEEN, ...seen };
  return [
    o.simulated && 'simulated',
    o.first_drip_s !== null && `first drip ${clock(o.first_drip_s)}`,
    o.stopped_first_s !== null && `first said to be over at ${clock(o.stopped_first_s)}`,
    o.slurry_c !== null && `slurry ${heat(o.slurry_c, 0)}`,
    o.press_kg !== null && `pressed with ${fixed(o.press_kg, 0)} kg${o.press_with && ` on the ${o.press_with}`}`,
    o.press_s !== null && `in ${fixed(o.press_s, 0)} s`,
    o.bed.length > 0 && `bed ${o.bed.join(', ').replaceAll('_', ' ')}`,
    o.clouding,
    o.ground_min !== null && `ground ${fixed(o.ground_min, 0)} min before`,
    o.sediment_g !== null && `${fixed(o.sediment_g, 1)} g sediment left`,
    o.sediment_left && o.sediment_g === null && 'sediment left behind',
    o.topped_up_g !== null && `${fixed(o.topped_up_g, 0)} g topped up`,
    o.held_level && 'level held',
    o.cue && `ended by: ${o.cue}`,
  ]
    .filter(Boolean)
    .join(' · ');
}
