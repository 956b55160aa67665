import { queryOptions } from '@tanstack/react-query';
import { api, type Schemas, take } from '../../api/client';

export type Again = Schemas['AgainAnswer'];
export type LikingBody = Schemas['LikingBody'];
export type ChangeShown = Schemas['NextChangeShown'];

const at = (id: string) => ({ params: { path: { id } } });

export const againQuery = (runId: string) =>
  queryOptions({
    queryKey: ['run', runId, 'again'],
    queryFn: () => take(api.GET('/api/v1/runs/{id}/again', at(runId))),
  });

export const likedQuery = (query: { coffee?: string; days?: number } = {}) =>
  queryOptions({
    queryKey: ['liked', query],
    queryFn: () => take(api.GET('/api/v1/liked', { params: { query } })),
  });

export const like = (runId: string, rev: number, body: LikingBody) =>
  take(api.PUT('/api/v1/runs/{id}/liking', { params: { path: { id: runId }, header: { 'If-Match': rev } }, body }));

export const brewAgain = (runId: string, code: string) =>
  take(api.POST('/api/v1/runs/{id}/again', { ...at(runId), body: { code } }));
export const prepareAgain = (setupId: string, body: Schemas['LiveBrewOf']) =>
  take(api.POST('/api/v1/setups/{id}/live-brews', { ...at(setupId), body }));
