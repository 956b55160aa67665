import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useCallback, useEffect, useRef, useState } from 'react';
import { Refused } from '../../api/client';
import { benchQuery } from '../bench/queries';
import { type LiveBrew, liveQuery, SCALE_LINES, weigh } from './queries';
import type { Reading } from './useScale';
import { Waiting } from './wireLines';

const SEND_MS = 500;
const BAUD = 9600;

type Stop = () => void;
type SerialPort = {
  open: (options: { baudRate: number }) => Promise<void>;
  close: () => Promise<void>;
  readable: ReadableStream<Uint8Array<ArrayBuffer>>;
};
type WithSerial = Navigator & { serial?: { requestPort: () => Promise<SerialPort> } };

/** A real scale on this device: its lines go to the bench as they come, and the bench says where the brew then stands. */
export function useWire(brew: LiveBrew, gone: boolean) {
  const client = useQueryClient();
  const { data: bench } = useQuery(benchQuery);
  const [reading, setReading] = useState<Reading | null>(null);
  const [state, setState] = useState<'off' | 'on'>('off');
  const [trouble, setTrouble] = useState('');
  const waiting = useRef(new Waiting());
  const stop = useRef<Stop>(() => undefined);
  const known = useRef({ rev: brew.rev, phase: brew.now.phase });
  known.current = { rev: brew.rev, phase: brew.now.phase };
  const wired = brew.instrument === 'wire' && !brew.finished && !gone;

  useEffect(() => {
    if (!wired) return;
    if (state === 'off') {
      const look = window.setInterval(() => void client.invalidateQueries(liveQuery(brew.id)), 2 * SEND_MS);
      return () => window.clearInterval(look); // the scale may be connected to another device
    }
    let sending = false;
    const send = async () => {
      if (sending) return;
      sending = true;
      const lines = waiting.current.take(performance.now());
      try {
        const told = await weigh(brew.id, lines);
        setReading({
          elapsed_s: 0,
          scale_g: told.scale_g,
          slurry_c: null,
          kettle_c: null,
          press_kg: null,
          source: 'wire',
          begun: told.started_at !== null,
          now: told.now,
        });
        setTrouble(told.unread.length ? `Not a mass: “${told.unread[0]}”` : '');
        const ended = told.now.ended_s !== null && !['drink', 'over'].includes(known.current.phase);
        if (told.rev !== known.current.rev || ended) void client.invalidateQueries(liveQuery(brew.id));
      } catch (error) {
        waiting.current.putBack(lines, performance.now());
        setTrouble(error instanceof Refused ? error.message : 'The bench does not answer; the readings are kept.');
      }
      sending = false;
    };
    const timer = window.setInterval(() => void send(), SEND_MS);
    return () => window.clearInterval(timer);
  }, [wired, state, brew.id, client]);
  useEffect(() => () => stop.current(), []);

  const hear = useCallback((text: string) => waiting.current.hear(text, performance.now()), []);
  const connectUsb = async () => {
    try {
      const port = await (navigator as WithSerial).serial!.requestPort();
      await port.open({ baudRate: BAUD });
      setState('on');
      setTrouble('');
      const reader = port.readable.pipeThrough(new TextDecoderStream()).getReader();
      stop.current = () => void reader.cancel().then(() => port.close());
      for (;;) {
        const { value, done } = await reader.read();
        if (done) break;
        hear(value);
      }
    } catch (error) {
      setTrouble(`The scale could not be opened: ${(error as Error).message}`);
    }
    setState('off');
  };
  const connectNetwork = () => {
    const stream = new EventSource(SCALE_LINES);
    stop.current = () => stream.close();
    stream.onopen = () => setState('on');
    stream.addEventListener('full', () => {
      stream.close();
      setState('off');
      setTrouble('Too many pages are open on this bench. Close one, then connect again.');
    });
    stream.onmessage = (event) => {
      const said = JSON.parse(event.data) as { text: string; trouble: string };
      if (said.trouble) {
        stream.close();
        setState('off');
        setTrouble(said.trouble);
      } else hear(`${said.text}\n`);
    };
  };
  return {
    wired,
    state,
    trouble,
    reading: state === 'on' ? reading : null,
    address: bench?.scale_address ?? '',
    usb: 'serial' in navigator,
    connectUsb,
    connectNetwork,
  };
}
