// What the interface works out for itself: places on charts, what was typed, what a file holds, what a brew's marks say.
import assert from 'node:assert/strict';
import { test } from 'vitest';
import { csvOf } from '../charts/csv';
import { lanesOf } from '../charts/day/lanes';
import { ratioEnds } from '../charts/ratioLadder/geometry';
import { stairsOf, timeTicks } from '../charts/staircase/geometry';
import { lineOnChart, panned, scalesOf, type View, zoomed } from '../charts/strengthExtraction/geometry';
import { seenSaid } from '../rooms/brewing/seen';
import { textOf } from '../rooms/brewing/textOf';
import { calledOf, laneSays, marksSaid, pouredSaid, whereIs } from '../rooms/live_brews/marks';
import {
  insertStep,
  moved,
  moveStep,
  removeStep,
  stepsOf,
  tidyDocument,
  withKind,
  withStep,
} from '../rooms/recipes/edits';
import { clock, fixed, percent, plural, readNumber, workTime } from '../ui/numbers';
import { ratio } from '../ui/units';
import rounding from './rounding.json';

// --- numbers ---------------------------------------------------------------------------------------------------------------

test('halves are rounded as the sentences of the core round them', () => {
  for (const [value, places, said] of rounding as [number, number, string][])
    assert.equal(fixed(value, places), said, `${value}`);
});

test('numbers are written with fixed decimals, a true minus and an en dash for nothing', () => {
  assert.deepEqual([fixed(1.416, 2), fixed(-0.25, 1), fixed(null), fixed(undefined, 1)], ['1.42', '−0.3', '–', '–']);
  assert.deepEqual([clock(95), clock(59.6), clock(-42), clock(0), clock(null)], ['1:35', '1:00', '−0:42', '0:00', '–']);
  assert.deepEqual([ratio(16), ratio(null)], ['1:16.0', '–']);
  assert.deepEqual([percent(0.004), percent(0), percent(0.416), percent(null)], ['<1 %', '0 %', '42 %', '–']);
  assert.deepEqual([workTime(28.4), workTime(119.6), workTime(268)], ['28 min', '2.0 h', '4.5 h']);
  assert.deepEqual([plural(1, 'brew'), plural(2, 'brew')], ['1 brew', '2 brews']);
});

test('a decimal comma is read and told apart from what is no number', () => {
  assert.deepEqual(readNumber('1,42'), { kind: 'number', value: 1.42, comma: true });
  assert.deepEqual(readNumber(' 18 '), { kind: 'number', value: 18, comma: false });
  assert.equal(readNumber('').kind, 'empty');
  for (const text of ['Lo', '1.4.2', '1,4,2', '12g', '--3', '.']) assert.equal(readNumber(text).kind, 'bad', text);
});

// --- charts ------------------------------------------------------------------------------------------------------------------

const FRAME = { width: 500, height: 400, left: 40, right: 40, top: 20, bottom: 40 };
const WHOLE: View = { ey: [16, 24], tds: [1.0, 1.8] };

test('a ratio line is cut to the plot on every side and labelled where it leaves', () => {
  const scales = scalesOf(FRAME, WHOLE.ey, WHOLE.tds);
  const straight = (from: number, to: number) =>
    Array.from({ length: 25 }, (_, i) => [14 + i * 0.5, from + ((to - from) * i) / 24]);
  const right = lineOnChart(straight(1.1, 1.5), 16, scales, WHOLE.ey, WHOLE.tds)!;
  assert.equal(right.label, '1:16');
  assert.equal(right.anchor, 'start');
  const top = lineOnChart(straight(1.2, 2.6), 12, scales, WHOLE.ey, WHOLE.tds)!;
  assert.equal(top.anchor, 'end');
  for (const line of [right, top]) {
    const xy = [...line.path.matchAll(/[ML]([\d.-]+) ([\d.-]+)/g)].map((m) => [Number(m[1]), Number(m[2])]);
    assert.ok(xy.every(([x, y]) => x! >= 39.9 && x! <= 460.1 && y! >= 19.9 && y! <= 360.1));
    assert.ok(Math.abs(xy[0]![0]! - 40) < 0.2); // it begins at the left edge although its points begin outside
  }
  assert.equal(lineOnChart(straight(2.2, 2.9), 9, scales, WHOLE.ey, WHOLE.tds), null); // above the plot
  assert.equal(lineOnChart(straight(0.2, 1.05), 30, scales, WHOLE.ey, WHOLE.tds)?.label ?? null, null); // a stub in a corner
});

test('zooming and moving never leave the whole, and never get smaller than a reading', () => {
  let view = WHOLE;
  for (let i = 0; i < 30; i++) view = zoomed(view, WHOLE, 0.6);
  assert.ok(view.ey[1] - view.ey[0] >= 0.5 - 1e-9 && view.tds[1] - view.tds[0] >= 0.04 - 1e-9);
  for (let i = 0; i < 200; i++) view = panned(view, WHOLE, { ey: 0.1, tds: -0.1 });
  assert.ok(Math.abs(view.ey[1] - 24) < 1e-9 && Math.abs(view.tds[0] - 1.0) < 1e-9);
  for (let i = 0; i < 30; i++) view = zoomed(view, WHOLE, 1 / 0.6);
  assert.deepEqual(
    [view.ey, view.tds].flat().map((x) => Math.round(x * 1e6) / 1e6),
    [16, 24, 1, 1.8],
  );
});

test('the ladder’s axis leaves half a ratio on either side', () =>
  assert.deepEqual(ratioEnds([15, 17, 16]), [14.5, 17.5]));

test('stairs reach to the next pour, the last one to the end, and the rest are marks', () => {
  const step = (index: number, kind: string, start_s: number, end_s: number, water_g: number, to_g: number | null) => ({
    index,
    kind,
    label: kind,
    start_s,
    end_s,
    water_g,
    to_g,
    rate_g_s: water_g ? 6 : null,
  });
  const { stairs, marks } = stairsOf(
    [
      step(0, 'rinse', -20, 0, 0, null),
      step(1, 'bloom', 0, 40, 45, 45),
      step(2, 'swirl', 40, 45, 0, null),
      step(3, 'pour', 60, 80, 125, 170),
    ],
    170,
  );
  assert.deepEqual(
    stairs.map((s) => [s.start_s, s.end_s, s.from_g, s.to_g]),
    [
      [0, 60, 0, 45],
      [60, 170, 45, 170],
    ],
  );
  assert.deepEqual(
    marks.map((m) => m.label),
    ['swirl'],
  );
  assert.equal(stairs[0]!.poured_s, 7.5);
  assert.deepEqual(timeTicks(170, 400), [0, 30, 60, 90, 120, 150]);
});

test('blocks at once stand in rows of their own, hands first', () => {
  const block = (lane: string, start_s: number, end_s: number) => ({ brew: 'A1', lane, label: '', start_s, end_s });
  const lanes = lanesOf([
    block('brewer:flat', 0, 100),
    block('brewer:flat', 50, 150),
    block('brewer:flat', 100, 200),
    block('hands', 0, 10),
  ]);
  assert.deepEqual(
    lanes.map((l) => [l.name, l.rows.length, l.passive]),
    [
      ['hands', 1, false],
      ['brewer:flat', 2, true],
    ],
  );
});

// --- files -------------------------------------------------------------------------------------------------------------------

test('a CSV cell is quoted where it must be and never begins like a formula', () => {
  const columns = [
    { head: 'brew', of: (r: { a: string; n: number }) => r.a },
    { head: 'x, %', of: (r: { a: string; n: number }) => r.n },
  ];
  const text = csvOf({
    rows: [
      { a: '=1+1', n: -1.5 },
      { a: 'say "hi"', n: 2 },
      { a: '-cmd', n: 0 },
      { a: '@x\ny', n: 1 },
    ],
    columns,
  });
  assert.equal(text, 'brew,"x, %"\n\'=1+1,-1.5\n"say ""hi""",2\n\'-cmd,0\n"\'@x\ny",1\n');
});

test('a scale’s file is read in whichever encoding it was written', async () => {
  const utf16 = new Uint8Array([0xff, 0xfe, ...[...'0;1,5'].flatMap((c) => [c.charCodeAt(0), 0])]);
  const swapped = new Uint8Array([0xfe, 0xff, ...[...'0;1,5'].flatMap((c) => [0, c.charCodeAt(0)])]);
  for (const bytes of [utf16, swapped]) assert.equal((await textOf(new Blob([bytes]))).replace('\ufeff', ''), '0;1,5');
  assert.equal(await textOf(new Blob(['zeit,größe'])), 'zeit,größe');
  assert.equal(await textOf(new Blob([new Uint8Array([0x67, 0x72, 0xf6])])), 'grö'); // windows-1252
});

// --- a brew while it is made ---------------------------------------------------------------------------------------------------

const STEPS = [
  { index: 1, kind: 'bloom', text: 'bloom 45 g', start_s: 0, end_s: 9, from_g: 0, to_g: 45, cue: '' },
  { index: 2, kind: 'pour', text: 'pour to 170 g', start_s: 40, end_s: 60, from_g: 45, to_g: 170, cue: '' },
  { index: 3, kind: 'press', text: 'press', start_s: 80, end_s: 105, from_g: 170, to_g: null, cue: '' },
];
const mark = (kind: string, at_s: number, index: number | null = null, reading_g: number | null = null, text = '') => ({
  kind,
  at_s,
  index,
  reading_g,
  text,
});
// biome-ignore lint/suspicious/noExplicitAny: only what these functions look at
const brew = (marks: any[], more: object = {}): any => ({
  trial_id: 't',
  letter: 'A',
  number: 2,
  name: 'White weave',
  steps: STEPS,
  marks,
  water_g: 170,
  total_s: 120,
  started_at: '2026-03-01T09:05:00Z',
  pours: [],
  now: { current: 2, next: 3, poured_g: null },
  ...more,
});

test('a lane says what is at hand, what wants a hand next, and when it is over', () => {
  const fresh = brew([]);
  assert.deepEqual([whereIs(fresh).current?.index, whereIs(fresh).next?.index], [2, 3]);
  assert.equal(laneSays(fresh, 3, STEPS[0], STEPS[1]), 'bloom 45 g until 0:09');
  assert.equal(laneSays(fresh, 20, STEPS[1], STEPS[1]), 'pour to 170 g at 0:40');
  assert.equal(laneSays({ ...fresh, started_at: null }, 0, STEPS[0], STEPS[0]), 'waits for its first water');
  assert.match(laneSays(fresh, 400, STEPS[2], undefined), /give it up/);
  assert.equal(laneSays(fresh, 110, undefined, undefined), 'drains');
  assert.equal(calledOf(fresh), 'A2');
  assert.equal(calledOf(brew([], { trial_id: null, name: 'Dog watch' })), 'Dog watch');
});

test('water poured is the last pour’s reading, else the plan’s', () => {
  const pour = (reading_g: number | null, by: string) => ({ reading_g, by });
  assert.equal(pouredSaid(brew([])), 170);
  assert.equal(pouredSaid(brew([], { pours: [pour(44.6, 'press'), pour(168.94, 'press'), pour(400, 'plan')] })), 168.9);
  assert.equal(pouredSaid(brew([], { pours: [pour(168.94, 'press')], now: { poured_g: 171.26 } })), 171.3);
});

test('what was touched so far is said in a line', () => {
  assert.equal(marksSaid(brew([mark('first_drip', 21.4), mark('spill', 50)])), 'first drip 0:21 · 1 spill');
  assert.equal(marksSaid(brew([])), '');
});

test('what was seen is said once, and a weighed sediment beats an unweighed one', () => {
  assert.equal(seenSaid({}), '');
  assert.equal(
    seenSaid({ bed: ['flat', 'high_wall'], sediment_left: true, sediment_g: 1.5 }),
    'bed flat, high wall · 1.5 g sediment left',
  );
  assert.equal(seenSaid({ simulated: true, sediment_left: true }), 'simulated · sediment left behind');
});

// --- a recipe while it is written ------------------------------------------------------------------------------------------

const DOC = {
  dose_g: 18,
  steps: [{ kind: 'bloom', to_g: 45, duration_s: 40 }, { kind: 'pour', to_g: 288, end_s: 110 }, { kind: 'serve' }],
} as never;

test('steps are put in, taken out and moved without touching the document they came from', () => {
  const before = JSON.stringify(DOC);
  assert.equal(
    stepsOf(insertStep(DOC, 1, { kind: 'swirl' } as never))
      .map((s) => s.kind)
      .join(),
    'bloom,swirl,pour,serve',
  );
  assert.equal(stepsOf(removeStep(DOC, 0)).length, 2);
  assert.equal(stepsOf(moveStep(DOC, 2, -1))[1]!.kind, 'serve');
  assert.equal(moveStep(DOC, 0, -1), DOC);
  assert.equal(
    stepsOf(withStep(DOC, 1, { to_g: 300, end_s: null }))
      .map((s) => Object.keys(s).length)
      .join(),
    '3,2,1',
  ); // empty fields go
  assert.equal(JSON.stringify(DOC), before);
});

test('another kind of step keeps what still applies, and dragging makes times explicit', () => {
  assert.deepEqual(stepsOf(withKind(DOC, 1, 'swirl'))[1], { kind: 'swirl', end_s: 110 });
  const timed = { index: 1, start_s: 69.5, end_s: 110 } as never;
  const dragged = stepsOf(moved(DOC, timed, { g: 12, start_s: 5, end_s: 5 }))[1]!;
  assert.deepEqual(dragged, { kind: 'pour', to_g: 300, start_s: 75, duration_s: 40 });
  assert.deepEqual(
    stepsOf(moved(DOC, { index: 0, start_s: 0, end_s: 40 } as never, { g: -100, start_s: 0, end_s: 0 }))[0]!.to_g,
    0,
  );
  assert.deepEqual(stepsOf(tidyDocument({ steps: [{ kind: 'pour', to_g: 5, cue: '', rest: false }] } as never)), [
    { kind: 'pour', to_g: 5 },
  ]);
});
