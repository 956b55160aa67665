import { queryOptions } from '@tanstack/react-query';
import { api, type Schemas, take } from '../../api/client';

export type Change = Schemas['ChangeAnswer'];

export const historyQuery = (id: string) =>
  queryOptions({
    queryKey: ['trial', id, 'history'],
    queryFn: async () => (await take(api.GET('/api/v1/trials/{id}/history', { params: { path: { id } } }))).changes,
  });

export const deletedQuery = queryOptions({
  queryKey: ['deleted'],
  queryFn: async () => (await take(api.GET('/api/v1/deleted'))).changes,
});

export const undoChange = (id: string) => take(api.POST('/api/v1/changes/{id}/undo', { params: { path: { id } } }));
