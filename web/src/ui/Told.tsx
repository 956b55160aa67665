import { useQuery } from '@tanstack/react-query';
import { Outlet } from 'react-router';
import { sessionQuery } from '../rooms/bench/queries';
import { useUnits } from './useUnits';

/** Around every page, the bench's own and those for others: figures are told in the bench's units, whoever looks. */
export function Told() {
  const { data } = useQuery(sessionQuery);
  return <Outlet key={useUnits(data?.units)} />;
}
