import type { TemperatureBody } from './queries';

type Read = (field: string, text: string) => number | null;

/** What is sent of the fields filled in: one reading for the flight, or those of the cups that were read. */
export function readingOf(
  texts: Record<string, string>,
  codes: string[],
  each: boolean,
  sure: boolean,
  numberOf: Read,
): TemperatureBody {
  if (!each) return { cup_c: numberOf('cup_c', texts[''] ?? ''), cups: [], sure };
  const read = codes.filter((code) => texts[code]?.trim());
  return { cups: read.map((code, i) => ({ code, cup_c: numberOf(`cups.${i}.cup_c`, texts[code]!)! })), sure };
}
