import { queryOptions } from '@tanstack/react-query';
import { api, type Schemas, take } from '../../api/client';

export type RunBody = Schemas['RunBody'];
export type RunPatch = Schemas['RunPatch'];
export type LooseRunBody = Schemas['LooseRunBody'];

const at = (id: string) => ({ params: { path: { id } } });
const atRev = (id: string, rev: number) => ({ params: { path: { id }, header: { 'If-Match': rev } } });

export const slotsQuery = (trialId: string) =>
  queryOptions({
    queryKey: ['trial', trialId, 'slots'],
    queryFn: () => take(api.GET('/api/v1/trials/{id}/slots', at(trialId))),
  });

export const logRun = (trialId: string, body: RunBody) =>
  take(api.POST('/api/v1/trials/{id}/runs', { ...at(trialId), body }));
export const correctRun = (id: string, rev: number, body: RunPatch) =>
  take(api.PATCH('/api/v1/runs/{id}', { ...atRev(id, rev), body }));
export const removeRun = (id: string) => take(api.DELETE('/api/v1/runs/{id}', at(id)));

export const correctReading = (id: string, rev: number, body: Schemas['ReadingBody']) =>
  take(api.PATCH('/api/v1/readings/{id}', { ...atRev(id, rev), body }));
export const removeReading = (id: string) => take(api.DELETE('/api/v1/readings/{id}', at(id)));

export const logLooseRun = (body: LooseRunBody) => take(api.POST('/api/v1/loose-runs', { body }));
export const takeIn = (runId: string, rev: number, setup_id: string) =>
  take(api.POST('/api/v1/runs/{id}/take-in', { ...atRev(runId, rev), body: { setup_id } }));
export const takeScaleLog = (runId: string, rev: number, text: string) =>
  take(api.POST('/api/v1/runs/{id}/scale-log', { ...atRev(runId, rev), body: { text } }));
