// What the guide draws and says, what the form hands on, and how a scale's lines wait.
import assert from 'node:assert/strict';
import { test } from 'vitest';
import { isPressed, yieldBasisOf } from '../rooms/brewing/brewers';
import { bySaid, pourBodies, pourKey, poursChanged, pourTexts } from '../rooms/brewing/pourTexts';
import { likedSaid, withLiking, withWord } from '../rooms/liking/liking';
import { keyOf, nextSaid, secondsSaid, stageOf } from '../rooms/live_brews/stage';
import { Waiting } from '../rooms/live_brews/wireLines';
import { clock } from '../ui/numbers';
import { pitchOf } from '../ui/sound';

const step = (index: number, more: object = {}) => ({
  index,
  kind: 'pour',
  text: `Pour ${index}`,
  start_s: 0,
  end_s: 10,
  from_g: 0,
  to_g: null,
  seen: false,
  after: false,
  cue: '',
  reads_g: null,
  slurry_g: null,
  ...more,
});
const BREW = {
  steps: [
    step(0, { text: 'Bloom: pour to 45 g', to_g: 45, end_s: 9 }),
    step(1, { text: 'Pour to 170 g', start_s: 40, end_s: 60, from_g: 45, to_g: 170, reads_g: 170 }),
    step(2, { text: 'Swirl once', kind: 'swirl', start_s: 60, end_s: 65, from_g: 170 }),
    step(3, { text: 'Serve', kind: 'serve', start_s: 165, end_s: 175, after: true }),
  ],
  before: ['Rinse the filter', 'Put in the coffee'],
  end: {
    kind: 'drips_stop',
    by: null,
    at_s: 165,
    ask: 'Watch for the last drip',
    done: 'Drips stopped',
    text: 'It is over when the drips stop',
  },
} as never;
const now = (more: object) =>
  ({
    phase: 'brew',
    current: 1,
    next: 2,
    begins_in_s: -8,
    left_s: 12,
    rest_g: 76,
    target_g: 170,
    reads_g: 170,
    poured_g: 94,
    pouring: true,
    plan_g: 95,
    made: [{ index: 0, began_s: 0, ended_s: 9, to_g: 45.3, by: 'scale' }],
    ended_s: null,
    ended_by: null,
    forgotten: [],
    notes: [],
    ...more,
  }) as never;

test('the stair at hand is filled by what was poured, and its foot by the time', () => {
  const stage = stageOf(BREW, { now: now({}), at_s: 48 }, 48);
  assert.equal(stage.kind, 'pour');
  assert.ok(Math.abs(stage.filled - (94 - 45) / 125) < 0.01 && Math.abs(stage.time - 0.4) < 0.001);
  assert.deepEqual(stage.past, [{ index: 0, to_g: 45.3 }]);
  const later = stageOf(BREW, { now: now({}), at_s: 48 }, 63); // the stream is late: the clock goes on by itself
  assert.ok(later.left_s === -3 && later.time > 1);
  assert.ok(stageOf(BREW, { now: now({ rest_g: -12, poured_g: 182 }), at_s: 62 }, 62).filled > 1.05);
});

test('without a scale nothing is filled, and what is to pour is said', () => {
  const stage = stageOf(BREW, { now: now({ poured_g: null, rest_g: 125 }), at_s: 48 }, 48);
  assert.equal(stage.filled, 0);
  assert.deepEqual([stage.rest_g, stage.reach_g], [125, 170]);
  assert.equal(stageOf(BREW, { now: now({}), at_s: 48 }, 48).reach_g, null); // a scale speaks: what is left leads
  const zeroed = { poured_g: null, rest_g: 125, reads_g: 125 };
  assert.equal(stageOf(BREW, { now: now(zeroed), at_s: 48 }, 48).reach_g, 125); // what this scale will read, not the recipe's
});

test('before its time a pour waits, and then no more', () => {
  const early = { now: now({ poured_g: null, rest_g: 125, begins_in_s: 12, left_s: 32 }), at_s: 28 };
  assert.equal(stageOf(BREW, early, 28).waits, true);
  assert.equal(stageOf(BREW, early, 40).waits, false);
  assert.equal(stageOf(BREW, { ...early, now: now({ phase: 'before', begins_in_s: 12 }) }, 28).waits, false);
});

test('what is no pour is a landing, and the end is awaited', () => {
  const swirl = stageOf(
    BREW,
    { now: now({ current: 2, next: null, rest_g: null, target_g: null, reads_g: null }), at_s: 62 },
    62,
  );
  assert.deepEqual([swirl.kind, swirl.rest_g, swirl.says], ['landing', null, 'Swirl once']);
  const end = stageOf(BREW, { now: now({ phase: 'ending', current: null, next: null }), at_s: 120 }, 120);
  assert.deepEqual([end.kind, end.says], ['end', 'Watch for the last drip']);
});

test('a setup of amounts alone has no times: nothing of it is late, and no end is near', () => {
  const plain = { ...(BREW as object), no_steps: 'This setup has no pours to follow.' } as never;
  assert.deepEqual(
    [stageOf(plain, { now: now({}), at_s: 48 }, 90).timed, stageOf(BREW, { now: now({}), at_s: 48 }, 90).timed],
    [false, true],
  );
  assert.equal(nextSaid(plain, now({ next: null }), clock), 'Watch for the last drip');
  assert.equal(nextSaid(BREW, now({ next: null }), clock), 'Watch for the last drip, near 2:45');
});

test('a scale that was zeroed is told what it will read', () => {
  assert.match(stageOf(BREW, { now: now({ reads_g: 125 }), at_s: 48 }, 48).says, /this scale will then read 125\.0 g/);
});

test('a reading that is not the water is the recipe’s own, and is not said twice', () => {
  const decanted = {
    ...(BREW as object),
    steps: [step(1, { text: 'Pour to 245 g on the scale (229.5 g of water)', to_g: 229.5, from_g: 105, reads_g: 245 })],
  } as never;
  assert.equal(
    stageOf(decanted, { now: now({ target_g: 229.5, reads_g: 245.4 }), at_s: 48 }, 48).says,
    'Pour to 245 g on the scale (229.5 g of water)',
  );
});

test('the key says what it does: a press never watches for a drip', () => {
  assert.deepEqual(keyOf(BREW, now({ phase: 'before' })), { does: 'start', says: 'Start pour' });
  assert.deepEqual(keyOf(BREW, now({})), { does: 'step', says: 'Poured' });
  assert.deepEqual(keyOf(BREW, now({ current: 2 })), { does: 'step', says: 'Done' });
  assert.deepEqual(keyOf(BREW, now({ phase: 'ending', current: null })), { does: 'end', says: 'Drips stopped' });
  const pressed = {
    ...(BREW as object),
    end: { kind: 'pressed', by: 2, at_s: 130, ask: 'Press until it hisses', done: 'Pressed', text: '' },
  } as never;
  assert.deepEqual(keyOf(pressed, now({ current: 2 })), { does: 'step', says: 'Pressed' });
  assert.equal(nextSaid(pressed, now({ current: 2, next: null }), clock), 'Serve');
});

test('what comes then is said with its time, the end with its own words', () => {
  assert.equal(nextSaid(BREW, now({}), clock), 'Swirl once at 1:00');
  assert.equal(nextSaid(BREW, now({ current: 2, next: null }), clock), 'Watch for the last drip, near 2:45');
  assert.equal(nextSaid(BREW, now({ phase: 'ending', current: null, next: null }), clock), 'Serve');
  assert.equal(nextSaid(BREW, now({ phase: 'before' }), clock), 'Rinse the filter · Put in the coffee');
});

test('seconds are whole, and overdue ones say so', () => {
  assert.deepEqual([secondsSaid(13.2), secondsSaid(0), secondsSaid(-4.6)], ['14', '0', '+5']);
});

const POURS = [
  {
    index: 0,
    text: 'Bloom',
    plan_start_s: 0,
    plan_end_s: 9,
    plan_to_g: 45,
    began_s: 0.4,
    ended_s: 9.6,
    reading_g: 45.2,
    by: 'scale',
  },
  {
    index: 2,
    text: 'Pour',
    plan_start_s: 40,
    plan_end_s: 60,
    plan_to_g: 170,
    began_s: null,
    ended_s: 60,
    reading_g: 170,
    by: 'plan',
  },
] as never;
const read = {
  seconds: async (_: string, text: string) =>
    text ? (text.includes(':') ? 60 * Number(text.split(':')[0]) + Number(text.split(':')[1]) : Number(text)) : null,
  number: (_: string, text: string) => (text ? Number(text) : null),
};

test('pours that stand as they were are not said again; one that is mended says them all', async () => {
  const texts = pourTexts(POURS);
  assert.equal(texts[pourKey(0, 'ended_s')], '0:09.6');
  assert.equal(poursChanged(POURS, texts), false);
  assert.deepEqual(await pourBodies(POURS, texts, read), []);
  const mended = { ...texts, [pourKey(2, 'ended_s')]: '1:04' };
  assert.deepEqual(await pourBodies(POURS, mended, read), [
    { index: 0, began_s: 0.4, ended_s: 9.6, reading_g: 45.2 },
    { index: 2, began_s: null, ended_s: 64, reading_g: 170 },
  ]);
});

test('a refusal of a pour names its own field', async () => {
  const named: string[] = [];
  const watch = {
    seconds: async (field: string) => (named.push(field), null),
    number: (field: string) => (named.push(field), null),
  };
  await pourBodies(POURS, { ...pourTexts(POURS), [pourKey(0, 'reading_g')]: 'x' }, watch);
  assert.ok(named.includes('pours.1.ended_s') && named.includes('pours.0.reading_g'));
  assert.equal(bySaid('plan'), 'not pressed: the recipe’s time');
});

test('lines come in pieces, keep their moment, and wait until the bench has them', () => {
  const waiting = new Waiting();
  waiting.hear('12.', 1000);
  waiting.hear('5 g\r\n13.1 g\n14', 2000);
  assert.deepEqual(waiting.take(3000), [
    { ago_s: 1, text: '12.5 g' },
    { ago_s: 1, text: '13.1 g' },
  ]);
  assert.deepEqual(waiting.take(3000), []);
  waiting.hear('.0 g\n', 3000);
  const sent = waiting.take(3500);
  waiting.putBack(sent, 4000);
  assert.deepEqual(waiting.take(5000), [{ ago_s: 1.5, text: '14.0 g' }]);
  waiting.hear('old\n', 0);
  assert.deepEqual(waiting.take(200_000), []); // minutes old: it says nothing of this brew any more
});

test('liking is touched on and off, by pass, and said in a few words', () => {
  const none = { by_pass: {}, words: [] };
  assert.deepEqual(withLiking(none, 'hot', 7), { by_pass: { hot: 7 }, words: [] });
  assert.deepEqual(withLiking({ by_pass: { hot: 7 }, words: ['sour'] }, 'hot', 7), { by_pass: {}, words: ['sour'] });
  assert.deepEqual(withWord({ by_pass: {}, words: ['sour'] }, 'thin').words, ['sour', 'thin']);
  assert.deepEqual(withWord({ by_pass: {}, words: ['sour'] }, 'sour').words, []);
  assert.equal(likedSaid({ by_pass: { '': 6, cool: 4.5 }, words: ['thin'] }), 'liked 6, cool 4.5 of 9 · thin');
  assert.equal(likedSaid(none), '');
});

test('every brew on the bench has a pitch of its own', () => {
  const pitches = [0, 1, 2, 3, 4, 5].map(pitchOf);
  assert.equal(new Set(pitches).size, 6);
  assert.equal(pitchOf(6), pitchOf(0));
  assert.equal(pitchOf(-1), pitchOf(5));
});

test('a kind of brewer knows its yield and whether it is pressed', () => {
  assert.deepEqual(
    [yieldBasisOf('press_pot'), yieldBasisOf('cone'), yieldBasisOf(null)],
    ['full_liquor', 'in_cup', 'in_cup'],
  );
  assert.deepEqual([isPressed('piston_press'), isPressed('cone'), isPressed(null)], [true, false, false]);
});
