import { queryOptions } from '@tanstack/react-query';
import { api, type Schemas, take } from '../../api/client';

export type Judged = Schemas['JudgedAnswer'];
export type VerdictAnswer = Schemas['VerdictAnswer'];

export const verdictQuery = (id: string) =>
  queryOptions({
    queryKey: ['trial', id, 'verdict'],
    queryFn: () => take(api.GET('/api/v1/trials/{id}/verdict', { params: { path: { id } } })),
  });
