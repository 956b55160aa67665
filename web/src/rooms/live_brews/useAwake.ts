import { useEffect } from 'react';

/** Keeps the screen on while a brew runs, where the browser allows it. */
export function useAwake(on: boolean) {
  useEffect(() => {
    if (!on || !('wakeLock' in navigator)) return;
    let lock: WakeLockSentinel | undefined;
    const ask = () => {
      if (document.visibilityState !== 'visible') return;
      navigator.wakeLock.request('screen').then(
        (given) => {
          lock = given;
        },
        () => undefined, // refused, such as on low battery: the brew does not depend on it
      );
    };
    ask();
    document.addEventListener('visibilitychange', ask);
    return () => {
      document.removeEventListener('visibilitychange', ask);
      void lock?.release();
    };
  }, [on]);
}
