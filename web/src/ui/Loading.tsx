import { Button, Skeleton } from '@mantine/core';
import { useEffect, useState } from 'react';
import { isAway, untilBack } from './away';
import { messageOf } from './tell';

type Fetched<T> = { data: T | undefined; isError: boolean; error: unknown; refetch: () => unknown };

/** Shows a query's trouble with a way to try again (by itself, when the bench was away); its children once there is data. */
export function Loaded<T>({ query, children }: { query: Fetched<T>; children: (data: T) => React.ReactNode }) {
  const { isError, error, refetch } = query;
  const away = isError && isAway(error);
  useEffect(() => (away ? untilBack(() => refetch()) : undefined), [away, refetch]);
  if (query.data !== undefined) return children(query.data);
  if (isError) {
    return (
      <div className="card" role="alert">
        <p>{messageOf(error)}</p>
        {away ? (
          <p className="quiet">It is asked again by itself.</p>
        ) : (
          <Button mt="sm" variant="default" onClick={() => refetch()}>
            Try again
          </Button>
        )}
      </div>
    );
  }
  return <Waiting />;
}

const SLOW_S = 2;
const LINES = ['42%', '88%', '76%', '92%', '60%'];

/** A still outline of what comes; what takes a moment says for how long it has been worked on. */
function Waiting() {
  const [seconds, setSeconds] = useState(0);
  useEffect(() => {
    const timer = window.setInterval(() => setSeconds((s) => s + 1), 1000);
    return () => window.clearInterval(timer);
  }, []);
  return (
    <div className="waiting" aria-busy>
      {LINES.map((width, i) => (
        <Skeleton key={width} animate={false} height={i ? 16 : 28} width={width} radius={4} />
      ))}
      <p className={seconds < SLOW_S ? 'sr-only' : 'quiet small'} role="status">
        {seconds < SLOW_S ? 'Fetching' : `Being worked out, ${seconds} s`}
      </p>
    </div>
  );
}
