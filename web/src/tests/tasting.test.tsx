// @vitest-environment jsdom
// What a taster is asked when a cup was passed over, what a rank takes beside its place, and what a mark that fills itself says.
import { act, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { expect, test, vi } from 'vitest';
import { CupsFlow } from '../rooms/tasting/CupsFlow';
import { MarksForm } from '../rooms/tasting/MarksForm';
import type { Flight, Sheet } from '../rooms/tasting/queries';
import { RankFlow } from '../rooms/tasting/RankFlow';
import { type Answers, cell, type Touch } from '../rooms/tasting/useSheet';
import { bench, show } from './page';

const CODES = ['417', '522', '638'];
const SHEET = {
  taster: 'Ada',
  method: 'scores',
  blinding: 'shuffle',
  passes: [{ name: 'warm', from_c: 48, to_c: 58, open: true, closed: false, opens_at: null }],
  attributes: [
    { code: 'liking', label: 'Liking', low: 1, high: 9, step: 1, low_word: '', high_word: '', usual: false },
  ],
  jar: [],
  guesses: [],
  rest_s: 0,
  cleanser: true,
  liking_last: false,
  sip_temperature: false,
  cup_temperature_c: null,
  cups: CODES.map((code) => ({ code, label: null, scores: [] })),
  shelf: [],
} as unknown as Sheet;

function Flow({ sheet, of: Of, sent }: { sheet: Sheet; of: typeof CupsFlow; sent: Touch[] }) {
  const [answers, setAnswers] = useState<Answers>({});
  return (
    <Of
      sheet={sheet}
      answers={answers}
      locked={false}
      onScore={(...touches) => {
        sent.push(...touches);
        const said = touches.map((t) => [
          cell(t.code, t.attribute, t.pass ?? ''),
          { value: t.value ?? null, text: t.text ?? '' },
        ]);
        setAnswers((now) => ({ ...now, ...Object.fromEntries(said) }));
      }}
    />
  );
}

const press = async (name: string | RegExp) => act(async () => userEvent.click(screen.getByRole('button', { name })));
const heading = () => screen.getByRole('heading', { level: 1 }).textContent;
vi.stubGlobal('scrollTo', () => undefined);

test('a cup passed over is asked about before the last, once, and scored by one press', async () => {
  show(<Flow sheet={SHEET} of={CupsFlow} sent={[]} />);
  await press('Start with the first cup');
  await press('Next cup'); // the first is passed over; two are still to come
  expect(heading()).toBe('Cup 522');
  await userEvent.click(screen.getByRole('radio', { name: /^7/ }));
  await press('Next cup');
  expect(heading()).toBe('Cup 417 has no liking yet');
  await press('Leave it out');
  expect(heading()).toBe('Cup 638');
  await press('Done'); // the last itself was not scored; the first is not asked about again
  expect(heading()).toBe('Cup 638 has no liking yet');
  await press('Score cup 638');
  expect(heading()).toBe('Cup 638');
});

test('recognising a cup stands above what is scored', async () => {
  show(<Flow sheet={SHEET} of={CupsFlow} sent={[]} />);
  await press('Start with the first cup');
  const seen = screen.getByRole('checkbox', { name: 'I recognised this cup by sight' });
  const first = screen.getAllByRole('radio')[0]!;
  expect(seen.compareDocumentPosition(first) & Node.DOCUMENT_POSITION_FOLLOWING).toBeTruthy();
});

test('a rank takes notes and a guess once the order is kept', async () => {
  const sent: Touch[] = [];
  const guesses = [{ letter: 'A', label: 'White weave' }];
  show(<Flow sheet={{ ...SHEET, method: 'ranking', guesses } as Sheet} of={RankFlow} sent={sent} />);
  expect(screen.queryByText(/add notes/)).toBeNull();
  await press('Keep this order');
  await userEvent.click(screen.getByText('Cup 522: add notes'));
  const notes = screen.getAllByLabelText('Tasting notes')[1]!;
  await userEvent.type(notes, 'lime, tea');
  await userEvent.tab();
  await userEvent.selectOptions(screen.getAllByRole('combobox')[0]!, 'A');
  expect(sent.slice(-2)).toMatchObject([
    { code: '522', attribute: 'words', text: 'lime, tea' },
    { code: '417', attribute: 'guess', text: 'A' },
  ]);
});

test('the flip says which cup has no mark, and a mark that filled itself is not cleared by a tap', async () => {
  bench({});
  const flight = {
    id: 'f',
    cups: CODES.map((code) => ({ code, round: 1 })),
    marks: [1, 2, 3].map((mark) => ({ mark, round: 1 })),
  } as unknown as Flight;
  show(<MarksForm flight={flight} onDone={() => undefined} />);
  const mark = (code: string, n: number) =>
    screen.getByRole('radiogroup', { name: `Mark under code ${code}` }).querySelectorAll('button')[n - 1]!;
  const flip = screen.getByRole('button', { name: 'Flip the pennies' }) as HTMLButtonElement;
  expect([flip.disabled, Boolean(screen.queryByText('Cups 417, 522 and 638 have no mark yet.'))]).toEqual([true, true]);
  await userEvent.click(mark('417', 2));
  await userEvent.click(mark('522', 3));
  expect(screen.getByText('the only one left')).toBeTruthy();
  expect(flip.disabled).toBe(false);
  await userEvent.click(mark('638', 1));
  expect(mark('638', 1).getAttribute('aria-checked')).toBe('true');
  expect(screen.getByRole('alert').textContent).toContain('Change another cup’s mark first');
  await userEvent.click(mark('522', 3)); // taken back: its place is open again, and said
  expect(screen.getByText(/Cup 522 has no mark yet/)).toBeTruthy();
});
