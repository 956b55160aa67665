import { infiniteQueryOptions, keepPreviousData, queryOptions } from '@tanstack/react-query';
import { api, type Schemas, take } from '../../api/client';
import type { Listing } from '../../ui/listing';

export type Stop = Schemas['StopShown'];
export type MarginCaveat = Schemas['MarginCaveatShown'];
export type Grade = NonNullable<Schemas['ProgressAnswer']['grade']>;
export type TrialListed = Schemas['TrialListed'];

/** While some are being judged, the list is asked for again. */
const againIn = (trials: readonly TrialListed[] | undefined) => (trials?.some((t) => t.judging) ? 1500 : false);

export const trialsQuery = queryOptions({
  queryKey: ['trials', 'newest'],
  queryFn: async () => (await take(api.GET('/api/v1/trials'))).trials,
  refetchInterval: ({ state }) => againIn(state.data),
});

export const TRIALS_SHOWN = ['all', 'waiting', 'judged', 'archived'] as const;
export type TrialListing = Listing<(typeof TRIALS_SHOWN)[number]>;

/** Trials that are looked for, a page at a time. */
export const allTrialsQuery = (listing: TrialListing) =>
  infiniteQueryOptions({
    queryKey: ['trials', 'all', listing],
    queryFn: ({ pageParam }) =>
      take(
        api.GET('/api/v1/trials', { params: { query: { ...listing, ...(pageParam ? { before: pageParam } : {}) } } }),
      ),
    initialPageParam: 0,
    getNextPageParam: (page) => (page.more ? page.trials[page.trials.length - 1]?.number : undefined),
    placeholderData: keepPreviousData,
  });

export const tagsQuery = queryOptions({
  queryKey: ['trials', 'tags'],
  queryFn: async () => (await take(api.GET('/api/v1/trials/tags'))).tags,
});

export const progressQuery = (id: string) =>
  queryOptions({
    queryKey: ['trial', id, 'rail'],
    queryFn: () => take(api.GET('/api/v1/trials/{id}/progress', { params: { path: { id } } })),
  });

/** A station's address within its trial. */
export const stationPath = (station: Stop['station']) => station.replace('_', '-');
