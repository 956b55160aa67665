import { useQuery } from '@tanstack/react-query';
import { useEffect } from 'react';
import { Outlet, useLocation } from 'react-router';
import { sessionQuery } from '../rooms/bench/queries';
import { useUnits } from './useUnits';

/** Around every page, the bench's own and those for others: figures are told in the bench's units, whoever looks. The
 * document says which page stands: the address changes a moment before, while the page left still takes presses. */
export function Told() {
  const { data } = useQuery(sessionQuery);
  const { pathname, search, hash } = useLocation();
  useEffect(() => {
    document.documentElement.dataset.page = pathname + search + hash;
  }, [pathname, search, hash]);
  return <Outlet key={useUnits(data?.units)} />;
}
