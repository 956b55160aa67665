import assert from 'node:assert/strict';
import { test } from 'node:test';
import { placeWord, progress, stepsTyped } from '../../web/src/rooms/palate/reading.ts';

test('steps are read however they are parted', () => {
  assert.deepEqual(stepsTyped('2, 3, 4.5'), [2, 3, 4.5]);
  assert.deepEqual(stepsTyped('2 3 4,5'), [2, 3, 4.5]);
  assert.deepEqual(stepsTyped('2;3;4,5'), [2, 3, 4.5]);
  assert.deepEqual(stepsTyped('2,3,5'), [2, 3, 5]);
  assert.deepEqual(stepsTyped('  '), []);
});

test('what is no step is none', () => {
  for (const text of ['2, x', 'two', '1 2 3e', '1..5 2 3']) assert.equal(stepsTyped(text), null, text);
});

test('cups are called by where they stand', () => {
  assert.deepEqual([0, 1].map((p) => placeWord(p, 2)), ['Left', 'Right']);
  assert.deepEqual([0, 1, 2].map((p) => placeWord(p, 3)), ['Left', 'Middle', 'Right']);
});

test('the way to a first answer is counted, and goes on after it', () => {
  assert.equal(progress(3, 8), '3 of 8 for a first answer');
  assert.equal(progress(8, 8), '8 answered: each one narrows it');
});
