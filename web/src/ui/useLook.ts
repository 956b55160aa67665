import { useMutation } from '@tanstack/react-query';
import { useCallback, useState } from 'react';
import { tellTrouble } from './tell';

/**
 * What was given is looked at by the bench, and looked at again whenever it is given anew. What was read stays in sight meanwhile: a page drawn
 * from a mutation's own data would be taken down at each look, and what somebody is typing with it. onTrouble: true when it was shown at its field;
 * without it the page shows `error` itself.
 */
export function useLook<Read, Given = void>(
  lookAt: (given: Given) => Promise<Read>,
  onTrouble?: (error: unknown) => boolean | undefined,
) {
  const [read, setRead] = useState<Read | null>(null);
  const { mutate, reset, isPending, error } = useMutation({ mutationFn: lookAt });
  // Said with the look, these are called for the newest one only: an older one's refusal is about what is typed no more.
  const ask = useCallback(
    (given: Given) =>
      mutate(given, {
        onSuccess: setRead,
        onError: (trouble) => {
          if (onTrouble && !onTrouble(trouble)) tellTrouble(trouble);
        },
      }),
    [mutate, onTrouble],
  );
  const forget = useCallback(() => {
    reset();
    setRead(null);
  }, [reset]);
  return { read, ask, forget, error, isPending, isSettled: read !== null && !isPending && !error };
}
