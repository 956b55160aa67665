import { queryOptions } from '@tanstack/react-query';
import { api, type Schemas, take } from '../../api/client';

export type Results = Schemas['ResultsAnswer'];
export type RunMeasured = Schemas['RunMeasured'];
export type SetupMeasured = Schemas['SetupMeasured'];
export type Quantity = Schemas['Quantity'];

export const resultsQuery = (id: string) =>
  queryOptions({
    queryKey: ['trial', id, 'results'],
    queryFn: () => take(api.GET('/api/v1/trials/{id}/results', { params: { path: { id } } })),
  });
