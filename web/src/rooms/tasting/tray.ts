type Seat = { name: string; scored: number; of: number; order: readonly string[]; left_at: string | null };
type Cup = { code: string; round: number };
export type AtTable = { status: string; method: string; sheets: readonly Seat[]; cups: readonly Cup[] };

/** Who is at which cup, or at which round, as far as the count of what each has scored tells it along their own order. Nobody who is done or has left. */
export function whereTastersAre(f: AtTable): { byCup: Record<string, string[]>; byRound: Record<number, string[]> } {
  const byCup: Record<string, string[]> = {};
  const byRound: Record<number, string[]> = {};
  const rounds = [...new Set(f.cups.map((c) => c.round))];
  for (const seat of f.sheets) {
    if (f.status !== 'open' || seat.left_at || seat.scored >= seat.of || !seat.order.length) continue;
    if (f.method === 'scores') {
      const code = seat.order[seat.scored % seat.order.length]!; // each pass goes through the same order
      byCup[code] = [...(byCup[code] ?? []), seat.name];
    } else if (rounds.length > 1) {
      const round = rounds[Math.min(seat.scored, rounds.length - 1)]!;
      byRound[round] = [...(byRound[round] ?? []), seat.name];
    }
  }
  return { byCup, byRound };
}

const COLD_C = 40;
const HOT_C = 68;

/** How much steam stands over the cups: none when they are cold, all of it when they scald. */
export const steamOf = (now_c: number) => Math.min(1, Math.max(0, (now_c - COLD_C) / (HOT_C - COLD_C)));
