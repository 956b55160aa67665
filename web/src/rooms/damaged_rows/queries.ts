import { queryOptions } from '@tanstack/react-query';
import { api, type Schemas, take } from '../../api/client';

export type Damaged = Schemas['DamagedShown'];

export const damagedQuery = queryOptions({
  queryKey: ['damaged-rows'],
  queryFn: async () => (await take(api.GET('/api/v1/damaged-rows'))).damaged,
});

export const putBack = ({ id, withoutValue }: { id: string; withoutValue: boolean }) =>
  take(
    api.POST('/api/v1/damaged-rows/{id}/put-back', {
      params: { path: { id } },
      body: { without_value: withoutValue },
    }),
  );

export const removeDamaged = (id: string) =>
  take(api.DELETE('/api/v1/damaged-rows/{id}', { params: { path: { id } } }));
