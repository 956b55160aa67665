import { queryOptions } from '@tanstack/react-query';
import { api, type Schemas, take } from '../../api/client';

export type KitCard = Schemas['KitCard'];

export const cardQuery = (id: string) =>
  queryOptions({
    queryKey: ['kit', id, 'card'],
    queryFn: () => take(api.GET('/api/v1/kit/{id}/card', { params: { path: { id } } })),
  });
