import type { Schemas } from '../../api/client';

type Interval = { value: number; low: number; high: number };
export type ChartPoint = {
  key: string;
  letter: string;
  label: string;
  ey: Interval;
  tds: Interval;
  /** Where a press leads. */
  to?: string;
  /** Said besides the numbers. */
  more?: string;
  /** How it was liked in sight of its label, 1 to 9: written beside it, and no evidence. */
  liked?: number;
  /** A thinner ring: it shows, and proves nothing. */
  aside?: boolean;
};
export type RatioLineShown = Schemas['RatioLineShown'];
export type WindowShown = Schemas['WindowShown'];
export type OverlayShown = Schemas['OverlayShown'];
export type Trail = { name: string; versions: number[]; points: number[][] };

/** Where a setup stands by all its brews. */
export type ChartMean = Pick<ChartPoint, 'letter' | 'label' | 'tds' | 'ey'>;
