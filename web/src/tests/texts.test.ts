// What is typed of a setup and of a piece of kit: sent as the bench takes it, shown back as it was, and a slip of the pen is no second grinder.
import assert from 'node:assert/strict';
import { test } from 'vitest';
import { Refused } from '../api/refused';
import { deletedName, entityWord } from '../rooms/history/words';
import { FACT_FIELDS, factTexts, KINDS, usualTexts } from '../rooms/kit/facts';
import { ALL_FIELDS, EMPTY, patchOf, textsOf } from '../rooms/trials/texts';
import { firstToChange, isKnown, nearTo, newKitOf, tickedWith, VARIABLES } from '../rooms/trials/variables';
import { numberOf } from '../ui/typed';

const setup = {
  coffee: 'Peru',
  grinder: 'Windlass',
  grind_setting: '5.8',
  filter: 'White weave',
  brewer: 'Binnacle',
  brewer_type: 'flat_bed',
  water: '',
  temperature_c: 93,
  dose_g: 18.2,
  brew_water_g: 290,
  bypass_g: 0,
  pours: '',
  other: '',
} as const;

test('a setup shown in its fields and sent back unchanged is the same setup', () => {
  assert.deepEqual(patchOf(textsOf(setup), ALL_FIELDS), setup);
  const bare = { ...setup, brewer_type: null, temperature_c: null };
  assert.deepEqual(patchOf(textsOf(bare), ALL_FIELDS), bare);
});

test('only the named fields are sent; a comma is a decimal comma; an emptied bypass is none, an emptied heat is unknown', () => {
  assert.deepEqual(patchOf({ ...EMPTY, dose_g: '18,5', coffee: 'Peru' }, ['dose_g']), { dose_g: 18.5 });
  assert.deepEqual(patchOf(EMPTY, ['bypass_g', 'temperature_c', 'brewer_type', 'coffee']), {
    bypass_g: 0,
    temperature_c: null,
    brewer_type: null,
    coffee: '',
  });
});

test('what is no number is refused at its own field, wherever that stands in what is sent', () => {
  assert.throws(
    () => patchOf({ ...EMPTY, dose_g: 'a lot' }, ['dose_g'], 'setups.1.variables'),
    (error: unknown) =>
      error instanceof Refused &&
      error.status === 422 &&
      /not a number/.test(error.at('setups.1.variables.dose_g') ?? ''),
  );
  assert.equal(numberOf('x', '  '), null);
  assert.equal(numberOf('x', '−1.5'), -1.5);
});

test('a name that is not in the kit finds those it may have meant', () => {
  const known = ['Windlass mill · ridged plates', 'Capstan mill', 'Hand mill', 'White weave'];
  assert.deepEqual(nearTo('windlas', known), ['Windlass mill · ridged plates']);
  assert.deepEqual(nearTo('a mill', known), ['Windlass mill · ridged plates', 'Capstan mill', 'Hand mill']);
  assert.deepEqual(nearTo('Grey felt', known), []);
  assert.ok(isKnown(' Capstan mill ', known) && isKnown('', known) && !isKnown('Capstan', known));
});

test('kinds to add are ticked once each and unticked again', () => {
  const two = tickedWith(tickedWith(tickedWith('', 'coffee', true), 'filter', true), 'coffee', true);
  assert.deepEqual(newKitOf(two), ['filter', 'coffee']);
  assert.deepEqual(newKitOf(tickedWith(two, 'filter', false)), ['coffee']);
  assert.deepEqual(newKitOf(''), []);
});

test('a question about a ratio begins with the water, one about nothing that is listed with something else', () => {
  assert.equal(firstToChange('brew_ratio'), 'brew_water_g');
  assert.equal(firstToChange('filter'), 'filter');
  assert.equal(firstToChange('moon'), 'other');
  assert.equal(new Set(VARIABLES.map((v) => v.field)).size, VARIABLES.length);
});

test('facts of a piece of kit are shown as typed, whatever they are', () => {
  const sieves = { sieve_stack: { apertures_um: [300, 500, 800], certified: true, note: null, loan: false } } as never;
  const shown = factTexts(sieves, 'sieve_stack' as never);
  assert.deepEqual([shown.apertures_um, shown.certified, shown.note, shown.loan], ['300, 500, 800', 'yes', '', '']);
  for (const { kind } of KINDS) {
    const empty = factTexts(null, kind);
    assert.deepEqual(Object.keys(empty).sort(), FACT_FIELDS[kind].map((f) => f.name).sort());
    assert.ok(
      Object.keys(usualTexts(kind)).every((name) => name in empty),
      kind,
    );
  }
});

test('what was deleted goes by its question or its name, else by what people call its kind', () => {
  assert.equal(deletedName({ entity: 'trial', before: { question: 'Which filter?' } }), 'Which filter?');
  assert.equal(deletedName({ entity: 'kit_item', before: { name: 'Windlass' } }), 'Windlass');
  assert.equal(deletedName({ entity: 'run', before: { number: 3 } }), 'A brew');
  assert.equal(entityWord('reading'), 'reading');
});
