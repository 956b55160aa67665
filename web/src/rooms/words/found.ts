type Named = { label: string; also: readonly string[]; meaning: string };

/** Terms that hold every word typed: by their name first, then by what they mean; by name in order. */
export function found<T extends Named>(terms: readonly T[], typed: string): T[] {
  const words = typed.toLowerCase().split(/\s+/).filter(Boolean);
  const holds = (text: string) => words.every((w) => text.toLowerCase().includes(w));
  const named = (t: T) => holds([t.label, ...t.also].join(' '));
  const byName = [...terms].sort((a, b) => a.label.localeCompare(b.label));
  return [...byName.filter(named), ...byName.filter((t) => !named(t) && holds(t.meaning))];
}
