import { Button } from '@mantine/core';
import type { UseQueryResult } from '@tanstack/react-query';
import { messageOf } from './tell';

/** Shows a query's trouble with a way to try again; its children once there is data. */
export function Loaded<T>({ query, children }: { query: UseQueryResult<T>; children: (data: T) => React.ReactNode }) {
  if (query.data !== undefined) return children(query.data);
  if (query.isError) {
    return (
      <div className="card" role="alert">
        <p>{messageOf(query.error)}</p>
        <Button mt="sm" variant="default" onClick={() => query.refetch()}>
          Try again
        </Button>
      </div>
    );
  }
  return (
    <p className="quiet" role="status">
      Fetching…
    </p>
  );
}
