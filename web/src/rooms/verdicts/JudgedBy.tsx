import { Button } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { JUDGED_PASSES, USUAL_JUDGED_PASS } from '../../api/vocabulary';
import { Pick } from '../../ui/Pick';
import { Term } from '../../ui/Term';
import { useSend } from '../../ui/useSend';
import { type JudgedPass, judgeBy, type ScatterFrom, trialQuery } from '../trials/queries';
import { attributeQuery, type VerdictAnswer } from './queries';

/** By which pass it is judged, where there is more than one; chosen after the flip, the margin says so. */
export function JudgedBy({ trialId }: { trialId: string }) {
  const { data: trial } = useQuery(trialQuery(trialId));
  const { data: liking } = useQuery(attributeQuery(trialId, 'liking'));
  const choose = useSend((pass: JudgedPass) => judgeBy(trialId, trial!.rev, { judged_pass: pass }));
  const scored = liking?.passes.map((p) => p.pass_name) ?? [];
  if (!trial || scored.length < 2) return null;
  const choices = JUDGED_PASSES.filter((p) => p.code === USUAL_JUDGED_PASS || scored.includes(p.code));
  return (
    <Pick
      size="xs"
      aria-label="Judged by"
      disabled={choose.isPending}
      value={trial.judged_pass}
      onPick={(value) => choose.mutate(value as JudgedPass)}
      data={choices.map((p) => ({ value: p.code, label: `Judged by ${p.label}` }))}
      styles={{ root: { display: 'inline-block', marginTop: 6 } }}
    />
  );
}

/** By which scatter it is judged, and what the other would say of the same scores; both are always in sight. */
export function ScatterBy({ trialId, scatter }: { trialId: string; scatter: NonNullable<VerdictAnswer['scatter']> }) {
  const { data: trial } = useQuery(trialQuery(trialId));
  const choose = useSend((from: ScatterFrom) => judgeBy(trialId, trial!.rev, { scatter_from: from }));
  const own = scatter.scatter_from === 'own';
  return (
    <p className="quiet small">
      {scatter.text} <Term of="own_scatter">What is scatter?</Term>{' '}
      {trial && (
        <Button
          size="compact-xs"
          variant="subtle"
          loading={choose.isPending}
          onClick={() => choose.mutate(own ? 'usual' : 'own')}
        >
          {own ? 'Judge by the usual scatter' : 'Judge with the learnt scatter'}
        </Button>
      )}
    </p>
  );
}
