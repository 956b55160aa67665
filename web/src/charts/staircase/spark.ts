export type SparkPour = {
  plan_start_s: number;
  plan_end_s: number;
  plan_to_g: number;
  began_s: number | null;
  ended_s: number | null;
  reading_g: number | null;
};
/** The corners of a brew's water over time, s and g: as it was poured, where that is known, else as planned; level to the end. */
export function corners(
  pours: readonly SparkPour[],
  water_g: number | null,
  total_s: number | null,
): [number, number][] {
  const out: [number, number][] = [[0, 0]];
  let level = 0;
  for (const p of pours) {
    out.push([p.began_s ?? p.plan_start_s, level]);
    level = p.reading_g ?? p.plan_to_g;
    out.push([p.ended_s ?? p.plan_end_s, level]);
  }
  if (!pours.length && water_g) out.push([0, water_g]);
  const end = Math.max(total_s ?? 0, out.at(-1)![0]);
  return [...out, [end, out.at(-1)![1]]];
}
