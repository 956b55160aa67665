export type Entry = { key: string; label: string; hint: string; keys?: string; run: () => void };

/** The entries whose label or hint holds every word typed: those that begin with it first, else in the order given. */
export function matching(entries: readonly Entry[], typed: string): Entry[] {
  const words = typed.toLowerCase().split(/\s+/).filter(Boolean);
  const found = entries.filter((e) => words.every((w) => `${e.label} ${e.hint}`.toLowerCase().includes(w)));
  const begins = (e: Entry) => (words.length && e.label.toLowerCase().startsWith(words[0]!) ? 0 : 1);
  return [...found].sort((a, b) => begins(a) - begins(b));
}

/** The next one up or down, round the ends. */
export const stepped = (at: number, by: number, of: number) => (of ? (((at + by) % of) + of) % of : 0);
