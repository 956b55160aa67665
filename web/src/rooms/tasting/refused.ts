/** The touches of a batch that its refusal does not name ("scores.3.value" names the fourth). */
export function withoutRefused<T>(scores: T[], errors: { field: string }[]): T[] {
  const named = new Set(errors.map((e) => /^scores\.(\d+)(\.|$)/.exec(e.field)?.[1]).filter((n) => n !== undefined));
  return scores.filter((_, i) => !named.has(String(i)));
}
