import type { Schemas } from '../../api/client';

type Kind = NonNullable<Schemas['VerdictAnswer']['answer']>['kind'];
type JudgedLead = {
  verdict: { choice: string | null; tied: readonly string[]; dropped: readonly string[] };
  lean: { setup: string | null };
};
type Grouped = { answer: { groups: readonly { best: string }[]; sighted: boolean } | null };
export type Lead = { kept: string[]; leans: string; dropped: string[] };

/** Which pennies stand beside the headline: kept, leaned to, dropped. Guests who differ each have theirs; in sight of labels nothing is kept or dropped. */
export function leadOf(kind: Kind, judged: JudgedLead | null, answer: Grouped): Lead {
  if (kind === 'camps') return { kept: [...new Set(answer.answer!.groups.map((g) => g.best))], leans: '', dropped: [] };
  if (!judged || (kind !== 'setup' && kind !== 'ladder')) return { kept: [], leans: '', dropped: [] };
  const leans = judged.lean.setup ?? '';
  if (kind === 'ladder' || answer.answer!.sighted) return { kept: [], leans, dropped: [] };
  const { choice, tied, dropped } = judged.verdict;
  const kept = choice ? [choice] : [...tied];
  return { kept, leans: kept.length ? '' : leans, dropped: [...dropped] };
}
