import { NativeSelect } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { JUDGED_PASSES, USUAL_JUDGED_PASS } from '../../api/vocabulary';
import { useSend } from '../../ui/useSend';
import { type JudgedPass, judgeBy, trialQuery } from '../trials/queries';
import { attributeQuery } from './queries';

/** By which pass it is judged, where there is more than one; chosen after the flip, the margin says so. */
export function JudgedBy({ trialId }: { trialId: string }) {
  const { data: trial } = useQuery(trialQuery(trialId));
  const { data: liking } = useQuery(attributeQuery(trialId, 'liking'));
  const choose = useSend((pass: JudgedPass) => judgeBy(trialId, trial!.rev, pass));
  const scored = liking?.passes.map((p) => p.pass_name) ?? [];
  if (!trial || scored.length < 2) return null;
  const choices = JUDGED_PASSES.filter((p) => p.code === USUAL_JUDGED_PASS || scored.includes(p.code));
  return (
    <NativeSelect
      size="xs"
      aria-label="Judged by"
      disabled={choose.isPending}
      value={trial.judged_pass}
      onChange={(e) => choose.mutate(e.currentTarget.value as JudgedPass)}
      data={choices.map((p) => ({ value: p.code, label: `Judged by ${p.label}` }))}
      styles={{ root: { display: 'inline-block', marginTop: 6 } }}
    />
  );
}
