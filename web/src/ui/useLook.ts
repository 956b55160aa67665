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
  const { mutate, reset, isPending, error } = useMutation({
    mutationFn: lookAt,
    onError: (trouble) => {
      if (onTrouble && !onTrouble(trouble)) tellTrouble(trouble);
    },
  });
  const ask = useCallback((given: Given) => mutate(given, { onSuccess: setRead }), [mutate]); // only the newest look's answer counts
  const forget = useCallback(() => {
    reset();
    setRead(null);
  }, [reset]);
  return { read, ask, forget, error, isPending, isSettled: read !== null && !isPending && !error };
}
