import assert from 'node:assert/strict';
import { test } from 'vitest';
import { kept, laid, leftOver, placesOf, read, toPour, touched } from '../rooms/palate/drilling';
import { placeWord, progress, stepsTyped } from '../rooms/palate/reading';
import { apartIn, apartUnit, tellIn } from '../ui/units';

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
  assert.deepEqual(
    [0, 1].map((p) => placeWord(p, 2)),
    ['Left', 'Right'],
  );
  assert.deepEqual(
    [0, 1, 2].map((p) => placeWord(p, 3)),
    ['Left', 'Middle', 'Right'],
  );
});

test('the way to a first answer is counted, and goes on after it', () => {
  assert.equal(progress(3, 8), '3 of 8 for a first answer');
  assert.equal(progress(8, 8), '8 answered: each one narrows it');
});

test('cups are put in order by touching them, and taken back from the one touched again', () => {
  const order = [2, 0, 1].reduce(touched, []);
  assert.deepEqual(order, [2, 0, 1]);
  assert.deepEqual(touched(order, 0), [2]);
  assert.deepEqual(touched(order, 2), []);
});

test('a word lies on one cup only', () => {
  assert.deepEqual(laid([0, null, 1], 1, 0), [null, 0, 1]);
  assert.deepEqual(laid([0, null, 1], 0, null), [null, null, 1]);
});

test('marks are read until the rest is plain', () => {
  assert.deepEqual(leftOver(['A', null, null], ['A', 'A', 'B']), ['A', 'B']);
  assert.deepEqual(read([null, null, null], 1, 'B', ['A', 'A', 'B']), ['A', 'B', 'A']);
  assert.deepEqual(read([null, null, null], 0, 'A', ['A', 'B', 'B']), ['A', 'B', 'B']);
  assert.deepEqual(read([null, null, null], 0, 'A', ['A', 'B', 'C']), ['A', null, null]);
  assert.deepEqual(read(['A', null, null], 2, 'B', ['A', 'B', 'C']), ['A', 'C', 'B']);
  assert.deepEqual(read(['A', 'C', 'B'], 0, 'B', ['A', 'B', 'C']), ['B', 'C', 'B']);
});

test('what to pour is said in words', () => {
  assert.equal(toPour(['A', 'A', 'B']), 'A twice and B once');
  assert.equal(toPour(['A', 'B', 'B']), 'A once and B twice');
  assert.equal(toPour(['A', 'B']), 'A and B');
  assert.equal(toPour(['A', 'B', 'C']), 'A, B and C');
  assert.deepEqual(placesOf(2), ['Cup 1', 'Cup 2']);
});

test('a habit is counted in weeks, without a fuss', () => {
  assert.equal(kept(0, 0), 'No sitting yet.');
  assert.equal(kept(1, 1), '1 sitting so far.');
  assert.equal(kept(0, 3), '3 sittings so far.');
  assert.equal(kept(3, 5), '5 sittings, 3 weeks in a row.');
});

test('steps of temperature are typed and told as differences in the bench’s unit, all others as they are', () => {
  const keeps = { getItem: () => null, setItem: () => {} };
  Object.assign(globalThis, { localStorage: keeps });
  tellIn({ heat: 'F', ratio: 'to_one', bags: 'g', currency: '' });
  assert.deepEqual(stepsTyped('1.8 2,7 4.5', '°C'), [1, 1.5, 2.5]);
  assert.deepEqual([apartIn(2.5, '°C'), apartUnit('°C'), apartIn(2.5, '%'), apartUnit('%')], [4.5, '°F', 2.5, '%']);
  assert.equal(stepsTyped('2 x', '°C'), null);
  tellIn({ heat: 'C', ratio: 'to_one', bags: 'g', currency: '' });
  assert.deepEqual([stepsTyped('1, 1.5', '°C'), apartIn(1.5, '°C'), apartUnit('°C')], [[1, 1.5], 1.5, '°C']);
});
