import { useQueryClient } from '@tanstack/react-query';
import { useStream } from '../../ui/useStream';

const KINDS = ['score', 'late', 'seat', 'pass', 'temperature', 'close', 'flip'];

/** Looks again at the flight whenever the bench says that something happened, or every few seconds where it has no place for another listener; whether that is so. */
export function useFlightEvents(flightId: string, listening: boolean): boolean {
  const client = useQueryClient();
  return useStream(
    `/api/v1/flights/${flightId}/events`,
    listening,
    KINDS,
    () =>
      void client.invalidateQueries({
        predicate: (q) => q.queryKey.includes('flights') || q.queryKey.includes(flightId),
      }),
  );
}
