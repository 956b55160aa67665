import { useEffect, useState } from 'react';

/** Seconds since a moment, counted on while the page is open. */
export function useNow(since: string): number {
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    const timer = window.setInterval(() => setNow(Date.now()), 5000);
    return () => window.clearInterval(timer);
  }, []);
  return (now - Date.parse(since)) / 1000;
}
