// @vitest-environment jsdom
// Listening to the bench, and looking again where it has no place for another listener.
import { act, renderHook } from '@testing-library/react';
import { beforeEach, expect, test, vi } from 'vitest';
import { useStream } from '../ui/useStream';

class Source extends EventTarget {
  static opened: Source[] = [];
  closed = false;
  constructor(readonly address: string) {
    super();
    Source.opened.push(this);
  }
  close() {
    this.closed = true;
  }
}

beforeEach(() => {
  Source.opened = [];
  vi.stubGlobal('EventSource', Source);
});

const said = (kind: string) => act(() => void Source.opened.at(-1)!.dispatchEvent(new Event(kind)));

test('each kind that is asked for is heard, and no other', () => {
  const heard = vi.fn();
  renderHook(() => useStream('/events', true, ['score', 'flip'], heard));
  for (const kind of ['score', 'flip', 'message']) said(kind);
  expect(heard).toHaveBeenCalledTimes(2);
});

test('a listener without a place looks again each time it comes back, until it is served', () => {
  const heard = vi.fn();
  const page = renderHook(() => useStream('/events', true, ['score'], heard));
  said('full');
  said('full');
  expect([page.result.current, heard.mock.calls.length]).toEqual([true, 2]);
  said('score');
  expect([page.result.current, heard.mock.calls.length]).toEqual([false, 3]);
});

test('one stream is open, and none once it is listened to no more', () => {
  const page = renderHook(({ on }) => useStream('/events', on, ['score'], () => undefined), {
    initialProps: { on: true },
  });
  page.rerender({ on: true });
  expect(Source.opened).toHaveLength(1);
  page.rerender({ on: false });
  expect(Source.opened[0]!.closed).toBe(true);
});
