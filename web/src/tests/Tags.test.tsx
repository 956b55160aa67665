// @vitest-environment jsdom
// Known texts are offered while one is typed; the list never stays open over what is below the field.
import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { expect, test } from 'vitest';
import { Tags } from '../ui/Tags';
import { show } from './page';

function Field() {
  const [levels, setLevels] = useState<string[]>([]);
  return <Tags label="Levels" data={['White weave', 'Steel mesh']} value={levels} onChange={setLevels} />;
}

test('the list opens while a text is typed and closes once it is taken', async () => {
  const user = userEvent.setup();
  show(<Field />);
  const field = screen.getByLabelText('Levels', { selector: 'input' });
  await user.type(field, 'w');
  await screen.findByRole('option', { name: 'White weave' });
  await user.type(field, 'hite weave{Enter}');
  await waitFor(() => expect(screen.queryAllByRole('option')).toEqual([]));
  await screen.findByText('White weave');
  expect(document.activeElement).toBe(field);
});

test('a known text is picked by a press', async () => {
  const user = userEvent.setup();
  show(<Field />);
  await user.click(screen.getByLabelText('Levels', { selector: 'input' }));
  await user.click(await screen.findByRole('option', { name: 'Steel mesh' }));
  await waitFor(() => expect(screen.queryAllByRole('option')).toEqual([]));
  await screen.findByText('Steel mesh');
});
