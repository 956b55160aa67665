import { useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';

const KINDS = ['score', 'late', 'seat', 'pass', 'temperature', 'close', 'flip'];

/** Looks again at the flight whenever the bench says that something happened; the browser reconnects by itself. */
export function useFlightEvents(flightId: string, listening: boolean): void {
  const client = useQueryClient();
  useEffect(() => {
    if (!listening) return;
    const source = new EventSource(`/api/v1/flights/${flightId}/events`);
    const look = () =>
      client.invalidateQueries({ predicate: (q) => q.queryKey.includes('flights') || q.queryKey.includes(flightId) });
    for (const kind of KINDS) source.addEventListener(kind, look);
    return () => source.close();
  }, [client, flightId, listening]);
}
