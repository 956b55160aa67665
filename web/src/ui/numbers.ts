/** How measured numbers are written: fixed decimals, a true minus, the unit after a thin space. */

const NOISE = 1e-7;

/** Halves away from zero, as people round and as the core's sentences do (core/figures.py): 7.25 and 7.2499999999 are both 7.3. */
export function rounded(value: number, places: number): number {
  const scale = 10 ** places;
  const found = Math.floor(Math.abs(value) * scale + 0.5 + NOISE) / scale;
  return value < 0 && found ? -found : found;
}

export function fixed(value: number | null | undefined, places = 2): string {
  return value === null || value === undefined ? '–' : rounded(value, places).toFixed(places).replace('-', '−');
}

/** 95 → "1:35". */
export function clock(seconds: number | null | undefined): string {
  if (seconds === null || seconds === undefined) return '–';
  const whole = Math.abs(Math.round(seconds));
  return `${seconds < -0.5 ? '−' : ''}${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, '0')}`;
}

/** Work to come or done, as people plan it, and as the core's sentences tell it: 28 → "28 min", 268 → "4.5 h". */
export function workTime(minutes: number): string {
  return rounded(minutes, 0) < 120 ? `${fixed(minutes, 0)} min` : `${fixed(minutes / 60, 1)} h`;
}

/** As `clock`, with its tenths where there are any: what a field shows must read back as itself. 165.4 → "2:45.4". */
export function exactClock(seconds: number | null | undefined): string {
  if (seconds === null || seconds === undefined) return '';
  const tenths = Math.round(seconds * 10);
  if (tenths % 10 === 0) return clock(tenths / 10);
  return `${Math.floor(tenths / 600)}:${((tenths % 600) / 10).toFixed(1).padStart(4, '0')}`;
}

export function percent(share: number | null | undefined): string {
  if (share === null || share === undefined) return '–';
  if (share > 0 && share < 0.005) return '<1 %';
  return `${rounded(share * 100, 0)} %`;
}

/** A probability that was worked out, never told as sure. */
export function chance(probability: number | null | undefined): string {
  if (probability === null || probability === undefined) return '–';
  if (probability >= 0.995) return '>99 %';
  return probability < 0.005 ? '<1 %' : `${rounded(probability * 100, 0)} %`;
}

/** "A, B and C" */
export const joined = (names: readonly string[]) =>
  names.length < 2 ? names.join('') : `${names.slice(0, -1).join(', ')} and ${names.at(-1)}`;

export function plural(count: number, word: string): string {
  return `${count} ${word}${count === 1 ? '' : 's'}`;
}

export type ReadNumber = { kind: 'empty' } | { kind: 'number'; value: number; comma: boolean } | { kind: 'bad' };

/** Reads what a person typed: "1,42" is 1.42 and is shown back as understood. */
export function readNumber(text: string): ReadNumber {
  const tidy = text.trim().replace('−', '-'); // as the bench itself writes a minus
  if (!tidy) return { kind: 'empty' };
  if (!/^[+-]?(\d+([.,]\d*)?|[.,]\d+)$/.test(tidy)) return { kind: 'bad' };
  return { kind: 'number', value: Number(tidy.replace(',', '.')), comma: tidy.includes(',') };
}

/** 10:42 */
export const timeOf = (iso: string): string =>
  new Date(iso).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' });

export function dayAndTime(iso: string): string {
  const at = new Date(iso);
  const year = at.getFullYear() === new Date().getFullYear() ? {} : ({ year: 'numeric' } as const);
  return at.toLocaleString('en-GB', { day: 'numeric', month: 'short', ...year, hour: '2-digit', minute: '2-digit' });
}
