import { api, type Schemas, take } from '../../api/client';

export type RunBody = Schemas['RunBody'];
export type RunPatch = Schemas['RunPatch'];

const at = (id: string) => ({ params: { path: { id } } });
const atRev = (id: string, rev: number) => ({ params: { path: { id }, header: { 'If-Match': rev } } });

export const logRun = (trialId: string, body: RunBody) =>
  take(api.POST('/api/v1/trials/{id}/runs', { ...at(trialId), body }));
export const correctRun = (id: string, rev: number, body: RunPatch) =>
  take(api.PATCH('/api/v1/runs/{id}', { ...atRev(id, rev), body }));
export const removeRun = (id: string) => take(api.DELETE('/api/v1/runs/{id}', at(id)));

export const logReading = (runId: string, tds_pct: number) =>
  take(api.POST('/api/v1/runs/{id}/readings', { ...at(runId), body: { tds_pct } }));
export const correctReading = (id: string, rev: number, tds_pct: number) =>
  take(api.PATCH('/api/v1/readings/{id}', { ...atRev(id, rev), body: { tds_pct } }));
export const removeReading = (id: string) => take(api.DELETE('/api/v1/readings/{id}', at(id)));
