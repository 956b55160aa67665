import type { Sheet } from './queries';
import type { Answers, Touch } from './useSheet';

/** What every way of tasting is given. */
export type FlowProps = {
  sheet: Sheet;
  answers: Answers;
  locked: boolean;
  onScore: (...touches: Touch[]) => void;
};
