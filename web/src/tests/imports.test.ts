// What the page of a brought-in table works out for itself: one meaning a column, and what its button will do.
import assert from 'node:assert/strict';
import { test } from 'vitest';
import { base64Of, bringsIn, scoresIn, withMeaning, withUnit } from '../rooms/imports/meanings';

const column = (header: string, target: string, units: string[] = []) => ({
  header,
  target,
  unit: units[0] ?? '',
  units,
  samples: [],
});
const read = (over: object = {}) =>
  ({
    columns: [column('a', 'dose_g', ['g', 'oz']), column('b', 'tds_pct', ['tds_pct', 'brix']), column('c', '')],
    targets: [
      { code: 'dose_g', label: 'Dose', kind: 'mass', many: false },
      { code: 'tds_pct', label: 'TDS', kind: 'strength', many: true },
    ],
    rows: 3,
    ready: 3,
    here: 0,
    fault_rows: 0,
    fault_count: 0,
    faults: [],
    becomes: [],
    new_kit: [],
    day_first: true,
    days_unclear: false,
    known: false,
    missing: [],
    ...over,
  }) as never;

test('what can stand once leaves the column it had before; readings may stand in several', () => {
  assert.deepEqual(
    withMeaning(read(), 2, 'dose_g').map((m) => m.target),
    ['', 'tds_pct', 'dose_g'],
  );
  assert.deepEqual(
    withMeaning(read(), 2, 'tds_pct').map((m) => m.target),
    ['dose_g', 'tds_pct', 'tds_pct'],
  );
  assert.deepEqual(
    withMeaning(read(), 0, '').map((m) => m.target),
    ['', 'tds_pct', ''],
  );
});

test('another meaning starts in its usual unit, the others keep theirs', () => {
  assert.deepEqual(
    withMeaning(read(), 2, 'tds_pct').map((m) => m.unit),
    ['g', 'tds_pct', ''],
  );
  assert.deepEqual(
    withUnit(read(), 0, 'oz').map((m) => m.unit),
    ['oz', 'tds_pct', ''],
  );
});

test('the button says what it will do, or what is in its way', () => {
  assert.deepEqual(bringsIn(read(), false), { text: 'Import 3 brews', can: true });
  assert.deepEqual(bringsIn(read({ ready: 1 }), false), { text: 'Import 1 brew', can: true });
  assert.deepEqual(bringsIn(read({ missing: ['dose'] }), true), { text: 'Choose the column for dose', can: false });
  assert.equal(bringsIn(read({ fault_count: 2 }), false).can, false);
  assert.equal(bringsIn(read({ fault_count: 2 }), true).can, true);
  assert.deepEqual(bringsIn(read({ ready: 0, here: 3 }), false), {
    text: 'All of it is already on this bench',
    can: false,
  });
  assert.equal(bringsIn(read({ ready: 0 }), false).can, false);
});

test('scores ask for what their table does not say, one thing after the other', () => {
  const scores = (over: object = {}) =>
    read({ ready: 33, flights: [], setups: [], new_people: [], amounts_needed: [], adds_to: null, ...over });
  const said = { question: 'Which filter?', tasted: 'blind' };
  assert.deepEqual(scoresIn(scores(), false, said), { text: 'Import 33 scores', can: true });
  assert.deepEqual(scoresIn(scores({ ready: 1 }), false, said), { text: 'Import 1 score', can: true });
  assert.deepEqual(scoresIn(scores(), false, { ...said, question: '  ' }), { text: 'Say what was asked', can: false });
  assert.deepEqual(scoresIn(scores(), false, { ...said, tasted: null }), {
    text: 'Say whether labels were hidden',
    can: false,
  });
  assert.deepEqual(scoresIn(scores({ amounts_needed: ['Dose', 'Brew water'] }), false, said), {
    text: 'Give the dose and the brew water',
    can: false,
  });
  assert.deepEqual(scoresIn(scores({ missing: ['taster'] }), true, said), {
    text: 'Choose the column for taster',
    can: false,
  });
  assert.equal(scoresIn(scores({ fault_count: 1 }), false, said).can, false);
  assert.equal(scoresIn(scores({ ready: 0, here: 2 }), false, said).text, 'All of it is already on this bench');
});

test('a large file is turned into base64 whole', () => {
  const bytes = new Uint8Array(100_000).map((_, i) => i % 251);
  assert.deepEqual(new Uint8Array(Buffer.from(base64Of(bytes), 'base64')), bytes);
});
