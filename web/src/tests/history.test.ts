// History in sentences: who did what, and what is different, with units and without the bench's own codes.
import { expect, test } from 'vitest';
import { deedOf, differencesOf } from '../rooms/history/sentences';

test('a deed is a sentence that begins with who did it', () => {
  expect(deedOf({ who: 'Odile', action: 'update', entity: 'run' })).toBe('Odile changed the brew');
  expect(deedOf({ who: null, action: 'correct_marks', entity: 'flight' })).toBe(
    'Somebody without a name entered the marks again in the flight',
  );
});

const lines = (before: object, after: object) =>
  differencesOf({ action: 'update', before: before as never, after: after as never });

test('values carry the unit at the end of their column', () => {
  expect(
    lines(
      { dose_g: 18, total_time_s: 160, temperature_c: null, moisture_pct: 0, concentrate: false },
      { dose_g: 18.4, total_time_s: 165, temperature_c: 93, moisture_pct: 1.5, concentrate: true },
    ),
  ).toEqual([
    'dose: 18 g → 18.4 g',
    'total time: 2:40 → 2:45',
    'temperature: nothing → 93 °C',
    'moisture: 0 % → 1.5 %',
    'concentrate: no → yes',
  ]);
});

test('of a list of marks what came is said, by its kind and time', () => {
  const first = { kind: 'step_done', index: 0, at_s: 40, reading_g: 45, text: '' };
  const second = { kind: 'spill', index: null, at_s: 80, reading_g: null, text: '' };
  expect(lines({ marks: [first] }, { marks: [first, second] })).toEqual(['marks, new: spill at 1:20']);
  expect(lines({ marks: [first, second] }, { marks: [first] })).toEqual(['marks, no more: spill at 1:20']);
});

test('a record is said by what differs in it, and codes of rows are not said', () => {
  expect(
    lines(
      { observed: { first_drip_s: 20, stuck: false }, revision_id: 'aaa' },
      { observed: { first_drip_s: 24, stuck: false }, revision_id: 'bbb' },
    ),
  ).toEqual(['observed, first drip: 0:20 → 0:24']);
  expect(lines({ judged_pass: 'hot' }, { judged_pass: 'cool' })).toEqual(['pass judged: hot → cool']);
});

test('what was added or deleted has no differences', () => {
  expect(differencesOf({ action: 'create', before: null, after: { dose_g: 18 } as never })).toEqual([]);
});
