import { queryOptions } from '@tanstack/react-query';
import { api, type Schemas, take } from '../../api/client';

export type Report = Schemas['ReportAnswer'];

export const reportQuery = (id: string) =>
  queryOptions({
    queryKey: ['trial', id, 'report'],
    queryFn: () => take(api.GET('/api/v1/trials/{id}/report', { params: { path: { id } } })),
  });
