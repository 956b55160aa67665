// How a tab is called.
import assert from 'node:assert/strict';
import { test } from 'vitest';
import { titleOf } from '../ui/title';

test('the page comes first, what is not known yet is left out', () => {
  assert.equal(titleOf('Which filter?', 'Verdict'), 'Which filter? · Verdict · Brass Penny');
  assert.equal(titleOf(undefined, ''), 'Brass Penny');
});
