const WITHIN = 0.02;

/** What all of them cost, where they cost the same within two in a hundred; null where they do not. */
export function alike(costs: number[]): number | null {
  const low = Math.min(...costs);
  const high = Math.max(...costs);
  return high - low <= WITHIN * high ? (low + high) / 2 : null;
}
