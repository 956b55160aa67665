import { useEffect } from 'react';

export type Action = {
  /** One key, or two in turn: "?" or "g b"; empty for none. */
  keys: string;
  label: string;
  /** What kind of thing it is, where it is listed with others. */
  hint?: string;
  run: () => void;
};

const PAUSE_MS = 1200;

function isTyping(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLElement && (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName))
  );
}

/** Runs an action when its keys are pressed outside a field. */
export function useKeys(actions: Action[]) {
  useEffect(() => {
    let before = '';
    let timer = 0;
    const pressed = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.metaKey || event.altKey || isTyping(event.target)) return;
      const typed = before ? `${before} ${event.key}` : event.key;
      const action = actions.find((a) => a.keys !== '' && a.keys === typed);
      window.clearTimeout(timer);
      before = action ? '' : event.key === 'g' ? 'g' : '';
      timer = window.setTimeout(() => {
        before = '';
      }, PAUSE_MS);
      if (action) {
        event.preventDefault();
        action.run();
      }
    };
    window.addEventListener('keydown', pressed);
    return () => {
      window.clearTimeout(timer);
      window.removeEventListener('keydown', pressed);
    };
  }, [actions]);
}

/** Ctrl K (or its like on a Mac) finds anything, also out of a field. */
export function useFindKey(find: () => void) {
  useEffect(() => {
    const pressed = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || event.altKey || event.shiftKey || event.key.toLowerCase() !== 'k')
        return;
      event.preventDefault();
      find();
    };
    window.addEventListener('keydown', pressed);
    return () => window.removeEventListener('keydown', pressed);
  });
}
