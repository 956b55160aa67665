import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { type LiveBrew, liveQuery, type Now, readingsOf } from './queries';

export type Reading = {
  elapsed_s: number;
  scale_g: number | null;
  slurry_c: number | null;
  kettle_c: number | null;
  press_kg: number | null;
  source: string;
  begun: boolean;
  now: Now;
};

const LOOK_AGAIN_MS = 1000;

/**
 * What the instruments read and where the brew then stands, streamed; asked for every second while the stream is down. A press, and whatever begins or ends by itself,
 * is told by a stream that knows of it: one for each state of the brew. A real scale's readings come with the answers to what it said instead.
 */
export function useScale(brew: LiveBrew, gone: boolean): { reading: Reading | null; lost: boolean } {
  const client = useQueryClient();
  const [reading, setReading] = useState<Reading | null>(null);
  const [lost, setLost] = useState(false);
  const by_itself = brew.instrument === 'simulated';
  const on = !gone && brew.instrument !== 'wire' && !brew.finished && (brew.started_at !== null || by_itself);
  const known = useRef({ begun: false, phase: '' });
  known.current = { begun: brew.started_at !== null, phase: brew.now.phase };
  // biome-ignore lint/correctness/useExhaustiveDependencies: a new state of the brew asks for a new stream
  useEffect(() => {
    if (!on) return;
    const stream = new EventSource(readingsOf(brew.id));
    const look = () => void client.invalidateQueries(liveQuery(brew.id));
    let asking: number | undefined;
    stream.onmessage = (event) => {
      window.clearInterval(asking);
      asking = undefined;
      setLost(false);
      const read = JSON.parse(event.data) as Reading;
      setReading(read);
      const ended = read.now.ended_s !== null && !['drink', 'over'].includes(known.current.phase);
      if ((read.begun && !known.current.begun) || ended) look();
    };
    const lose = () => {
      setLost(true);
      asking ??= window.setInterval(look, LOOK_AGAIN_MS);
    };
    stream.onerror = lose;
    stream.addEventListener('full', lose);
    return () => {
      window.clearInterval(asking);
      stream.close();
    };
  }, [on, brew.id, brew.rev, client]);
  return { reading, lost };
}
