import { useSend } from '../../ui/useSend';
import { type Plan, type PlanSettings, savePlan } from './queries';

/** Changes one part of the plan and keeps it at once. */
export function useSettings(trialId: string, plan: Plan) {
  const save = useSend((change: Partial<PlanSettings>) => savePlan(trialId, plan.rev, { ...plan.settings, ...change }));
  return { set: save.mutate, isPending: save.isPending };
}
