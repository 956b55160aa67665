import { useCallback, useEffect, useRef, useState } from 'react';
import type { Refused } from '../../api/client';
import { keepForOfflineReload } from './offlineReload';
import { type Delivery, deliver, keep, recallSheet, rememberSheet, waiting } from './outbox';
import { readSheet, type ScoreSent, type Sheet } from './queries';

export type Answers = Record<string, { value: number | null; text: string }>;
export type PassName = NonNullable<ScoreSent['pass_name']>;
export type Touch = {
  code: string;
  attribute: ScoreSent['attribute'];
  pass?: PassName;
  value?: number | null;
  text?: string;
};

export const cell = (code: string, attribute: string, pass: string) => `${code}/${attribute}/${pass}`;
/** The passes of a sheet; one without a name in flights older than passes. */
export const passesOf = (sheet: Sheet) =>
  sheet.passes.length ? sheet.passes : [{ name: '', from_c: 0, to_c: 0, open: true, closed: false, opens_at: null }];

const RETRY_MS = 3_000;
const LOOK_AGAIN_MS = 12_000;

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
    try {
      while (again.current) {
        again.current = false; // a touch that comes in while this one is on its way sets it again
        const next = await deliver(token);
        setDelivery((now) => (now === 'late' && next === 'delivered' ? 'late' : next)); // late stays said
      }
    } catch (error) {
      console.warn('A delivery broke off; it is tried again.', error);
      setDelivery('kept');
    } finally {
      busy.current = false; // whatever happened: the next try must find the way free
    }
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
      setState({ sheet, answers: { ...answersOf(sheet), ...answersKept(kept, sheet) } });
      if (kept.length) setDelivery('kept');
      send();
      keepForOfflineReload();
    })();
    const retry = window.setInterval(async () => {
      if ((await waiting(token)).length) send();
    }, RETRY_MS);
    // a pass may open, or the flight close; what was touched here stays as it is
    const look = window.setInterval(async () => {
      const sheet = await readSheet(token).catch(() => undefined);
      if (sheet && here) setState((now) => now && { ...now, sheet });
    }, LOOK_AGAIN_MS);
    window.addEventListener('online', send);
    return () => {
      here = false;
      window.clearInterval(retry);
      window.clearInterval(look);
      window.removeEventListener('online', send);
    };
  }, [token, send]);

  const score = useCallback(
    async (...touches: Touch[]) => {
      setDelivery('kept');
      setState(
        (now) =>
          now && {
            ...now,
            answers: {
              ...now.answers,
              ...Object.fromEntries(
                touches.map((t) => [
                  cell(t.code, t.attribute, t.pass ?? ''),
                  { value: t.value ?? null, text: t.text ?? '' },
                ]),
              ),
            },
          },
      );
      for (const { code, attribute, pass = '', value = null, text = '' } of touches) {
        seq.current += 1;
        await keep(token, { uuid: newUuid(), seq: seq.current, code, attribute, pass_name: pass, value, text });
      }
      send();
    },
    [token, send],
  );

  return { state, trouble, delivery, score };
}

function answersOf(sheet: Sheet): Answers {
  return Object.fromEntries(
    sheet.cups.flatMap((c) =>
      c.scores.map((s) => [cell(c.code, s.attribute, s.pass_name), { value: s.value, text: s.text }]),
    ),
  );
}

/** What is still on this phone; a touch without a pass belongs to the first one. */
function answersKept(kept: ScoreSent[], sheet: Sheet): Answers {
  const first = passesOf(sheet)[0]!.name;
  return Object.fromEntries(
    kept.map((s) => [cell(s.code, s.attribute, s.pass_name || first), { value: s.value ?? null, text: s.text ?? '' }]),
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
