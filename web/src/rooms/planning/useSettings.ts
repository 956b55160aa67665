import { useMutation, useQueryClient } from '@tanstack/react-query';
import { tellTrouble } from '../../ui/tell';
import { queueOf } from './changeQueue';
import { type Plan, type PlanSettings, planQuery, savePlan } from './queries';

/**
 * Changes one part of the plan and keeps it at once. Changes made while one is on its way are put together and sent after it, on top of
 * what it made; the page shows them all the while, so three quick clicks are three steps and no error.
 */
export function useSettings(trialId: string, plan: Plan) {
  const client = useQueryClient();
  const key = planQuery(trialId).queryKey;
  const now = () => client.getQueryData<Plan>(key) ?? plan;
  const send = useMutation({
    mutationFn: async () => {
      const queue = queueOf<PlanSettings>(trialId);
      await queue.run(async (change) => {
        const stored = now();
        const saved = (await savePlan(trialId, stored.rev, { ...stored.settings, ...change })) as Plan;
        await client.cancelQueries({ queryKey: key });
        client.setQueryData<Plan>(key, { ...saved, settings: { ...saved.settings, ...queue.waiting() } });
      });
    },
    onError: (error) => {
      queueOf(trialId).clear();
      tellTrouble(error);
    },
    onSettled: () => client.invalidateQueries(),
  });
  const set = (change: Partial<PlanSettings>) => {
    queueOf<PlanSettings>(trialId).add(change);
    client.setQueryData<Plan>(key, { ...now(), settings: { ...now().settings, ...change } });
    send.mutate();
  };
  return { set, isPending: send.isPending };
}
