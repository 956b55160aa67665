export type Listing = {
  text: string;
  shown: 'all' | 'waiting' | 'judged' | 'archived';
  tag: string;
  order: 'newest' | 'oldest';
};
const one = <T extends string>(value: string | null, of: readonly T[]): T => of.find((x) => x === value) ?? of[0]!;

/** What is looked for among the trials, as the address says it. */
export const listingOf = (params: URLSearchParams): Listing => ({
  text: params.get('text') ?? '',
  shown: one(params.get('shown'), ['all', 'waiting', 'judged', 'archived']),
  tag: params.get('tag') ?? '',
  order: one(params.get('order'), ['newest', 'oldest']),
});
