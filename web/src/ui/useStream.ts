import { useEffect, useRef, useState } from 'react';

/**
 * Listen to a stream of the bench: `kinds` of event each call `onEvent`. True while the bench has no place for another stream: the browser comes back by itself every few
 * seconds, and `onEvent` is called each time, so that the page looks again meanwhile.
 */
export function useStream(address: string, on: boolean, kinds: string[], onEvent: () => void): boolean {
  const [full, setFull] = useState(false);
  const heard = useRef(onEvent);
  heard.current = onEvent;
  const named = kinds.join(' ');
  useEffect(() => {
    setFull(false);
    if (!on) return;
    const source = new EventSource(address);
    const hear = (isFull: boolean) => () => {
      setFull(isFull);
      heard.current();
    };
    for (const kind of named.split(' ')) source.addEventListener(kind, hear(false));
    source.addEventListener('full', hear(true));
    return () => source.close();
  }, [address, on, named]);
  return full;
}
