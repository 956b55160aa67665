import { type DBSchema, type IDBPDatabase, openDB } from 'idb';
import { Refused } from '../../api/client';
import { putLateScores, putScores, type ScoreSent, type Sheet } from './queries';
import { withoutRefused } from './refused';

/** Scores that are kept on this phone until the bench has said it has them. One entry a cell, the newest. */
interface Boxes extends DBSchema {
  outbox: { key: string; value: ScoreSent & { key: string; token: string }; indexes: { token: string } };
  sheets: { key: string; value: { token: string; sheet: Sheet } };
}

let opened: Promise<IDBPDatabase<Boxes>> | null = null;

function boxes(): Promise<IDBPDatabase<Boxes>> {
  opened ??= openDB<Boxes>('brass-penny', 1, {
    upgrade(db) {
      db.createObjectStore('outbox', { keyPath: 'key' }).createIndex('token', 'token');
      db.createObjectStore('sheets', { keyPath: 'token' });
    },
  });
  return opened;
}

export type Delivery = 'delivered' | 'kept' | 'late' | 'withdrawn' | 'refused';

const BATCH = 100;

export async function keep(token: string, score: ScoreSent): Promise<void> {
  await (await boxes()).put('outbox', {
    ...score,
    token,
    key: `${token}/${score.code}/${score.attribute}/${score.pass_name ?? ''}`,
  });
}

export async function waiting(token: string): Promise<ScoreSent[]> {
  const rows = await (await boxes()).getAllFromIndex('outbox', 'token', token);
  return rows.sort((a, b) => a.seq - b.seq).map(({ key: _key, token: _token, ...score }) => score);
}

/**
 * Deliver what is kept, in order. A repeat is harmless: each touch has its own id, and the bench keeps the newest.
 * What the flight's close overtook is delivered as late, and shown apart there.
 */
export async function deliver(token: string): Promise<Delivery> {
  const scores = await waiting(token);
  if (!scores.length) return 'delivered';
  return deliverBatch(token, scores);
}

async function deliverBatch(token: string, scores: ScoreSent[]): Promise<Delivery> {
  try {
    const { delivered } = await putScores(token, scores.slice(0, BATCH));
    const uuids = new Set(delivered);
    await settle(
      token,
      scores.filter((s) => uuids.has(s.uuid)),
    );
    await forget(token, uuids);
    return scores.length > BATCH ? deliver(token) : (await waiting(token)).length ? 'kept' : 'delivered';
  } catch (error) {
    if (!(error instanceof Refused)) throw error;
    if (error.status === 409) return deliverLate(token, scores);
    if (error.status === 404) return 'withdrawn';
    return error.status === 422 ? deliverAround(token, scores, error) : 'kept';
  }
}

/** The bench refuses a whole batch for one bad touch: the others go without it, and it stays here, said to be refused. */
async function deliverAround(token: string, scores: ScoreSent[], refused: Refused): Promise<Delivery> {
  const good = withoutRefused(scores, refused.problem?.errors ?? []);
  if (good.length === scores.length || !good.length) return 'refused';
  const rest = await deliverBatch(token, good);
  return rest === 'delivered' || rest === 'kept' ? 'refused' : rest;
}

async function deliverLate(token: string, scores: ScoreSent[]): Promise<Delivery> {
  try {
    for (let at = 0; at < scores.length; at += BATCH) {
      const { delivered } = await putLateScores(token, scores.slice(at, at + BATCH));
      await forget(token, new Set(delivered));
    }
    return 'late';
  } catch {
    return 'kept';
  }
}

/** Write what has arrived into the remembered sheet, so that a reload without network shows it. */
async function settle(token: string, arrived: ScoreSent[]): Promise<void> {
  const sheet = await recallSheet(token);
  if (!sheet) return;
  for (const { code, attribute, pass_name = '', value, text, seq } of arrived) {
    const cup = sheet.cups.find((c) => c.code === code);
    if (!cup) continue;
    cup.scores = [
      ...cup.scores.filter((s) => s.attribute !== attribute || s.pass_name !== pass_name),
      { attribute, pass_name, value: value ?? null, text: text ?? '' },
    ];
    sheet.last_seq = Math.max(sheet.last_seq, seq);
  }
  await rememberSheet(token, sheet);
}

/** Drop what has arrived, unless a newer touch of the same cell came in between. */
async function forget(token: string, uuids: Set<string>): Promise<void> {
  const tx = (await boxes()).transaction('outbox', 'readwrite');
  for (let cursor = await tx.store.index('token').openCursor(token); cursor; cursor = await cursor.continue()) {
    if (uuids.has(cursor.value.uuid)) await cursor.delete();
  }
  await tx.done;
}

export async function rememberSheet(token: string, sheet: Sheet): Promise<void> {
  await (await boxes()).put('sheets', { token, sheet });
}

export async function recallSheet(token: string): Promise<Sheet | undefined> {
  return (await (await boxes()).get('sheets', token))?.sheet;
}
