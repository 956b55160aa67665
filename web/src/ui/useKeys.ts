import { useEffect } from 'react';

export type Action = {
  /** One key, or two in turn: "?" or "g b". */
  keys: string;
  label: string;
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
      const action = actions.find((a) => a.keys === typed);
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
