import { useCallback, useEffect, useRef, useState } from 'react';
import type { Refused } from '../../api/client';
import { keepForOfflineReload } from './offlineReload';
import { type Delivery, deliver, keep, recallSheet, rememberSheet, waiting } from './outbox';
import { readSheet, type ScoreSent, type Sheet } from './queries';

export type Answers = Record<string, { value: number | null; text: string }>;
export const cell = (code: string, attribute: string) => `${code}/${attribute}`;

const RETRY_MS = 3_000;

type SheetState = { sheet: Sheet; answers: Answers };

/** A taster's sheet on this phone: read once, scored at once, delivered when it can be. */
export function useSheet(token: string) {
  const [state, setState] = useState<SheetState | null>(null);
  const [trouble, setTrouble] = useState<Refused | null>(null);
  const [delivery, setDelivery] = useState<Delivery>('delivered');
  const seq = useRef(0);
  const busy = useRef(false);
  const again = useRef(false);

  const send = useCallback(async () => {
    again.current = true;
    if (busy.current) return;
    busy.current = true;
    while (again.current) {
      again.current = false; // a touch that comes in while this one is on its way sets it again
      setDelivery(await deliver(token));
    }
    busy.current = false;
  }, [token]);

  useEffect(() => {
    let here = true;
    (async () => {
      const sheet = await readSheet(token).catch(async (error: Refused) => {
        const held = error.status === 0 ? await recallSheet(token) : undefined;
        if (!held && here) setTrouble(error);
        return held;
      });
      if (!sheet || !here) return;
      await rememberSheet(token, sheet);
      const kept = await waiting(token);
      seq.current = Math.max(sheet.last_seq, ...kept.map((s) => s.seq));
      setState({
        sheet,
        answers: {
          ...answersOf(sheet),
          ...Object.fromEntries(
            kept.map((s) => [cell(s.code, s.attribute), { value: s.value ?? null, text: s.text ?? '' }]),
          ),
        },
      });
      if (kept.length) setDelivery('kept');
      send();
      keepForOfflineReload();
    })();
    const timer = window.setInterval(async () => {
      if ((await waiting(token)).length) send();
    }, RETRY_MS);
    window.addEventListener('online', send);
    return () => {
      here = false;
      window.clearInterval(timer);
      window.removeEventListener('online', send);
    };
  }, [token, send]);

  const score = useCallback(
    async (code: string, attribute: ScoreSent['attribute'], value: number | null, text = '') => {
      seq.current += 1;
      setState((now) => now && { ...now, answers: { ...now.answers, [cell(code, attribute)]: { value, text } } });
      setDelivery('kept');
      await keep(token, { uuid: newUuid(), seq: seq.current, code, attribute, value, text });
      send();
    },
    [token, send],
  );

  return { state, trouble, delivery, score };
}

function answersOf(sheet: Sheet): Answers {
  return Object.fromEntries(
    sheet.cups.flatMap((c) => c.scores.map((s) => [cell(c.code, s.attribute), { value: s.value, text: s.text }])),
  );
}

/** randomUUID is missing on plain http from another machine; random bytes are not. */
function newUuid(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(16));
  bytes[6] = (bytes[6]! & 0x0f) | 0x40;
  bytes[8] = (bytes[8]! & 0x3f) | 0x80;
  const hex = [...bytes].map((b) => b.toString(16).padStart(2, '0')).join('');
  return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-${hex.slice(12, 16)}-${hex.slice(16, 20)}-${hex.slice(20)}`;
}
