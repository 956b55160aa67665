// What the interface works out for the first hour and the table: first setups, marks, drafts, the palette, the tray, who needs you.
import assert from 'node:assert/strict';
import { test } from 'vitest';
import { corners } from '../charts/staircase/spark';
import { endsAround } from '../charts/strengthExtraction/geometry';
import { inOrderOfNeed } from '../rooms/bench/need';
import { fitted } from '../rooms/photos/shrink';
import { FAN, wedges } from '../rooms/tasting/fan';
import { freeFor, withMark } from '../rooms/tasting/marks';
import { steamOf, whereTastersAre } from '../rooms/tasting/tray';
import { bodyOfFirst, combinations, EMPTY_FIRST, heldTexts, ownField, setupsWith } from '../rooms/trials/firstTexts';
import { found } from '../rooms/words/found';
import { isAway, untilBack } from '../ui/away';
import { draftOf, dropOldDrafts, mergedDraft } from '../ui/draft';
import { addressOf, listingOf } from '../ui/listing';
import { matching, stepped } from '../ui/palette/matching';

test('the first setups send what differs for each, what is shared once, and nothing that was left blank', () => {
  const texts = {
    ...EMPTY_FIRST,
    own_0_0: 'weave',
    own_0_1: ' felt ',
    own_0_2: '',
    dose_g: '18',
    brew_water_g: '290',
    temperature_c: '',
  };
  assert.deepEqual(bodyOfFirst(texts, ['filter']), {
    recipe_version_id: null,
    variables: { dose_g: 18, brew_water_g: 290 },
    setups: [
      { brew_ratio: '', variables: { filter: 'weave' } },
      { brew_ratio: '', variables: { filter: 'felt' } },
    ],
    new_kit: [],
  });
  assert.deepEqual(
    bodyOfFirst({ ...EMPTY_FIRST, own_0_0: '1:15', own_0_1: '1:17', dose_g: '18' }, ['brew_ratio']).setups,
    [
      { brew_ratio: '1:15', variables: {} },
      { brew_ratio: '1:17', variables: {} },
    ],
  );
  const brewers = { ...EMPTY_FIRST, own_0_0: 'Binnacle', kind_0_0: 'flat_bed', own_0_1: 'Galley', brewer_type: 'cone' };
  assert.deepEqual(
    bodyOfFirst(brewers, ['brewer']).setups.map((s) => s.variables),
    [{ brewer: 'Binnacle', brewer_type: 'flat_bed' }, { brewer: 'Galley' }],
  );
  assert.deepEqual(bodyOfFirst(brewers, ['brewer']).variables, {}, 'where brewers differ no kind is shared');
  assert.equal(bodyOfFirst(EMPTY_FIRST, ['filter']).setups.length, 1, 'nothing named is one setup');
  assert.throws(
    () => bodyOfFirst({ ...EMPTY_FIRST, own_0_0: 'hot', own_0_1: '93' }, ['temperature_c']),
    (e: { at: (f: string) => string }) => !!e.at('setups.0.variables.temperature_c'),
  );
  assert.deepEqual(
    [ownField('brew_ratio'), ownField('grind_setting'), ownField('nothing')],
    ['brew_ratio', 'grind_setting', 'other'],
  );
  assert.deepEqual(heldTexts({ dose_g: 18, coffee: 'Peru', secret: 'x' }), { dose_g: '18', coffee: 'Peru' });
});

test('of several factors every combination is a setup, and a refusal of one stands at each level it has', () => {
  const texts = {
    ...EMPTY_FIRST,
    own_0_0: 'Lot 1',
    own_0_1: 'Lot 2',
    own_1_0: '1:15',
    own_1_2: '1:17',
    dose_g: '18',
    coffee: 'left from before',
  };
  assert.deepEqual(bodyOfFirst(texts, ['coffee', 'brew_ratio']).setups, [
    { brew_ratio: '1:15', variables: { coffee: 'Lot 1' } },
    { brew_ratio: '1:17', variables: { coffee: 'Lot 1' } },
    { brew_ratio: '1:15', variables: { coffee: 'Lot 2' } },
    { brew_ratio: '1:17', variables: { coffee: 'Lot 2' } },
  ]);
  assert.deepEqual(
    bodyOfFirst(texts, ['coffee', 'brew_ratio']).variables,
    { dose_g: 18 },
    'what is tested is shared by none',
  );
  assert.deepEqual(
    combinations({ ...texts, own_0_0: '', own_0_1: '' }, 2),
    [
      [0, 0],
      [0, 2],
    ],
    'a factor without a level is the same in all',
  );
  assert.deepEqual(
    [setupsWith(texts, 2, 0, 1), setupsWith(texts, 2, 1, 0), setupsWith(texts, 2, 1, 1)],
    [[2, 3], [0, 2], []],
  );
});

test('marks: none twice, the last follows from the others, a second press takes one back, rounds by themselves', () => {
  const cups = [
    { code: '417', round: 1 },
    { code: '902', round: 1 },
    { code: '356', round: 1 },
    { code: '111', round: 2 },
    { code: '222', round: 2 },
  ];
  const marks = [1, 2, 3].map((mark) => ({ mark, round: 1 })).concat([4, 5].map((mark) => ({ mark, round: 2 })));
  let now = withMark({}, '417', 2, cups, marks);
  assert.deepEqual(now, { 417: 2 });
  assert.deepEqual(freeFor('902', cups, marks, now), [1, 3]);
  now = withMark(now, '902', 3, cups, marks);
  assert.deepEqual(now, { 417: 2, 902: 3, 356: 1 });
  assert.deepEqual(withMark(now, '417', 2, cups, marks), { 902: 3, 356: 1 });
  assert.deepEqual(withMark({}, '111', 5, cups, marks), { 111: 5, 222: 4 });
});

test('a draft keeps only what differs, comes back for two weeks, and is dropped after', () => {
  const begins = { a: '1', b: ['x'], c: '' };
  assert.equal(draftOf(begins, { a: '1', b: ['x'], c: '' }, 0), null);
  const kept = draftOf(begins, { a: '1', b: ['x', 'y'], c: 'typed' }, 1000)!;
  assert.deepEqual(
    mergedDraft({ a: '2', b: [], c: '' }, kept, 2000),
    { values: { a: '2', b: ['x', 'y'], c: 'typed' }, restored: true, contested: ['b'] },
    'what was not typed is as it is now, and what was typed over something else is asked about',
  );
  const later = 1000 + 15 * 86_400_000;
  assert.equal(mergedDraft(begins, kept, later).values, begins);
  const shelf = new Map([
    ['penny.draft.old', kept],
    ['penny.draft.new', draftOf(begins, { ...begins, c: 'z' }, later)!],
    ['other', 'stays'],
  ]);
  dropOldDrafts(
    {
      length: shelf.size,
      key: (i) => [...shelf.keys()][i]!,
      getItem: (k) => shelf.get(k) ?? null,
      setItem: () => {},
      removeItem: (k) => void shelf.delete(k),
    },
    later,
  );
  assert.deepEqual([...shelf.keys()], ['penny.draft.new', 'other']);
});

test('the palette finds by every word, first what begins with it, and steps round its ends', () => {
  const entry = (label: string, hint = '') => ({ key: label, label, hint, run: () => {} });
  const all = [entry('Compare recipes'), entry('Recipes', 'page'), entry('Kit', 'page'), entry('Write a recipe')];
  assert.deepEqual(
    matching(all, 'recip').map((e) => e.label),
    ['Recipes', 'Compare recipes', 'Write a recipe'],
  );
  assert.deepEqual(
    matching(all, 'page kit').map((e) => e.label),
    ['Kit'],
  );
  assert.deepEqual([stepped(0, -1, 3), stepped(2, 1, 3), stepped(0, 1, 0)], [2, 0, 0]);
});

test('words are found by their name before by what they mean', () => {
  const term = (label: string, meaning: string, also: string[] = []) => ({ label, meaning, also });
  const terms = [
    term('Yield', 'share of the dose'),
    term('Dose', 'ground coffee'),
    term('Ratio', 'water to dose', ['1:R']),
  ];
  assert.deepEqual(
    found(terms, 'dose').map((t) => t.label),
    ['Dose', 'Ratio', 'Yield'],
  );
  assert.deepEqual(
    found(terms, '1:r').map((t) => t.label),
    ['Ratio'],
  );
});

test('who is at which cup is the next they have not scored, by their own order and pass', () => {
  const seat = (name: string, scored: number, more = {}) => ({
    name,
    scored,
    of: 4,
    order: ['b', 'a'],
    left_at: null,
    ...more,
  });
  const cups = ['a', 'b'].map((code) => ({ code, round: 1 }));
  const flight = {
    status: 'open',
    method: 'scores',
    cups,
    sheets: [seat('Bo', 0), seat('Iwan', 3), seat('Odile', 4), seat('Marek', 0, { left_at: 'then' })],
  };
  assert.deepEqual(whereTastersAre(flight).byCup, { b: ['Bo'], a: ['Iwan'] });
  assert.deepEqual(whereTastersAre({ ...flight, status: 'closed' }).byCup, {});
  const rounds = [1, 1, 1, 2, 2, 2].map((round, i) => ({ code: String(i), round }));
  assert.deepEqual(
    whereTastersAre({ ...flight, method: 'triangle', cups: rounds, sheets: [seat('Bo', 1, { of: 2 })] }).byRound,
    { 2: ['Bo'] },
  );
  assert.deepEqual([steamOf(20), steamOf(54), steamOf(90)], [0, 0.5, 1]);
});

test('the edge of the coin is nine reeds from left to right, each wide enough for a thumb', () => {
  const reeds = wedges(9);
  assert.equal(reeds.length, 9);
  for (const [i, { x, y }] of reeds.entries()) {
    assert.ok(x > 25 && x < FAN.width - 25 && y > 25 && y < FAN.height, 'a thumb lands inside the drawing');
    if (i) assert.ok(Math.hypot(x - reeds[i - 1]!.x, y - reeds[i - 1]!.y) > 44 && x > reeds[i - 1]!.x);
  }
});

test('cups on the table need you before paper does', () => {
  const t = (number: number, next_station: 'taste' | 'brew' | 'set_up') => ({ number, next_station });
  assert.deepEqual(
    inOrderOfNeed([t(9, 'set_up'), t(7, 'taste'), t(8, 'brew'), t(5, 'taste')]).map((x) => x.number),
    [7, 5, 8, 9],
  );
});

test('a chart without a window ends just around its brews, and never closer than anybody could taste', () => {
  const at = (ey: number, tds: number) => ({
    ey: { low: ey - 0.2, high: ey + 0.2 },
    tds: { low: tds - 0.02, high: tds + 0.02 },
  });
  const whole = { ey: [14, 26] as [number, number], tds: [0.8, 1.8] as [number, number] };
  assert.deepEqual(endsAround([], whole), whole);
  const near = endsAround([at(20, 1.4)], whole);
  assert.ok(Math.abs(near.ey[1] - near.ey[0] - 3) < 1e-9 && Math.abs((near.ey[0] + near.ey[1]) / 2 - 20) < 1e-9);
  const far = endsAround([at(17, 1.1), at(23, 1.6)], whole);
  assert.ok(far.ey[0] < 16.8 && far.ey[1] > 23.2 && far.tds[0] < 1.08 && far.tds[1] > 1.62);
});

test('a brew’s stairs are as poured where that is known, else as planned, and level to the end', () => {
  const planned = { plan_start_s: 40, plan_end_s: 60, plan_to_g: 170, began_s: null, ended_s: null, reading_g: null };
  assert.deepEqual(corners([planned], 170, 150), [
    [0, 0],
    [40, 0],
    [60, 170],
    [150, 170],
  ]);
  assert.deepEqual(corners([{ ...planned, began_s: 45, ended_s: 70, reading_g: 176 }], 176, 150), [
    [0, 0],
    [45, 0],
    [70, 176],
    [150, 176],
  ]);
  assert.deepEqual(corners([], 290, 200), [
    [0, 0],
    [0, 290],
    [200, 290],
  ]);
});

const SHOWN = ['all', 'waiting', 'archived'] as const;

test('what is looked for among the trials is read from the address, and nonsense there means nothing', () => {
  assert.deepEqual(listingOf(new URLSearchParams('text=felt&shown=archived&order=sideways'), SHOWN), {
    text: 'felt',
    shown: 'archived',
    tag: '',
    order: 'newest',
  });
});

test('the address says only what differs from the usual, and reads back as it was', () => {
  const usual = listingOf(new URLSearchParams(), SHOWN);
  assert.deepEqual(addressOf(usual, SHOWN), {});
  const looked = { ...usual, text: 'felt & steel', shown: 'waiting' as const, tag: '=1', order: 'oldest' as const };
  assert.deepEqual(listingOf(new URLSearchParams(addressOf(looked, SHOWN)), SHOWN), looked);
});

test('a picture is brought down by its longer side and never up', () => {
  assert.deepEqual(
    [fitted(4000, 3000), fitted(300, 200), fitted(1, 9000)],
    [
      [1600, 1200],
      [300, 200],
      [1, 1600],
    ],
  );
});

test('a bench that was away is told from a page that broke, and asked for until it answers', async () => {
  assert.ok(isAway(new TypeError('Failed to fetch dynamically imported module: http://x/y.js')));
  assert.ok(!isAway(new TypeError('x is not a function')));
  assert.ok(!isAway('away'));
  let asked = 0;
  await new Promise<void>((back) => untilBack(back, async () => ++asked > 1));
  assert.equal(asked, 2);
});
