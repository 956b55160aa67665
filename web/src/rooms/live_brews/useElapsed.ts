import { useEffect, useState } from 'react';
import type { LiveBrew } from './queries';

const EVERY_MS = 100;

/** Seconds since the first water: from the bench's clock, counted on here. */
export function useElapsed(brew: LiveBrew, seen: number): number {
  const running = brew.started_at !== null && !brew.finished;
  const [now, setNow] = useState(() => performance.now());
  useEffect(() => {
    if (!running) return;
    const timer = window.setInterval(() => setNow(performance.now()), EVERY_MS);
    return () => window.clearInterval(timer);
  }, [running]);
  return running ? brew.elapsed_s + (Math.max(0, now - seen) / 1000) * brew.speed : brew.elapsed_s;
}
