import { queryOptions } from '@tanstack/react-query';
import { api, type Schemas, take } from '../../api/client';

export const peopleQuery = queryOptions({
  queryKey: ['people'],
  queryFn: async () => (await take(api.GET('/api/v1/people'))).people,
});

export const addPerson = (name: string) => take(api.POST('/api/v1/people', { body: { name } }));
export const renamePerson = (id: string, rev: number, name: string) =>
  take(api.PATCH('/api/v1/people/{id}', { params: { path: { id }, header: { 'If-Match': rev } }, body: { name } }));
export const removePerson = (id: string) => take(api.DELETE('/api/v1/people/{id}', { params: { path: { id } } }));

export type Person = Schemas['PersonAnswer'];
export const reachQuery = queryOptions({ queryKey: ['reach'], queryFn: () => take(api.GET('/api/v1/reach')) });

export const openToNetwork = () => take(api.POST('/api/v1/open-to-network'));
