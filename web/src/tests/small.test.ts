// Small things the interface works out by itself: a table as a file that no program runs, a device in words.

import assert from 'node:assert/strict';
import { test } from 'vitest';
import { csvOf } from '../charts/csv';
import { deviceWords } from '../rooms/people/devices';
import { isOnThisMachine } from '../rooms/tasting/reach';
import { askedWith, sentWith } from '../rooms/trials/variables';

const cell = (value: string | number) =>
  csvOf({ rows: [value], columns: [{ head: 'x', of: (v) => v }] }).split('\n')[1];

test('a cell that begins like a formula is quoted off, a lone number stays one', () => {
  assert.equal(cell('=1+1'), "'=1+1");
  assert.equal(cell("-1+cmd|' /C calc'!A0"), "'-1+cmd|' /C calc'!A0");
  assert.equal(cell('+49 30'), "'+49 30");
  assert.equal(cell('@here'), "'@here");
  for (const number of ['-1.5', '+2', '-3e-4', '0']) assert.equal(cell(number), number);
  assert.equal(cell(-0.25), '-0.25');
  assert.equal(cell('White weave'), 'White weave');
});

test('commas, quotes and line ends stay within their cell', () => {
  assert.equal(csvOf({ rows: [{ a: 'x, "y"\nz' }], columns: [{ head: 'a', of: (r) => r.a }] }), 'a\n"x, ""y""\nz"\n');
  assert.equal(csvOf({ rows: [], columns: [{ head: 'a,b', of: () => 1 }] }), '"a,b"\n');
});

test('a device is told by its browser and its kind, or as it tells itself', () => {
  assert.equal(
    deviceWords('Mozilla/5.0 (X11; Linux x86_64) AppleWebKit/537.36 Chrome/120.0 Safari/537.36'),
    'Chrome on a Linux computer',
  );
  assert.equal(
    deviceWords(
      'Mozilla/5.0 (iPhone; CPU iPhone OS 17_0 like Mac OS X) AppleWebKit/605 Version/17.0 Mobile Safari/604.1',
    ),
    'Safari on a phone',
  );
  assert.equal(
    deviceWords('Mozilla/5.0 (Linux; Android 14; Pixel) Gecko/120 Firefox/120.0 Mobile'),
    'Firefox on a phone',
  );
  assert.equal(deviceWords('curl/8.1'), 'curl/8.1');
  assert.equal(deviceWords(''), 'A device that says nothing of itself');
});

test('a link to this machine is known from one that phones can follow', () => {
  for (const here of ['http://127.0.0.1:8765/t/x', 'http://localhost/t/x', 'http://[::1]:8765/t/x', '/t/x'])
    assert.equal(isOnThisMachine(here), true, here);
  for (const there of ['http://192.168.1.20:8765/t/x', 'https://bench.example/t/x', 'http://127.example/t/x'])
    assert.equal(isOnThisMachine(there), false, there);
});

test('a grinder is asked about with the setting on its own dial, which is sent only where somebody typed it', () => {
  assert.deepEqual(askedWith('grinder'), ['grinder', 'grind_setting']);
  assert.deepEqual(askedWith('brewer'), ['brewer', 'brewer_type']);
  assert.deepEqual(sentWith('grinder', '5', '5 '), ['grinder']);
  assert.deepEqual(sentWith('grinder', '5', '14'), ['grinder', 'grind_setting']);
  assert.deepEqual(sentWith('grind_setting', '5', '5'), ['grind_setting']);
});
