// The charts sends columns whose texts stand once; the page draws points.
import assert from 'node:assert/strict';
import { test } from 'vitest';
import { pointsOf } from '../rooms/charts/columns';

const columns = {
  texts: ['A1', 'A', 'evidence', 'Peru', 'Windlass', 'Which filter?', 'trial1'],
  run_id: ['r1', 'r2'],
  rev: [1, 2],
  label: [0, 0],
  letter: [1, 1],
  purpose: [2, 2],
  trial_id: [6, -1],
  trial_number: [3, null],
  coffee: [3, -1],
  grinder: [4, 4],
  brewer: [-1, -1],
  recipe_id: [-1, -1],
  recipe_version: [null, null],
  name: [5, 5],
  brewed_at_s: [1772352000, 1772438400],
  brew_ratio: [16, null],
  total_time_s: [170, null],
  simulated: [1],
  liking: [7, null],
  tds_pct: [1.4, 1.3],
  tds_half_pct: [0.03, 0.03],
  ey_pct: [20, 19],
  ey_half_pct: [0.5, 0.5],
};

test('each brew gets its own texts back, and what is not said stays unsaid', () => {
  const [one, two] = pointsOf(columns);
  assert.deepEqual(one, {
    run_id: 'r1',
    rev: 1,
    label: 'A1',
    letter: 'A',
    purpose: 'evidence',
    trial_id: 'trial1',
    trial_number: 3,
    coffee: 'Peru',
    grinder: 'Windlass',
    brewer: '',
    recipe_id: null,
    recipe_version: null,
    name: 'Which filter?',
    brewed_at: '2026-03-01T08:00:00.000Z',
    brew_ratio: 16,
    total_time_s: 170,
    simulated: false,
    liking: 7,
    tds_pct: 1.4,
    tds_half_pct: 0.03,
    ey_pct: 20,
    ey_half_pct: 0.5,
  });
  assert.deepEqual([two!.trial_id, two!.coffee, two!.brew_ratio, two!.simulated], [null, '', null, true]);
});

test('no brew is no point', () => {
  const none = Object.fromEntries(Object.keys(columns).map((k) => [k, []])) as unknown as typeof columns;
  assert.deepEqual(pointsOf(none), []);
});
