import { numberOf, secondsOf } from '../../ui/fields';
import { exactClock } from '../../ui/numbers';
import type { RunMeasured } from '../measuring/queries';
import type { Setup } from '../trials/queries';

/** A brew's numbers as typed. */
export type RunTexts = Record<
  | 'dose_g'
  | 'brew_water_g'
  | 'bypass_g'
  | 'beverage_g'
  | 'temperature_c'
  | 'pour_end_s'
  | 'total_time_s'
  | 'moisture_pct'
  | 'note'
  | 'tds',
  string
>;

const text = (value: number | null | undefined) =>
  value === null || value === undefined || value === 0 ? '' : String(value);

/** What a brew of this setup is meant to be: the plan is the starting point, the scale corrects it. */
export const plannedTexts = (setup: Setup): RunTexts => ({
  dose_g: text(setup.variables.dose_g),
  brew_water_g: text(setup.variables.brew_water_g),
  bypass_g: text(setup.variables.bypass_g),
  beverage_g: '',
  temperature_c: text(setup.variables.temperature_c),
  pour_end_s: '',
  total_time_s: '',
  moisture_pct: '',
  note: '',
  tds: '',
});

export const loggedTexts = (run: RunMeasured): RunTexts => ({
  dose_g: text(run.dose_g),
  brew_water_g: text(run.brew_water_g),
  bypass_g: text(run.bypass_g),
  beverage_g: text(run.beverage_g),
  temperature_c: text(run.temperature_c),
  pour_end_s: exactClock(run.pour_end_s),
  total_time_s: exactClock(run.total_time_s),
  moisture_pct: text(run.moisture_pct),
  note: run.note,
  tds: '',
});

/** Typed readings, separated by spaces, semicolons or slashes. A comma is a decimal comma. */
export function readingsOf(typed: string): number[] {
  return typed
    .split(/[\s;/]+/)
    .filter(Boolean)
    .map((part) => numberOf('tds_readings_pct', part)!);
}

/** The numbers as the bench takes them. Throws a Refused naming the field. */
export async function bodyOf(texts: RunTexts, concentrate: boolean) {
  const number = (field: keyof RunTexts) => numberOf(field, texts[field]);
  return {
    dose_g: number('dose_g')!,
    brew_water_g: number('brew_water_g'),
    bypass_g: number('bypass_g') ?? 0,
    beverage_g: number('beverage_g'),
    temperature_c: number('temperature_c'),
    pour_end_s: await secondsOf(texts.pour_end_s),
    total_time_s: await secondsOf(texts.total_time_s),
    moisture_pct: number('moisture_pct') ?? 0,
    note: texts.note,
    concentrate,
  };
}
