// A recipe while it is written: steps changed, moved and given another kind, pours dragged, settings linked; each state says no more than was done.

import assert from 'node:assert/strict';
import { test } from 'vitest';
import { STEPS } from '../api/vocabulary';
import {
  insertStep,
  linkGrind,
  moved,
  moveStep,
  removeStep,
  seenOf,
  seenText,
  stepsOf,
  takes,
  tidyDocument,
  withGrind,
  withKind,
  withoutGrind,
  withStep,
} from '../rooms/recipes/edits';
import type { RecipeDocument, TimedStep } from '../rooms/recipes/queries';

const doc: RecipeDocument = {
  dose_g: 18,
  steps: [
    { kind: 'bloom', to_g: 45, duration_s: 40, temperature_c: 94, where: 'spiral' },
    { kind: 'pour', to_g: 170, start_s: 40, duration_s: 20, cue: 'bed shows' },
    { kind: 'swirl', count: 3 },
  ],
};
const timed = (index: number, start_s: number, end_s: number) => ({ index, start_s, end_s }) as TimedStep;

test('a change is one step’s, and the document before it stays as it was', () => {
  const next = withStep(doc, 1, { to_g: 180 });
  assert.equal(stepsOf(next)[1]!.to_g, 180);
  assert.equal(stepsOf(doc)[1]!.to_g, 170);
  assert.equal(stepsOf(next)[0], stepsOf(doc)[0]); // the others are the very same
});

test('an emptied value leaves no trace, so that two documents saying the same are the same', () => {
  const next = withStep(doc, 1, { cue: '', start_s: null, where: '' });
  assert.deepEqual(stepsOf(next)[1], { kind: 'pour', to_g: 170, duration_s: 20 });
  assert.deepEqual(tidyDocument({ steps: [{ kind: 'wait', note: '', rest: false, duration_s: 0 }] }).steps, [
    { kind: 'wait', duration_s: 0 },
  ]);
});

test('steps are put in, taken out and moved, never past an end', () => {
  assert.deepEqual(
    stepsOf(insertStep(doc, 1, { kind: 'wait' })).map((s) => s.kind),
    ['bloom', 'wait', 'pour', 'swirl'],
  );
  assert.deepEqual(
    stepsOf(removeStep(doc, 0)).map((s) => s.kind),
    ['pour', 'swirl'],
  );
  assert.deepEqual(
    stepsOf(moveStep(doc, 2, -1)).map((s) => s.kind),
    ['bloom', 'swirl', 'pour'],
  );
  assert.equal(moveStep(doc, 0, -1), doc);
  assert.equal(moveStep(doc, 2, 1), doc);
});

test('a step of another kind keeps what still applies to it and nothing else', () => {
  const stirred = stepsOf(withKind(doc, 0, 'stir'))[0]!;
  assert.deepEqual(stirred, { kind: 'stir', duration_s: 40 });
  const poured = stepsOf(withKind(doc, 0, 'pour'))[0]!;
  assert.deepEqual(poured, { kind: 'pour', duration_s: 40, to_g: 45, where: 'spiral', temperature_c: 94 });
  assert.deepEqual(stepsOf(withKind(doc, 1, 'wait'))[1], {
    kind: 'wait',
    cue: 'bed shows',
    start_s: 40,
    duration_s: 20,
  });
});

test('every kind of step that pours onto the coffee takes water and a place', () => {
  for (const step of STEPS.filter((s) => s.on_coffee))
    assert.ok(takes(step.code, 'water') && takes(step.code, 'where'), step.code);
  assert.ok(!takes('wait', 'water') && takes('transfer', 'reading'));
});

test('a pour dragged changes the number it was written with', () => {
  assert.equal(stepsOf(moved(doc, timed(1, 40, 60), { g: 5, start_s: 0, end_s: 0 }))[1]!.to_g, 175);
  const per = { ...doc, steps: [{ kind: 'pour' as const, add_g: 10 }] };
  assert.equal(stepsOf(moved(per, timed(0, 0, 10), { g: -25, start_s: 0, end_s: 0 }))[0]!.add_g, 0); // never below nothing
  const bypass = { steps: [{ kind: 'bypass' as const, rest: true }] };
  assert.deepEqual(stepsOf(moved(bypass, timed(0, 100, 110), { g: 20, start_s: 0, end_s: 0 }))[0], {
    kind: 'bypass',
    add_g: 20,
  });
});

test('a pour moved in time says its start and how long; the first one only how long, since it begins at nought', () => {
  assert.deepEqual(stepsOf(moved(doc, timed(1, 40, 60), { g: 0, start_s: 5, end_s: 5 }))[1], {
    kind: 'pour',
    to_g: 170,
    start_s: 45,
    duration_s: 20,
    cue: 'bed shows',
  });
  const first = stepsOf(moved(doc, timed(0, 0, 40), { g: 0, start_s: 0, end_s: 5 }))[0]!;
  assert.deepEqual([first.start_s, first.duration_s, first.end_s], [undefined, 45, undefined]);
  const squeezed = stepsOf(moved(doc, timed(1, 40, 60), { g: 0, start_s: 30, end_s: -30 }))[1]!;
  assert.ok(squeezed.duration_s! >= 1, 'a pour lasts a second at least');
});

test('a linked setting keeps the words it came with; taking one out leaves the others', () => {
  const with2 = {
    ...doc,
    grinds: [
      { on: 'ridged plates', setting: '3' },
      { on: 'flat', setting: '5', dial_id: 'f' },
    ],
  };
  assert.deepEqual(linkGrind(with2, 0, 'r').grinds![0], { on: 'ridged plates', setting: '3', dial_id: 'r' });
  assert.equal(withGrind(with2, 1, { setting: '6' }).grinds![1]!.setting, '6');
  assert.deepEqual(withoutGrind(with2, 0).grinds, [{ on: 'flat', setting: '5', dial_id: 'f' }]);
});

test('once begins, until ends, and a note stays a note', () => {
  assert.deepEqual(seenOf('once the level has dropped; until the bed is dry; slowly'), {
    start_cue: 'the level has dropped',
    cue: 'the bed is dry',
    note: 'slowly',
  });
  assert.deepEqual(seenOf('when the bed is dry'), { start_cue: '', cue: '', note: 'when the bed is dry' });
  assert.deepEqual(seenOf(''), { start_cue: '', cue: '', note: '' });
  for (const text of ['', 'slowly', 'until the bed is dry', 'once the crust sinks; slowly; and wide'])
    assert.equal(seenText({ kind: 'wait', ...seenOf(text) } as never), text);
});
