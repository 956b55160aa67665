import type { Schemas } from '../../api/client';
import { numberOf, secondsOf } from '../../ui/fields';
import { exactClock } from '../../ui/numbers';
import { type PourShown, pourBodies, pourTexts } from './pourTexts';
import type { Observed } from './seen';

const NUMBERS = ['dose_g', 'brew_water_g', 'bypass_g', 'beverage_g', 'temperature_c', 'moisture_pct'] as const;
const SEEN_NUMBERS = ['slurry_c', 'ground_min', 'sediment_g', 'press_kg', 'press_s', 'topped_up_g'] as const;
const TIMES = ['pour_end_s', 'total_time_s'] as const;

type Named =
  | (typeof NUMBERS)[number]
  | (typeof SEEN_NUMBERS)[number]
  | (typeof TIMES)[number]
  | 'first_drip_s'
  | 'press_with'
  | 'note'
  | 'tds_readings_pct';

/** Everything of a brew as typed; its pours under `pour.<step>.<field>`. */
export type BrewTexts = Record<Named | `pour.${string}`, string>;

/** What is known of a brew beforehand, or was logged of it. */
export type KnownBrew = Partial<
  Record<(typeof NUMBERS)[number] | (typeof TIMES)[number], number | null> & { note: string }
>;

const text = (value: number | null | undefined) =>
  value === null || value === undefined || value === 0 ? '' : String(value);

export function brewTexts(known: KnownBrew, seen: Observed, pours: PourShown[]): BrewTexts {
  const numbers = Object.fromEntries(NUMBERS.map((name) => [name, text(known[name])]));
  const times = Object.fromEntries(TIMES.map((name) => [name, exactClock(known[name])]));
  const of_seen = Object.fromEntries(SEEN_NUMBERS.map((name) => [name, text(seen[name])]));
  return {
    ...pourTexts(pours),
    ...numbers,
    ...times,
    ...of_seen,
    first_drip_s: exactClock(seen.first_drip_s),
    press_with: seen.press_with,
    note: known.note ?? '',
    tds_readings_pct: '',
  } as BrewTexts;
}

/** Typed readings, separated by spaces, semicolons or slashes. A comma is a decimal comma. */
export function readingsOf(typed: string): number[] {
  return typed
    .split(/[\s;/]+/)
    .filter(Boolean)
    .map((part) => numberOf('tds_readings_pct', part)!);
}

/** The brew as the bench takes it. Throws a Refused naming the field. */
export async function bodyOf(texts: BrewTexts, seen: Observed, pours: PourShown[], concentrate: boolean) {
  const number = (field: (typeof NUMBERS)[number]) => numberOf(field, texts[field]);
  const seenNumber = (name: (typeof SEEN_NUMBERS)[number]) => numberOf(`observed.${name}`, texts[name]);
  const observed: Schemas['Observed'] = {
    ...seen,
    first_drip_s: await secondsOf(texts.first_drip_s, 'observed.first_drip_s'),
    slurry_c: seenNumber('slurry_c'),
    ground_min: seenNumber('ground_min'),
    sediment_g: seenNumber('sediment_g'),
    press_kg: seenNumber('press_kg'),
    press_s: seenNumber('press_s'),
    press_with: texts.press_with,
    topped_up_g: seenNumber('topped_up_g'),
  };
  return {
    dose_g: number('dose_g'),
    brew_water_g: number('brew_water_g'),
    bypass_g: number('bypass_g') ?? 0,
    beverage_g: number('beverage_g'),
    temperature_c: number('temperature_c'),
    total_time_s: await secondsOf(texts.total_time_s, 'total_time_s'),
    moisture_pct: number('moisture_pct') ?? 0,
    note: texts.note,
    concentrate,
    observed,
    pours: await pourBodies(pours, texts, {
      seconds: (field, typed) => secondsOf(typed, field),
      number: (field, typed) => numberOf(field, typed),
    }),
  };
}

/** The end of pouring has a field of its own only where the pours have none. */
export const pourEnd = async (texts: BrewTexts, pours: PourShown[]) =>
  pours.length ? {} : { pour_end_s: await secondsOf(texts.pour_end_s, 'pour_end_s') };
