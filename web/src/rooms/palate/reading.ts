import { celsiusTyped } from '../../ui/units';

/** What the pages of the Palate room make of typed texts and answers. */

/** Steps as somebody types them: "2, 3, 4.5" or "2 3 4,5", a comma inside a number being a decimal one where the steps are parted by spaces or semicolons. null: one of them is no number. Steps of °C are typed in the bench's unit. */
export function stepsTyped(text: string, unit = ''): number[] | null {
  const tidy = text.trim();
  if (!tidy) return [];
  const parts = /[;\s]/.test(tidy) ? tidy.split(/[;\s]+/).map((p) => p.replace(/,$/, '')) : tidy.split(',');
  const steps = parts.filter(Boolean).map((p) => Number(p.replace(',', '.')));
  if (steps.some((x) => !Number.isFinite(x))) return null;
  return unit === '°C' ? steps.map((x) => Number(celsiusTyped(String(x), true))) : steps;
}

/** Which cup it is said to be, by where it stands. */
export function placeWord(place: number, of: number): string {
  if (of === 2) return place === 0 ? 'Left' : 'Right';
  return ['Left', 'Middle', 'Right'][place]!;
}

/** How far a taster is on the way to a first answer. */
export function progress(answered: number, first: number): string {
  if (answered >= first) return `${answered} answered: each one narrows it`;
  return `${answered} of ${first} for a first answer`;
}
