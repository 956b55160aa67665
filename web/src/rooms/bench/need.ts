import type { Stop } from '../progress/queries';

type Waits = { next_station: Stop['station']; number: number };
const RANK: Record<Stop['station'], number> = { taste: 0, measure: 1, brew: 2, set_up: 3, ask: 4, verdict: 5 };

/** Cups on the table come before brews, brews before paper; of those that wait alike the newest first. */
export const inOrderOfNeed = <T extends Waits>(trials: readonly T[]): T[] =>
  [...trials].sort((a, b) => RANK[a.next_station] - RANK[b.next_station] || b.number - a.number);
