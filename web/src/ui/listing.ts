/** What is looked for in a long list, as the address says it. */
export type Listing<S extends string> = { text: string; shown: S; tag: string; order: 'newest' | 'oldest' };

const one = <T extends string>(value: string | null, of: readonly T[]): T => of.find((x) => x === value) ?? of[0]!;

/** shown: what the list may be narrowed to, the usual first. */
export const listingOf = <S extends string>(params: URLSearchParams, shown: readonly S[]): Listing<S> => ({
  text: params.get('text') ?? '',
  shown: one(params.get('shown'), shown),
  tag: params.get('tag') ?? '',
  order: one(params.get('order'), ['newest', 'oldest'] as const),
});

/** Only what differs from the usual stands in the address. */
export const addressOf = <S extends string>(listing: Listing<S>, shown: readonly S[]): Record<string, string> => {
  const usual = listingOf(new URLSearchParams(), shown);
  return Object.fromEntries(Object.entries(listing).filter(([name, v]) => v && v !== usual[name as keyof Listing<S>]));
};
