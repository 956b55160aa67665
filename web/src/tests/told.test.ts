// Units a bench chooses, and days and times as people write them: what is typed comes back as it was typed, and is kept in °C, g and YYYY-MM-DD.
import assert from 'node:assert/strict';
import { beforeEach, test } from 'vitest';
import { dayInWords, readDay, readTimeOfDay } from '../ui/day';

const kept = new Map<string, string>();
Object.assign(globalThis, {
  localStorage: { getItem: (k: string) => kept.get(k) ?? null, setItem: (k: string, v: string) => kept.set(k, v) },
});
const units = await import('../ui/units.ts');
const USUAL = { heat: 'C', ratio: 'to_one', bags: 'g', currency: '' } as const;
const OTHER = { heat: 'F', ratio: 'per_100', bags: 'oz', currency: '€' } as const;
beforeEach(() => units.tellIn(USUAL));

test('the usual units change nothing of what is shown or typed', () => {
  assert.deepEqual(
    [units.heat(93.3), units.heat(93.26, 0), units.heatApart(2), units.ratio(16), units.price(0.416), units.bag(250)],
    ['93.3 °C', '93 °C', '2 °C', '1:16.0', '0.42', '250 g'],
  );
  assert.deepEqual(
    [units.celsiusTyped('93'), units.celsiusTyped('93,5'), units.celsiusShown('93.5')],
    ['93', '93,5', '93.5'],
  );
});

test('in other units the same are told, a difference without the 32', () => {
  assert.equal(units.tellIn(OTHER), true);
  assert.equal(units.tellIn(OTHER), false, 'the same again asks for no new drawing');
  assert.deepEqual(
    [units.heat(93.3), units.heat(100, 0), units.heatApart(2), units.heatUnit()],
    ['199.9 °F', '212 °F', '3.6 °F', '°F'],
  );
  assert.deepEqual(
    [units.ratio(16), units.price(0.416), units.price(null), units.bag(250)],
    ['6.25 g/100 g', '€0.42', '–', '250 g (8.8 oz)'],
  );
  assert.deepEqual(
    [
      units.withUnit('93', '°C'),
      units.withUnit(18, 'g'),
      units.withUnit('fine', undefined),
      units.withUnit('hot', '°C'),
    ],
    ['199.4 °F', '18 g', 'fine', 'hot °C'],
  );
  assert.deepEqual(JSON.parse(kept.get('penny.units')!), OTHER, 'the device knows them at its next start');
});

test('every whole degree Fahrenheit is kept so that it is shown again as it was typed', () => {
  units.tellIn(OTHER);
  for (let f = 32; f <= 230; f++) assert.equal(units.celsiusShown(units.celsiusTyped(String(f))), String(f));
  for (let d = 0; d <= 40; d++) assert.equal(units.celsiusShown(units.celsiusTyped(String(d), true), true), String(d));
});

const RATIO = { measure: 'ratio', label: 'Brew ratio', unit: '' };
const HEAT = { measure: 'temperature_c', label: 'Temperature', unit: '°C' };
const YIELD = { measure: 'ey_pct', label: 'Yield', unit: '% EY' };

test('the axes and marks of charts are told in the units, too', () => {
  assert.deepEqual(
    [units.ratioTick(16), units.ratioAxis(), units.measured('ratio', 15.42, 1)],
    ['1:16', 'brew ratio, water in', '15.4'],
  );
  assert.deepEqual([units.measured('temperature_c', 93, 0), units.measured('ey_pct', 19.84, 1)], ['93', '19.8']);
  assert.deepEqual([RATIO, HEAT, YIELD].map(units.axisOf), ['Brew ratio', 'Temperature, °C', 'Yield, % EY']);
  units.tellIn(OTHER);
  assert.deepEqual(
    [units.ratioTick(16), units.ratioAxis(), units.measured('ratio', 16, 1)],
    ['6.25', 'g of coffee per 100 g of water', '6.25'],
  );
  assert.deepEqual([units.measured('temperature_c', 93, 0), units.measured('ey_pct', 19.84, 1)], ['199', '19.8']);
  assert.deepEqual([RATIO, HEAT, YIELD].map(units.axisOf), [
    'g of coffee per 100 g of water',
    'Temperature, °F',
    'Yield, % EY',
  ]);
});

test('what scalds is one temperature, told in the unit and asked of the drink itself', () => {
  assert.deepEqual([units.scaldsAbove(), units.scalds(65), units.scalds(65.1)], ['65 °C', false, true]);
  units.tellIn(OTHER);
  assert.deepEqual([units.scaldsAbove(), units.scalds(65), units.scalds(66)], ['149 °F', false, true]);
});

test('what was lost from a bag keeps its true minus in both units', () => {
  assert.equal(units.bag(-18), '−18 g');
  units.tellIn(OTHER);
  assert.equal(units.bag(-18), '−18 g (−0.6 oz)');
});

test('a number may say its own unit, whatever the bench tells in', () => {
  assert.deepEqual(
    [units.celsiusTyped('200 F'), units.celsiusTyped('200°f'), units.gramsTyped('12 oz'), units.gramsTyped('340')],
    ['93.33', '93.33', '340.2', '340'],
  );
  units.tellIn(OTHER);
  assert.deepEqual([units.celsiusTyped('93 C'), units.celsiusTyped('93 °C')], ['93', '93']);
});

test('what is no number stays as it was typed, for the bench to refuse at its field', () => {
  units.tellIn(OTHER);
  for (const text of ['', 'hot', '93 K', '1.2.3', '--5']) assert.equal(units.celsiusTyped(text), text);
  assert.equal(units.gramsTyped('a dozen oz'), 'a dozen oz');
});

const TODAY = new Date(2026, 10, 28);

test('a day is read as people write it, day before month', () => {
  for (const text of [
    '28 Nov',
    '28 november',
    '28. nov.',
    '28.11.',
    '28/11/26',
    '28.11.2026',
    '2026-11-28',
    'today',
    ' Today ',
  ])
    assert.equal(readDay(text, TODAY), '2026-11-28', text);
  assert.deepEqual(
    [readDay('yesterday', TODAY), readDay('tomorrow', TODAY), readDay('1 Mar 2025', TODAY)],
    ['2026-11-27', '2026-11-29', '2025-03-01'],
  );
});

test('what is no day is none: no 31st of June slides into July', () => {
  for (const text of ['31.6.', '29.2.2025', '0 Jan', '13/13', 'soon', '28 Foo', '', '2026-13-01'])
    assert.equal(readDay(text, TODAY), null, text);
  assert.equal(readDay('29.2.2028', TODAY), '2028-02-29');
});

test('days are shown in words, and what was typed and is none as it is', () => {
  assert.deepEqual([dayInWords('2026-11-08'), dayInWords('soon'), dayInWords('')], ['8 Nov 2026', 'soon', '']);
});

test('a time of day is read with or without its colon', () => {
  assert.deepEqual(['9', '9:30', '0930', '9.30', '23:59', '24', '9:60', 'noon', ''].map(readTimeOfDay), [
    '09:00',
    '09:30',
    '09:30',
    '09:30',
    '23:59',
    null,
    null,
    null,
    null,
  ]);
});
