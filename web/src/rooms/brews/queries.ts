import { infiniteQueryOptions, keepPreviousData, queryOptions } from '@tanstack/react-query';
import { api, type Schemas, take } from '../../api/client';
import type { Listing } from '../../ui/listing';

export type BrewListed = Schemas['BrewListed'];

export const BREWS_SHOWN = ['all', 'evidence', 'dial_in', 'loose', 'archived'] as const;
export type BrewListing = Listing<(typeof BREWS_SHOWN)[number]>;

/** Brews that are looked for, a page at a time. */
export const brewsQuery = (listing: BrewListing) =>
  infiniteQueryOptions({
    queryKey: ['brews', listing],
    queryFn: ({ pageParam }) => take(api.GET('/api/v1/brews', { params: { query: { ...listing, skip: pageParam } } })),
    initialPageParam: 0,
    getNextPageParam: (page, pages) => (page.more ? pages.reduce((sum, p) => sum + p.brews.length, 0) : undefined),
    placeholderData: keepPreviousData,
  });

export const brewTagsQuery = queryOptions({
  queryKey: ['brews', 'tags'],
  queryFn: async () => (await take(api.GET('/api/v1/brews/tags'))).tags,
});

export const fileRun = (id: string, rev: number, body: Schemas['FilingPatch']) =>
  take(api.PATCH('/api/v1/runs/{id}/filing', { params: { path: { id }, header: { 'If-Match': rev } }, body }));
