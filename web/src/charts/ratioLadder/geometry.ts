import { scaleLinear } from '@visx/scale';

export type Rung = {
  key?: string;
  letter: string;
  name: string;
  ratio: number;
  value: number;
  low: number;
  high: number;
};

/** Ratios and values to px for one panel; room is left around the ends for pennies. */
export function panelScales(
  rungs: Rung[],
  ratioEnds: readonly [number, number],
  frame: { left: number; right: number; top: number; bottom: number },
) {
  const lows = rungs.map((r) => r.low);
  const highs = rungs.map((r) => r.high);
  const low = Math.min(...lows);
  const high = Math.max(...highs);
  const room = (high - low || 1) * 0.12;
  return {
    x: scaleLinear({ domain: [...ratioEnds], range: [frame.left, frame.right] }),
    y: scaleLinear({ domain: [low - room, high + room], range: [frame.bottom, frame.top] }),
  };
}

/** The ends of the ratio axis: the tested ratios with half a ratio on either side. */
export function ratioEnds(ratios: number[]): [number, number] {
  return [Math.min(...ratios) - 0.5, Math.max(...ratios) + 0.5];
}
