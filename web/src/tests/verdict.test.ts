// What the verdict's and the brew's screens work out by themselves: whose turn it is, a taster's favourite, lines as cups cool, what is sent of a thermometer.
import assert from 'node:assert/strict';
import { test } from 'vitest';
import { nextSetup } from '../rooms/brewing/turn';
import { readingOf } from '../rooms/tasting/temperatures';
import { cooling } from '../rooms/verdicts/cooling';
import { standing } from '../rooms/verdicts/favourite';
import { chance } from '../ui/numbers';
import { wrapped } from '../ui/picture';

const slot = (letter: string, n: number, run = '') => ({
  setup_id: letter,
  letter,
  label: `${letter}${n}`,
  run_id: run,
});
const setups = [
  { id: 'A', runs: 2 },
  { id: 'B', runs: 1 },
];

test('the turn is that of the first open slot', () => {
  assert.equal(nextSetup([slot('B', 1, 'r'), slot('A', 1), slot('B', 2)], setups), 'A');
});

test('a brew just logged fills its slot before the bench has said so', () => {
  const slots = [slot('A', 1), slot('A', 2), slot('B', 1)];
  assert.equal(nextSetup(slots, setups, 'A'), 'A');
  assert.equal(nextSetup(slots.slice(1), setups, 'A'), 'B');
  assert.equal(nextSetup([slot('A', 1)], setups, 'A'), 'B'); // nothing is left open: the one brewed least
});

test('without an open slot it is the turn of the setup brewed least, the last brew counted', () => {
  assert.equal(nextSetup([], setups), 'B');
  assert.equal(
    nextSetup(
      [slot('A', 1, 'r')],
      [
        { id: 'A', runs: 1 },
        { id: 'B', runs: 1 },
      ],
      'A',
    ),
    'B',
  );
});

test("a taster's favourite is their highest mean, equals together, and nobody's where all are liked alike", () => {
  assert.deepEqual(standing({ A: 7, B: 5 }, 'A'), { mean: 7, share: 0.75, favourite: true });
  assert.equal(standing({ A: 7, B: 5 }, 'B').favourite, false);
  assert.deepEqual(
    ['A', 'B', 'C'].map((l) => standing({ A: 7, B: 7, C: 5 }, l).favourite),
    [true, true, false],
  );
  assert.equal(standing({ A: 6, B: 6 }, 'A').favourite, false);
  assert.deepEqual(standing({ A: 6 }, 'C'), { mean: null, share: 0, favourite: false });
});

const pass = (name: string, means: Record<string, number>) => ({
  pass_name: name,
  setups: Object.entries(means).map(([setup, mean]) => ({ setup, mean })),
});

test('cups are drawn from pass to pass only where there is more than one, the mean left out', () => {
  const one = { passes: [pass('mean', { A: 6 }), pass('warm', { A: 6 })] };
  assert.equal(cooling(one as never), null);
  const two = { passes: [pass('mean', { A: 6, B: 5 }), pass('hot', { B: 7, A: 8 }), pass('cool', { A: 4 })] };
  assert.deepEqual(cooling(two as never), {
    passes: ['hot', 'cool'],
    rows: [
      { setup: 'A', by_pass: { hot: 8, cool: 4 } },
      { setup: 'B', by_pass: { hot: 7 } },
    ],
  });
});

test('of a thermometer one number is sent for the flight, or those cups that were read, by their place', () => {
  const asked: string[] = [];
  const read = (field: string, text: string) => (asked.push(field), Number(text));
  assert.deepEqual(readingOf({ '': '58' }, [''], false, false, read), { cup_c: 58, cups: [], sure: false });
  assert.deepEqual(readingOf({ '417': '57', '295': ' ', '736': '55' }, ['295', '417', '736'], true, true, read), {
    cups: [
      { code: '417', cup_c: 57 },
      { code: '736', cup_c: 55 },
    ],
    sure: true,
  });
  assert.deepEqual(asked, ['cup_c', 'cups.0.cup_c', 'cups.1.cup_c']);
});

test('a probability is never told as sure', () => {
  assert.deepEqual(
    [chance(1), chance(0), chance(0.5), chance(null), chance(0.994)],
    ['>99 %', '<1 %', '50 %', '–', '99 %'],
  );
});

test('notes under a picture break between words and lose none', () => {
  const text = 'Drip-brew research of the 2020s: what cups taste like by region.';
  const lines = wrapped(text, 20);
  assert.ok(lines.length > 3 && lines.every((l) => l.length <= 20));
  assert.equal(lines.join(' '), text);
  assert.deepEqual(wrapped('unbreakablelongword', 5), ['unbreakablelongword']);
});
