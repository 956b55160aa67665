/** What was kept, laid over what a form begins with; anything unreadable, or of a field the form no longer has, is left out. */
export function mergedDraft<T extends object>(initial: T, kept: string | null): T {
  if (!kept) return initial;
  try {
    const found = JSON.parse(kept) as Record<string, unknown>;
    const known = Object.entries(found).filter(([field]) => field in initial);
    return { ...initial, ...Object.fromEntries(known) };
  } catch {
    return initial;
  }
}
