import type { AttributeJudged } from './queries';

/** Each setup's mean from pass to pass, in the order of cooling; null where there was one pass only. */
export function cooling(judged: AttributeJudged) {
  const passes = judged.passes.filter((p) => p.pass_name !== 'mean');
  if (passes.length < 2) return null;
  const setups = passes[0]!.setups.map((s) => s.setup).sort();
  const rows = setups.map((setup) => ({
    setup,
    by_pass: Object.fromEntries(
      passes.flatMap((p) =>
        p.setups.filter((s) => s.setup === setup).map((s) => [p.pass_name, s.mean] as [string, number]),
      ),
    ),
  }));
  return { rows, passes: passes.map((p) => p.pass_name) };
}
