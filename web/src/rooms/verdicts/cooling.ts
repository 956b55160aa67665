import { fixed } from '../../ui/numbers';
import type { AttributeJudged, Character } from './queries';

const points = (x: number) => fixed(x, 1).replace('-', '−');

/** How a setup changed while it cooled, in words: never a change that may be the tasters' scatter. */
export function asItCools({ cooled, steady, by_pass }: Pick<Character, 'cooled' | 'steady' | 'by_pass'>): string {
  const means = Object.entries(by_pass)
    .map(([pass, mean]) => `${pass} ${fixed(mean, 1)}`)
    .join(', ');
  if (Object.keys(by_pass).length < 2) return 'Tasted in one pass: how it cools is not known.';
  if (!cooled) return `Too few scored it twice to say how it cools: ${means}.`;
  const [low, high] = cooled.interval;
  if (steady === false)
    return `Changes as it cools: ${fixed(cooled.change, 1)} points better ${cooled.better} than ${cooled.worse} (${points(low!)} to ${points(high!)}).`;
  return steady
    ? `Steady as it cools: ${means}.`
    : `No change is shown as it cools, all setups and passes taken together: ${means}.`;
}

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
