const SHOWN = ['all', 'evidence', 'dial_in', 'loose', 'archived'] as const;
const ORDER = ['newest', 'oldest'] as const;

export type Listing = { text: string; shown: (typeof SHOWN)[number]; tag: string; order: (typeof ORDER)[number] };

const one = <T extends string>(value: string | null, of: readonly T[]): T => of.find((x) => x === value) ?? of[0]!;

/** What is looked for among the brews, as the address says it. */
export const listingOf = (params: URLSearchParams): Listing => ({
  text: params.get('text') ?? '',
  shown: one(params.get('shown'), SHOWN),
  tag: params.get('tag') ?? '',
  order: one(params.get('order'), ORDER),
});

/** Only what differs from the usual stands in the address. */
export const addressOf = (listing: Listing): Record<string, string> => {
  const usual = listingOf(new URLSearchParams());
  return Object.fromEntries(Object.entries(listing).filter(([name, v]) => v && v !== usual[name as keyof Listing]));
};
