import { useEffect } from 'react';

const PRODUCT = 'Brass Penny';

/** What a tab or a bookmark is called: the page first, so that many tabs can be told apart. */
export const titleOf = (...parts: (string | undefined)[]) => [...parts.filter(Boolean), PRODUCT].join(' · ');

/** Names the page as long as it is shown; parts that are not known yet are left out, and none at all changes nothing. */
export function useTitle(...parts: (string | undefined)[]) {
  const title = parts.some(Boolean) ? titleOf(...parts) : '';
  useEffect(() => {
    if (!title) return;
    document.title = title;
    return () => {
      document.title = PRODUCT;
    };
  }, [title]);
}
