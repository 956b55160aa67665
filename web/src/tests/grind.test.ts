import assert from 'node:assert/strict';
import { test } from 'vitest';
import { bandPath, linePath, movedEnd, rulerTicks, scalesOf } from '../charts/grind/geometry';
import { figureOf, lacks, picked, readMass, twoOf } from '../rooms/grinding/pick';

const grind = (id, dial_id, d50, day = '2026-03-01', samples = [{ id: `${id}-1`, sampled_on: day }]) => ({
  id,
  dial_id,
  samples,
  measures: [{ code: 'd50', figure: d50 === null ? null : { value: d50, interval: [d50 - 5, d50 + 5] } }],
});

test('a mass is a number, or full less empty vessel, with a point or a comma', () => {
  assert.equal(readMass('6.4'), 6.4);
  assert.equal(readMass('86.4-80.1'), 6.3);
  assert.equal(readMass('86,4 − 80,1'), 6.3);
  assert.equal(readMass('0'), 0);
  for (const bad of ['', '-3', 'six', '1-2-3', '5-', '1e3']) assert.equal(readMass(bad), null, bad);
});

test('the two in view: the newest, and the nearest median of another dial', () => {
  const grinds = [
    grind('a', 'x', 600),
    grind('b', 'x', 700),
    grind('c', 'y', 690, '2026-03-05'),
    grind('d', 'z', null),
  ];
  const { first, second } = twoOf(grinds, null, null);
  assert.deepEqual([first.id, second.id], ['c', 'b']);
  assert.equal(twoOf(grinds, 'a', null).second.id, 'c');
  assert.equal(twoOf(grinds, 'a-1', 'b').second.id, 'b'); // by any of its samples, and of one dial where it is asked for
});

test('one grind alone, none at all, and one asked for twice have no second', () => {
  assert.equal(twoOf([grind('a', 'x', 600)], null, null).second, undefined);
  assert.deepEqual(twoOf([], 'a', 'b'), { first: undefined, second: undefined });
  assert.equal(twoOf([grind('a', 'x', 600), grind('b', 'y', 1)], 'a', 'a').second, undefined);
  assert.equal(figureOf(grind('d', 'z', null), 'd50'), null);
});

test('what was asked for and is not there yet is noticed', () => {
  const room = { grinds: [grind('a', 'x', 600)] };
  assert.equal(lacks(room, ['a', 'a-1', null]), false);
  assert.equal(lacks(room, ['a', 'new']), true);
  assert.equal(lacks(undefined, ['a']), true);
});

test('choosing the other one changes their places', () => {
  const two = { first: 'a', second: 'b' };
  assert.deepEqual(picked(two, 'first', 'b'), { first: 'b', second: 'a' });
  assert.deepEqual(picked(two, 'second', 'c'), { first: 'a', second: 'c' });
});

test("a band's end moves in tens, inside the stack, and never past the other", () => {
  const band = { from_um: 300, to_um: 800 };
  assert.deepEqual(movedEnd(band, 'to_um', 852, [300, 1100]), { from_um: 300, to_um: 850 });
  assert.deepEqual(movedEnd(band, 'to_um', 5000, [300, 1100]), { from_um: 300, to_um: 1100 });
  assert.deepEqual(movedEnd(band, 'to_um', 100, [300, 1100]), { from_um: 300, to_um: 310 });
  assert.deepEqual(movedEnd(band, 'from_um', 2000, [300, 1100]), { from_um: 790, to_um: 800 });
  assert.deepEqual(movedEnd(band, 'from_um', 10, [300, 1100]), { from_um: 300, to_um: 800 });
});

test('sizes lie on a log axis, shares from the foot up', () => {
  const { x, y } = scalesOf([250, 1000], { left: 0, right: 100, top: 0, bottom: 200 });
  assert.ok(Math.abs(x(500) - 50) < 1e-9); // the geometric middle
  assert.deepEqual([y(0), y(100)], [200, 0]);
});

test('a curve and its replicates closed round it', () => {
  const points = [
    { aperture_um: 300, finer_pct: 10, low_pct: 8, high_pct: 12 },
    { aperture_um: 800, finer_pct: 60, low_pct: 58, high_pct: 61 },
  ];
  const same = (v: number) => v;
  assert.equal(linePath(points, same, same), 'M300.0 10.0L800.0 60.0');
  assert.equal(bandPath(points, same, same), 'M300.0 12.0L800.0 61.0L800.0 58.0L300.0 8.0Z');
});

test("a ruler's steps stand where its line has them, none on top of another", () => {
  const same = (v: number) => v;
  assert.deepEqual(rulerTicks([1, 3], 1, [600, 700], same), [600, 650, 700]);
  assert.deepEqual(rulerTicks([3, 1], -1, [600, 700], same), [600, 650, 700]); // a dial that runs the other way
  assert.equal(rulerTicks([0, 10], 0.1, [600, 650], same, 5).length, 11);
});
