// What a long reckoning tells as it goes arrives in pieces of any size; each line is one value, and half a line is none.
import assert from 'node:assert/strict';
import { test } from 'vitest';
import { readLines } from '../api/lineReader';
import { readThenWritten } from '../ui/howFar';

const streamOf = (pieces: (Uint8Array | 'break')[]) => {
  const left = [...pieces];
  return new ReadableStream<Uint8Array>({
    pull(controller) {
      const piece = left.shift();
      if (piece === undefined) controller.close();
      else if (piece === 'break') controller.error(new Error('the connection broke'));
      else controller.enqueue(piece);
    },
  });
};

const read = async (pieces: (Uint8Array | 'break')[]) => {
  const found: unknown[] = [];
  for await (const line of readLines(streamOf(pieces))) found.push(line);
  return found;
};

const text = '{"done":250,"of":900}\n{"said":"White weave · 93 °C"}\n';
const bytes = new TextEncoder().encode(text);

test('lines are the same however they were cut, through a letter of several bytes too', async () => {
  const whole = await read([bytes]);
  assert.deepEqual(whole, [{ done: 250, of: 900 }, { said: 'White weave · 93 °C' }]);
  for (let size = 1; size <= bytes.length; size += 1) {
    const pieces = Array.from({ length: Math.ceil(bytes.length / size) }, (_, i) =>
      bytes.slice(i * size, (i + 1) * size),
    );
    assert.deepEqual(await read(pieces), whole, `in pieces of ${size}`);
  }
});

test('a connection that breaks leaves what was said, and no half line', async () => {
  assert.deepEqual(await read([bytes.slice(0, 30), 'break']), [{ done: 250, of: 900 }]);
  assert.deepEqual(await read([]), []);
});

test('a table is read, then written: a row is never counted twice', () => {
  assert.equal(readThenWritten({ done: 0, of: 800 }), 'Reading: 0 of 400 rows');
  assert.equal(readThenWritten({ done: 250, of: 800 }), 'Reading: 250 of 400 rows');
  assert.equal(readThenWritten({ done: 400, of: 800 }), 'Writing: 0 of 400 rows');
  assert.equal(readThenWritten({ done: 800, of: 800 }), 'Writing: 400 of 400 rows');
});
