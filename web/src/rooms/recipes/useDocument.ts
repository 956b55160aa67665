import { useCallback, useReducer } from 'react';
import type { RecipeDocument } from './queries';

type State = { now: RecipeDocument; past: RecipeDocument[] };
type Act = { set: RecipeDocument } | { undo: true } | { start: RecipeDocument };

const MOST_PAST = 100;

function reduce(state: State, act: Act): State {
  if ('start' in act) return { now: act.start, past: [] };
  if ('undo' in act) {
    const before = state.past.at(-1);
    return before ? { now: before, past: state.past.slice(0, -1) } : state;
  }
  if (act.set === state.now) return state;
  return { now: act.set, past: [...state.past, state.now].slice(-MOST_PAST) };
}

/** A recipe while it is written, with every earlier state to go back to. */
export function useDocument(start: RecipeDocument) {
  const [{ now, past }, act] = useReducer(reduce, { now: start, past: [] });
  const set = useCallback((doc: RecipeDocument) => act({ set: doc }), []);
  const undo = useCallback(() => act({ undo: true }), []);
  const restart = useCallback((doc: RecipeDocument) => act({ start: doc }), []);
  return { doc: now, set, undo: past.length ? undo : undefined, restart };
}
