const LOW = 1;
const HIGH = 9;

/** How one taster likes one setup: the mean, its share of the scale, and whether it is their favourite. Equals are all favourites. */
export function standing(means: Record<string, number>, letter: string) {
  const mean = means[letter] ?? null;
  const best = Math.max(...Object.values(means));
  return {
    mean,
    share: mean === null ? 0 : (mean - LOW) / (HIGH - LOW),
    favourite: mean !== null && mean === best && Object.values(means).some((m) => m < best),
  };
}
