// @vitest-environment jsdom
// The one form layer: texts and choices come back together, and what was typed for something else is asked about before it counts.
import { act, renderHook, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { expect, test, vi } from 'vitest';
import { Refused } from '../api/refused';
import { Pick } from '../ui/Pick';
import { Restored } from '../ui/Restored';
import { useForm } from '../ui/useForm';
import { show } from './page';

const ASK = { question: '', judged_pass: 'mean', tasters: [] as string[] };
const formOf = <V extends object>(initial: V, draft = 'test') => renderHook(() => useForm(initial, draft)).result;

test('texts and choices come back together', () => {
  const first = formOf(ASK);
  act(() => first.current.set('question', 'Which filter?'));
  act(() => first.current.set('judged_pass', 'cool'));
  act(() => first.current.set('tasters', ['a', 'b']));
  const again = formOf(ASK);
  expect(again.current.values).toEqual({ question: 'Which filter?', judged_pass: 'cool', tasters: ['a', 'b'] });
  expect([again.current.restored, again.current.contested]).toEqual([true, []]);
});

test('two fields set in one go are both stored', () => {
  const first = formOf(ASK);
  act(() => {
    first.current.set('question', 'How far?');
    first.current.setValues((now) => ({ tasters: [...now.tasters, 'a'] }));
  });
  expect(formOf(ASK).current.values).toMatchObject({ question: 'How far?', tasters: ['a'] });
});

test('what is saved, cleared or never keyed leaves nothing behind', () => {
  const saved = formOf(ASK);
  act(() => saved.current.set('question', 'x'));
  act(() => saved.current.forget());
  expect(formOf(ASK).current.restored).toBe(false);
  const cleared = formOf(ASK);
  act(() => cleared.current.set('question', 'x'));
  act(() => cleared.current.startAfresh());
  expect([cleared.current.values.question, formOf(ASK).current.restored]).toEqual(['', false]);
  const unkeyed = formOf(ASK, '');
  act(() => unkeyed.current.set('question', 'x'));
  expect(localStorage.length).toBe(0);
});

test('a browser without storage still holds the values', () => {
  const broken = vi.spyOn(Storage.prototype, 'setItem').mockImplementation(() => {
    throw new Error('full');
  });
  const form = formOf(ASK);
  act(() => form.current.set('question', 'x'));
  expect(form.current.values.question).toBe('x');
  broken.mockRestore();
});

test('16 g typed yesterday are not logged for the recipe of 15.5 g that is chosen now', () => {
  const yesterday = formOf({ dose_g: '', note: '' });
  act(() => yesterday.current.set('dose_g', '16'));
  act(() => yesterday.current.set('note', 'fast'));
  const today = formOf({ dose_g: '15.5', note: '' });
  expect(today.current.contested).toEqual([{ field: 'dose_g', offered: '15.5' }]);
  expect(() => today.current.check()).toThrow(Refused);
  act(() => today.current.settle('offered'));
  expect(today.current.values).toEqual({ dose_g: '15.5', note: 'fast' });
  expect(() => today.current.check()).not.toThrow();
});

test('typing into a contested field is an answer', () => {
  const yesterday = formOf({ dose_g: '' });
  act(() => yesterday.current.set('dose_g', '16'));
  const form = formOf({ dose_g: '15.5' });
  act(() => form.current.set('dose_g', '15.8'));
  expect([form.current.contested, form.current.values.dose_g]).toEqual([[], '15.8']);
});

test('a choice fills untouched fields, empties what the last choice brought, and asks before it replaces typed ones', () => {
  const form = formOf({ coffee: '', grinder: '', name: '' });
  act(() => form.current.fill({ coffee: 'Peru', grinder: 'Windlass' }));
  expect(form.current.values).toMatchObject({ coffee: 'Peru', grinder: 'Windlass' });
  act(() => form.current.fill({ coffee: 'Honduras' }));
  expect(form.current.values, 'the grinder was the other recipe’s').toMatchObject({ coffee: 'Honduras', grinder: '' });
  act(() => form.current.set('name', 'Concentrate 1:1.5'));
  act(() => form.current.fill({ coffee: 'Peru', name: '' }));
  expect(form.current.values).toMatchObject({ coffee: 'Peru', name: 'Concentrate 1:1.5' });
  expect(form.current.contested).toEqual([{ field: 'name', offered: '' }]);
  act(() => form.current.settle('typed'));
  expect([form.current.contested, form.current.values.name]).toEqual([[], 'Concentrate 1:1.5']);
});

test('a refusal goes when its own field is corrected, and stays while another is', () => {
  const form = formOf(ASK, '');
  const refused = { at: (field: string) => (field === 'question' ? 'too long' : undefined) } as unknown as Refused;
  act(() => form.current.setRefused(refused));
  act(() => form.current.set('judged_pass', 'hot'));
  expect(form.current.refused).toBe(refused);
  act(() => form.current.set('question', 'shorter'));
  expect(form.current.refused).toBeNull();
});

test('the question about typed fields names both values, and one press settles it', async () => {
  const settle = vi.fn();
  const form = {
    restored: true,
    startAfresh() {},
    contested: [
      { field: 'dose_g', offered: '15.5' },
      { field: 'name', offered: '' },
    ],
    settle,
    values: { dose_g: '16', name: 'Concentrate' },
  } as Parameters<typeof Restored>[0]['form'];
  show(<Restored form={form} labels={{ name: 'Called' }} from="recipe" />);
  expect(screen.getByRole('status').textContent).toContain(
    'Dose: you typed 16 g, the recipe says 15.5 g. Called: you typed “Concentrate” for another recipe. Which counts?',
  );
  await userEvent.click(screen.getByRole('button', { name: 'Use the recipe’s' }));
  expect(settle).toHaveBeenCalledWith('offered');
});

test('a form that knows no recipe speaks of none', () => {
  const contested = [{ field: 'own_0_0', offered: 'felt' }];
  show(<Restored form={{ restored: true, startAfresh() {}, settle() {}, contested, values: { own_0_0: 'weave' } }} />);
  expect(screen.getByRole('status').textContent).toContain('you typed “weave”, now it is “felt”. Which counts?');
  expect(screen.getByRole('button', { name: 'Use the new value' })).toBeTruthy();
});

test('a select never shows an option it does not hold', () => {
  show(<Pick aria-label="Which" value="gone" onPick={() => {}} data={['a', 'b']} />);
  expect((screen.getByRole('combobox') as HTMLSelectElement).selectedOptions[0]!.textContent).toBe('Choose…');
});
