import { queryOptions } from '@tanstack/react-query';
import { api, type Schemas, take } from '../../api/client';

export const sessionQuery = queryOptions({
  queryKey: ['session'],
  queryFn: () => take(api.GET('/api/v1/session')),
  staleTime: 60_000,
});

export const benchQuery = queryOptions({
  queryKey: ['bench'],
  queryFn: () => take(api.GET('/api/v1/bench')),
});

export const sessionsQuery = queryOptions({
  queryKey: ['sessions'],
  queryFn: () => take(api.GET('/api/v1/sessions')),
});
export const endSession = (id: string) => take(api.DELETE('/api/v1/sessions/{id}', { params: { path: { id } } }));

export const editUnits = (body: Schemas['UnitsPatch']) => take(api.PATCH('/api/v1/units', { body }));

export const editBench = (rev: number, body: Schemas['BenchPatch']) =>
  take(api.PATCH('/api/v1/bench', { params: { header: { 'If-Match': rev } }, body }));

export const tokensQuery = queryOptions({
  queryKey: ['script-tokens'],
  queryFn: () => take(api.GET('/api/v1/script-tokens')),
});
export const makeToken = (body: Schemas['ScriptTokenBody']) => take(api.POST('/api/v1/script-tokens', { body }));
export const revokeToken = (id: string) => take(api.DELETE('/api/v1/script-tokens/{id}', { params: { path: { id } } }));
