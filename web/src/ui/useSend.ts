import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useRef } from 'react';
import { Refused } from '../api/refused';
import { tellTrouble } from './tell';

type Sending<T, A> = {
  /** Called with the answer, before anything is fetched anew. */
  onDone?: (answer: T, asked: A) => void;
  /** Called in place of the usual message; return true when the trouble was shown at its field. */
  onTrouble?: (error: unknown) => boolean | undefined;
  /** The page is left by it: what it showed is asked for no more, for it may belong to another bench by now. */
  leaves?: boolean;
};

/** A write: afterwards everything on screen is fetched anew, since one brew can move every number of a trial. */
export function useSend<T, A = void>(
  send: (asked: A) => Promise<T>,
  { onDone, onTrouble, leaves = false }: Sending<T, A> = {},
) {
  const client = useQueryClient();
  const presses = useRef(0);
  return useMutation({
    mutationFn: send,
    onMutate: () => ++presses.current,
    onSuccess: (answer, asked) => onDone?.(answer, asked),
    onError: (error, _, press) => {
      // Refused late, when what was typed has changed and was sent again: the newer press says what is wrong now.
      if (onTrouble && press !== presses.current && error instanceof Refused && error.status === 422) return;
      if (!onTrouble?.(error)) tellTrouble(error);
    },
    onSettled: (_, error) => {
      if (error || !leaves) client.invalidateQueries();
    },
  });
}
