import { Button } from '@mantine/core';

import { messageOf } from './tell';

type Fetched<T> = { data: T | undefined; isError: boolean; error: unknown; refetch: () => unknown };

/** Shows a query's trouble with a way to try again; its children once there is data. */
export function Loaded<T>({ query, children }: { query: Fetched<T>; children: (data: T) => React.ReactNode }) {
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
