import { useSyncExternalStore } from 'react';
import { person } from '../../api/client';

const listeners = new Set<() => void>();
const listen = (told: () => void) => {
  listeners.add(told);
  return () => void listeners.delete(told);
};

/** Who this device is used as, the same wherever it is shown. */
export function useWho() {
  const who = useSyncExternalStore(listen, person.get);
  const choose = (id: string) => {
    person.set(id);
    for (const told of listeners) told();
  };
  return { who, choose };
}
