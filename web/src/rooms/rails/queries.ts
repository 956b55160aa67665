import { queryOptions } from '@tanstack/react-query';
import { api, type Schemas, take } from '../../api/client';

export type Stop = Schemas['StopShown'];
export type MarginCaveat = Schemas['MarginCaveatShown'];
export type TrialListed = Schemas['TrialListed'];

export const trialsQuery = queryOptions({
  queryKey: ['trials'],
  queryFn: async () => (await take(api.GET('/api/v1/trials'))).trials,
});

export const railQuery = (id: string) =>
  queryOptions({
    queryKey: ['trial', id, 'rail'],
    queryFn: () => take(api.GET('/api/v1/trials/{id}/rail', { params: { path: { id } } })),
  });

/** A station's address within its trial. */
export const stationPath = (station: Stop['station']) => station.replace('_', '-');
