import { useEffect, useState } from 'react';

const TICK_MS = 100;

/** A clock with one key: starts, then stops at what it reads, in tenths. */
export function useStopwatch(onStop: (seconds: number) => void) {
  const [since, setSince] = useState<number | null>(null);
  const [now, setNow] = useState(0);
  useEffect(() => {
    if (since === null) return;
    const timer = window.setInterval(() => setNow(performance.now()), TICK_MS);
    return () => window.clearInterval(timer);
  }, [since]);
  const press = () => {
    const at = performance.now();
    if (since === null) {
      setSince(at);
      setNow(at);
      return;
    }
    setSince(null);
    onStop(Math.round((at - since) / 100) / 10);
  };
  return { running: since !== null, seconds: since === null ? 0 : Math.max(0, now - since) / 1000, press };
}
