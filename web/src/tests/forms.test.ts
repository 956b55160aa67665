// What forms do with what was typed: times that read back as themselves, drafts, refusals nobody would see, changes in a row, touches refused.
import assert from 'node:assert/strict';
import { test } from 'vitest';
import { ChangeQueue, queueOf } from '../rooms/planning/changeQueue';
import { withoutRefused } from '../rooms/tasting/refused';
import { mergedDraft } from '../ui/draft';
import { inOneLine, notShown } from '../ui/notShown';
import { clock, exactClock } from '../ui/numbers';

/** What the bench makes of a time in m:ss.t; its own tests hold the reading. */
const read = (text: string) => {
  const [minutes, seconds] = text.split(':').map(Number);
  return Math.round((minutes! * 60 + seconds!) * 10) / 10;
};

test('a field’s time reads back as itself to the tenth, whatever it is', () => {
  for (let tenths = 0; tenths < 40_000; tenths += 7) assert.equal(read(exactClock(tenths / 10)), tenths / 10);
  assert.deepEqual(
    [exactClock(165.4), exactClock(165), exactClock(59.9), exactClock(60), exactClock(0)],
    ['2:45.4', '2:45', '0:59.9', '1:00', '0:00'],
  );
  assert.deepEqual([exactClock(null), exactClock(undefined)], ['', '']);
  assert.equal(clock(165.4), '2:45'); // for reading it stays whole
});

test('a draft lies over what the form begins with, and never brings fields the form no longer has', () => {
  const initial = { beverage_g: '', note: '' };
  assert.deepEqual(mergedDraft(initial, JSON.stringify({ at: 0, value: { note: 'slow', gone: 'x' } }), 5).values, {
    beverage_g: '',
    note: 'slow',
  });
  assert.deepEqual(mergedDraft(initial, null, 5).values, initial);
  assert.deepEqual(mergedDraft(initial, '{not json', 5).values, initial);
});

test('a refusal is not shown when its sentence stands nowhere on the page', () => {
  const page = inOneLine('Dose\n  18 g\nThe drink weighs   300 g. Check the server.');
  assert.deepEqual(notShown(['The drink weighs 300 g. Check the server.'], page), []);
  assert.deepEqual(notShown(['The drink weighs 300 g. Check the server.', 'No water is said.'], page), [
    'No water is said.',
  ]);
  assert.deepEqual(
    notShown(['Strength (TDS) cannot be 40 %. Give less.'], 'Reading 3: strength (TDS) cannot be 40 %. Give less.'),
    [],
  );
});

test('only the touches a refusal names are left behind', () => {
  const scores = ['a', 'b', 'c', 'd', 'e', 'f', 'g', 'h', 'i', 'j', 'k', 'l'];
  const left = withoutRefused(scores, [{ field: 'scores.1.value' }, { field: 'scores.11' }]);
  assert.deepEqual(left, ['a', 'c', 'd', 'e', 'f', 'g', 'h', 'i', 'j', 'k']);
  assert.deepEqual(withoutRefused(scores, [{ field: 'body' }]), scores);
});

test('changes made while one is on its way are sent in one, after it, and none is lost', async () => {
  const queue = new ChangeQueue<{ tasters: number; flights: number }>();
  const sent: object[] = [];
  let arrive = () => {};
  const slow = async (change: object) => {
    sent.push(change);
    if (sent.length === 1) await new Promise<void>((done) => (arrive = done));
  };
  queue.add({ tasters: 5 });
  const running = queue.run(slow);
  for (const tasters of [6, 7, 8]) {
    queue.add({ tasters });
    await queue.run(slow); // returns at once: the first run goes on
  }
  queue.add({ flights: 2 });
  assert.deepEqual([sent, queue.waiting()], [[{ tasters: 5 }], { tasters: 8, flights: 2 }]);
  arrive();
  await running;
  assert.deepEqual([sent, queue.waiting()], [[{ tasters: 5 }, { tasters: 8, flights: 2 }], {}]);
});

test('a change that fails leaves the way free for the next', async () => {
  const queue = queueOf<{ tasters: number }>('one trial');
  assert.equal(queueOf('one trial'), queue);
  queue.add({ tasters: 2 });
  await assert.rejects(queue.run(async () => Promise.reject(new Error('away'))));
  queue.add({ tasters: 3 });
  const sent: object[] = [];
  await queue.run(async (change) => void sent.push(change));
  assert.deepEqual(sent, [{ tasters: 3 }]);
});
