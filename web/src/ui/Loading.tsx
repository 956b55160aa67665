import { Button } from '@mantine/core';
import { useEffect, useState } from 'react';

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
  return <Waiting />;
}

const SLOW_S = 2;

/** What takes a moment says for how long it has been worked on. */
function Waiting() {
  const [seconds, setSeconds] = useState(0);
  useEffect(() => {
    const timer = window.setInterval(() => setSeconds((s) => s + 1), 1000);
    return () => window.clearInterval(timer);
  }, []);
  return (
    <p className="quiet" role="status">
      {seconds < SLOW_S ? 'Fetching…' : `Being worked out… ${seconds} s`}
    </p>
  );
}
