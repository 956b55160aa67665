import type { Schemas } from '../../api/client';
import { exactClock } from '../../ui/numbers';

export type PourShown = Schemas['PourShown'];
export type PourBody = Schemas['PourBody'];
export type PourField = 'began_s' | 'ended_s' | 'reading_g';

export const pourKey = (index: number, field: PourField) => `pour.${index}.${field}`;

const text = (value: number | null) => (value === null ? '' : String(value));

/** What is known of each pour, as typed. */
export function pourTexts(pours: PourShown[]): Record<string, string> {
  return Object.fromEntries(
    pours.flatMap((p) => [
      [pourKey(p.index, 'began_s'), exactClock(p.began_s)],
      [pourKey(p.index, 'ended_s'), exactClock(p.ended_s)],
      [pourKey(p.index, 'reading_g'), text(p.reading_g)],
    ]),
  );
}

/** Whether anything of the pours differs from what was known: else nothing is said of them, and what was known stands. */
export const poursChanged = (pours: PourShown[], texts: Record<string, string>) =>
  Object.entries(pourTexts(pours)).some(([key, value]) => (texts[key] ?? '').trim() !== value);

type Read = {
  seconds: (field: string, text: string) => Promise<number | null>;
  number: (field: string, text: string) => number | null;
};

/** The pours as the bench takes them, empty when they stand as they were. A reading that refuses says so at its own field. */
export async function pourBodies(pours: PourShown[], texts: Record<string, string>, read: Read): Promise<PourBody[]> {
  if (!poursChanged(pours, texts)) return [];
  const out: PourBody[] = [];
  for (const [i, p] of pours.entries()) {
    const of = (field: PourField) => texts[pourKey(p.index, field)] ?? '';
    out.push({
      index: p.index,
      began_s: await read.seconds(`pours.${i}.began_s`, of('began_s')),
      ended_s: await read.seconds(`pours.${i}.ended_s`, of('ended_s')),
      reading_g: read.number(`pours.${i}.reading_g`, of('reading_g')),
    });
  }
  return out;
}

const SAID: Record<NonNullable<PourShown['by']>, string> = {
  scale: 'by the scale',
  press: 'pressed',
  plan: 'not pressed: the recipe’s time',
  typed: 'written down',
};

/** Who says how a pour was made. */
export const bySaid = (by: PourShown['by']) => (by === null ? '' : SAID[by]);
