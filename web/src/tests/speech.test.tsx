// @vitest-environment jsdom
// Steps read aloud by the browser's own voice: off until wanted, each step once, silent where there is no voice.
import { act, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, expect, test, vi } from 'vitest';
import { AloudSwitch } from '../rooms/live_brews/SoundSwitch';
import { aloudOf, type Stage } from '../rooms/live_brews/stage';
import { useReadAloud } from '../ui/speech';
import { show } from './page';

function withVoice() {
  const spoken: string[] = [];
  vi.stubGlobal(
    'SpeechSynthesisUtterance',
    class {
      constructor(public text: string) {}
    },
  );
  vi.stubGlobal('speechSynthesis', {
    speak: (said: { text: string }) => spoken.push(said.text),
    cancel: () => undefined,
  });
  return spoken;
}

const Step = ({ says }: { says: string }) => {
  useReadAloud(says);
  return null;
};

afterEach(() => vi.unstubAllGlobals());

test('nothing is said until it is wanted, then each step once', async () => {
  const spoken = withVoice();
  const { rerender } = render(<Step says="Bloom with 45 g" />);
  expect(spoken).toEqual([]);
  show(<AloudSwitch />);
  await act(async () => userEvent.click(screen.getByRole('switch', { name: 'Read aloud' })));
  expect(spoken).toEqual(['Steps are read aloud.']);
  rerender(<Step says="Wait. Next: pour to 170 g" />);
  rerender(<Step says="Wait. Next: pour to 170 g" />);
  rerender(<Step says="Pour to 170 g" />);
  expect(spoken.slice(1)).toEqual(['Wait. Next: pour to 170 g', 'Pour to 170 g']);
});

test('a device without a voice shows no switch and stays silent', () => {
  show(<AloudSwitch />);
  expect(screen.queryByRole('switch')).toBeNull();
  localStorage.setItem('penny.aloud', 'on');
  render(<Step says="Bloom with 45 g" />);
});

test('a rest before a pour is said as one', () => {
  const stage = { kind: 'pour', waits: true, says: 'pour to 170 g' } as Stage;
  expect(aloudOf(stage)).toBe('Wait. Next: pour to 170 g');
  expect(aloudOf({ ...stage, waits: false })).toBe('pour to 170 g');
});
