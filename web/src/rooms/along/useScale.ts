import { useEffect, useState } from 'react';
import { type LiveBrew, readingsOf } from './queries';

export type Reading = {
  elapsed_s: number;
  plan_g: number;
  scale_g: number | null;
  slurry_c: number | null;
  kettle_c: number | null;
  press_kg: number | null;
  source: string;
};

/** What the plan would read now and what the scale reads, streamed; lost while the stream is down. The brew goes on either way. */
export function useScale(brew: LiveBrew): { reading: Reading | null; lost: boolean } {
  const [reading, setReading] = useState<Reading | null>(null);
  const [lost, setLost] = useState(false);
  const on = brew.started_at !== null && !brew.finished;
  useEffect(() => {
    if (!on) return;
    const stream = new EventSource(readingsOf(brew.id));
    stream.onmessage = (event) => {
      setLost(false);
      setReading(JSON.parse(event.data) as Reading);
    };
    stream.onerror = () => setLost(true);
    return () => stream.close();
  }, [on, brew.id]);
  return { reading, lost };
}
