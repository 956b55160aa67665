// @vitest-environment jsdom
// What the forms of the rooms show is what they send: choices come back with the texts, and a select sends the brew it shows.
import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { expect, test, vi } from 'vitest';
import { NewSeries } from '../rooms/palate/NewSeries';
import { expectedStronger } from '../rooms/tasting/flightForm';
import { NewFlight } from '../rooms/tasting/NewFlight';
import { AskForm } from '../rooms/trials/AskForm';
import { bench, show } from './page';

const runs = [
  { id: 'run-a1', setup_id: 'a', label: 'A1' },
  { id: 'run-b1', setup_id: 'b', label: 'B1' },
] as Parameters<typeof NewFlight>[0]['runs'];
const setups = [
  { setup_id: 'a', letter: 'A', name: 'White weave' },
  { setup_id: 'b', letter: 'B', name: 'Grey felt' },
] as Parameters<typeof NewFlight>[0]['setups'];
const OUTLOOK = { cups: 4, touches: 4, minutes: 3, notes: [], caffeine_mg: null, own_sets: false };

test('a 2-AFC sends the brew its select shows, whatever was ticked in which order', async () => {
  const method = { code: 'two_afc', label: 'Which has more?', about: '' };
  const sent = bench({
    'GET /people': { people: [{ id: 'p1', name: 'Odile', rev: 1 }] },
    'GET /trials/t1/flight-method': { run_ids: ['run-a1', 'run-b1'], proposed: 'two_afc', why: '', methods: [method] },
    'POST /trials/t1/flight-outlook': OUTLOOK,
    'POST /trials/t1/flights': { id: 'f1' },
  });
  show(<NewFlight trialId="t1" runs={runs} setups={setups} onMade={() => {}} />);
  const user = userEvent.setup();
  const a1 = await screen.findByRole('checkbox', { name: 'A1' });
  await user.click(await screen.findByRole('checkbox', { name: 'Odile' }));
  await user.click(a1); // unticked, and ticked again: now it is the last of the ticked ones
  await user.click(a1);
  const select = screen.getByLabelText<HTMLSelectElement>('Expected to have more');
  expect(select.selectedOptions[0]!.textContent).toBe('A1');
  await user.click(screen.getByRole('button', { name: 'Make the flight' }));
  await waitFor(() => expect(sent.some((s) => s.path === '/trials/t1/flights')).toBe(true));
  expect(sent.find((s) => s.path === '/trials/t1/flights')!.body).toMatchObject({ stronger_run_id: 'run-a1' });
});

test('the brew expected to have more is the chosen one while it is tasted, else the first that is listed', () => {
  expect(expectedStronger(runs, 'run-b1')).toBe('run-b1');
  expect(expectedStronger([runs[0]!], 'run-b1')).toBe('run-a1');
  expect(expectedStronger([], 'run-b1')).toBe('');
});

test('Ask brings the pass back with the question, and sends it', async () => {
  bench({ 'GET /trials/guess': { factor: 'filter', further_factors: [], options: [] } });
  const send = vi.fn(async () => ({ id: 't1' }) as never);
  const form = () => <AskForm verb="Create trial" send={send} onDone={() => {}} />;
  const user = userEvent.setup();
  const first = show(form());
  await user.type(screen.getByLabelText('Your question'), 'Which filter?');
  await user.click(screen.getByText('How it is judged'));
  await user.click(screen.getByRole('combobox', { name: 'Judged by' }));
  await user.click(await screen.findByRole('option', { name: /cool/i }));
  first.unmount();
  show(form());
  expect(screen.getByText('What you typed here before is back.')).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Create trial' }));
  await waitFor(() => expect(send).toHaveBeenCalled());
  expect(send.mock.calls[0]).toMatchObject([{ question: 'Which filter?', judged_pass: 'cool' }]);
});

test('a new series brings back what differs, not only what is served', async () => {
  bench({ 'GET /people': { people: [] } });
  const form = () => <NewSeries onClose={() => {}} onMade={() => {}} />;
  const user = userEvent.setup();
  const first = show(form());
  await user.type(await screen.findByLabelText('What is served'), 'citric acid in water');
  await user.click(screen.getByRole('combobox', { name: 'What differs' }));
  await user.click(await screen.findByRole('option', { name: /acid/i }));
  first.unmount();
  show(form());
  expect((await screen.findByLabelText<HTMLInputElement>('What is served')).value).toBe('citric acid in water');
  expect(screen.getByRole<HTMLInputElement>('combobox', { name: 'What differs' }).value).toMatch(/acid/i);
});
