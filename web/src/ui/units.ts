import type { Schemas } from '../api/client';
import { SCALDS_C } from '../api/vocabulary';
import { fixed, rounded } from './numbers';

/** How this bench has its figures told. What is stored, sent and worked out is always in °C and g; this is where it is turned for the eye. */
export type Units = Schemas['UnitsAnswer'];

const KEPT = 'penny.units';
const USUAL: Units = { heat: 'C', ratio: 'to_one', bags: 'g', currency: '' };

let told: Units = read();

/** As this device last heard it from the bench, so that the first page needs no second drawing. */
function read(): Units {
  try {
    return { ...USUAL, ...JSON.parse(localStorage.getItem(KEPT) ?? '{}') };
  } catch {
    return USUAL;
  }
}

/** Told by the bench. True when it differs from what was shown so far: the page is to be drawn anew. */
export function tellIn(units: Units): boolean {
  const same = (Object.keys(USUAL) as (keyof Units)[]).every((name) => told[name] === units[name]);
  told = units;
  if (!same) localStorage.setItem(KEPT, JSON.stringify(units));
  return !same;
}

export const heatUnit = (): '°C' | '°F' => (told.heat === 'F' ? '°F' : '°C');

const inHeatUnit = (celsius: number): number => (told.heat === 'F' ? 1.8 * celsius + 32 : celsius);
const apartInHeatUnit = (kelvin: number): number => (told.heat === 'F' ? 1.8 * kelvin : kelvin);

const written = (value: number, places: number | 'typed') =>
  places === 'typed' ? String(rounded(value, 1)).replace('-', '−') : fixed(value, places);

/** A temperature's number alone, where its unit stands beside it. 'typed': to the tenth somebody set it with. */
export function degrees(celsius: number | null | undefined, places: number | 'typed' = 'typed'): string {
  return celsius === null || celsius === undefined ? '–' : written(inHeatUnit(celsius), places);
}

/** A temperature with its unit. */
export const heat = (celsius: number | null | undefined, places: number | 'typed' = 'typed'): string =>
  `${degrees(celsius, places)} ${heatUnit()}`;

/** How far two temperatures are apart, with its unit. */
export const heatApart = (kelvin: number, places: number | 'typed' = 'typed'): string =>
  `${written(apartInHeatUnit(kelvin), places)} ${heatUnit()}`;

/** What a difference is told in, and its number there: of two temperatures in the bench's unit, anything else as it is. */
export const apartUnit = (unit: string): string => (unit === '°C' ? heatUnit() : unit);
export const apartIn = (difference: number, unit: string): number =>
  unit === '°C' ? Math.round(10 * apartInHeatUnit(difference)) / 10 : difference;

/** A value as it stands in a field, with its unit; temperatures in the bench's. */
export function withUnit(value: string | number, unit: string | undefined): string {
  if (unit === '°C' && !Number.isNaN(Number(value))) return heat(Number(value));
  return unit ? `${value} ${unit}` : String(value);
}

/** The R of 1:R as it is told, or grams of coffee per 100 g of water. */
export function ratio(value: number | null | undefined): string {
  if (value === null || value === undefined) return '–';
  return told.ratio === 'per_100' ? `${fixed(100 / value)} g/100 g` : `1:${fixed(value, 1)}`;
}

/** A ratio where only its whole steps are named: on an axis, beside a line. */
export const ratioTick = (value: number): string => (told.ratio === 'per_100' ? fixed(100 / value) : `1:${value}`);

/** What a ratio's axis counts. */
export const ratioAxis = (): string =>
  told.ratio === 'per_100' ? 'g of coffee per 100 g of water' : 'brew ratio, water in';

/** A point of a curve on its axis: ratios and temperatures in the bench's units, anything else as fine as its measure is. */
export function measured(measure: string, value: number, places: number): string {
  if (measure === 'temperature_c') return degrees(value, places);
  if (measure === 'ratio') return told.ratio === 'per_100' ? fixed(100 / value) : written(value, places);
  return written(value, places);
}

/** What an axis of such a curve counts. */
export function axisOf({ measure, label, unit }: { measure: string; label: string; unit: string }): string {
  if (measure === 'ratio' && told.ratio === 'per_100') return ratioAxis();
  const shown = measure === 'temperature_c' ? heatUnit() : unit;
  return shown ? `${label}, ${shown}` : label;
}

/** The temperature above which a drink scalds, and whether one does. */
export const scaldsAbove = (): string => heat(SCALDS_C);
export const scalds = (celsius: number): boolean => celsius > SCALDS_C;

/** A price in the bench's currency. */
export const price = (amount: number | null | undefined): string =>
  amount === null || amount === undefined ? '–' : `${told.currency}${fixed(amount)}`;

const G_PER_OZ = 28.349523125;

/** A bag of coffee. */
export const bag = (grams: number): string =>
  `${written(grams, 0)} g${told.bags === 'oz' ? ` (${written(grams / G_PER_OZ, 1)} oz)` : ''}`;

/** The °C of a temperature as it was typed: a bare number is in the bench's unit, "200 F" and "93 C" say their own. What is no number stays as it is. */
export function celsiusTyped(text: string, apart = false): string {
  const said = /^\s*([+-]?(?:\d+(?:[.,]\d*)?|[.,]\d+))\s*°?\s*([cf])?\s*$/i.exec(text);
  if (!said) return text;
  const unit = (said[2] ?? told.heat).toUpperCase();
  if (unit === 'C') return said[1]!;
  const value = Number(said[1]!.replace(',', '.'));
  return String(Math.round((apart ? value / 1.8 : (value - 32) / 1.8) * 100) / 100);
}

/** The grams of a bag as it was typed: "12 oz" says its own unit. */
export function gramsTyped(text: string): string {
  const said = /^\s*(\d+(?:[.,]\d*)?)\s*oz\s*$/i.exec(text);
  return said ? String(Math.round(Number(said[1]!.replace(',', '.')) * G_PER_OZ * 10) / 10) : text;
}

/** How the °C kept in a form are shown in its field. */
export function celsiusShown(kept: string, apart = false): string {
  const value = Number(kept.trim().replace(',', '.'));
  if (told.heat === 'C' || !kept.trim() || Number.isNaN(value)) return kept;
  return written(apart ? apartInHeatUnit(value) : inHeatUnit(value), 'typed').replace('−', '-');
}
