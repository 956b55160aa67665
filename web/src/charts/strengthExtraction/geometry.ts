import { scaleLinear } from '@visx/scale';

export type Ends = readonly [number, number];
export type Frame = { width: number; height: number; left: number; right: number; top: number; bottom: number };

/** Scales from % to px for the plot inside a frame. */
export function scalesOf(frame: Frame, eyEnds: Ends, tdsEnds: Ends) {
  return {
    x: scaleLinear({ domain: [...eyEnds], range: [frame.left, frame.width - frame.right] }),
    y: scaleLinear({ domain: [...tdsEnds], range: [frame.height - frame.bottom, frame.top] }),
  };
}

const SHORTEST_PX = 36;

export type LineOnChart = { label: string; path: string; labelX: number; labelY: number; anchor: 'start' | 'end' };

/** A ratio line cut to the plot, with its label where it leaves: at the right edge, or at the top. */
export function lineOnChart(
  points: readonly (readonly number[])[],
  ratio: number,
  scales: ReturnType<typeof scalesOf>,
  tdsEnds: Ends,
): LineOnChart | null {
  const cut: [number, number][] = [];
  for (let i = 0; i < points.length; i++) {
    const [ey, tds] = points[i] as [number, number];
    const before = points[i - 1] as [number, number] | undefined;
    if (before) {
      for (const edge of tdsEnds) {
        if ((before[1] - edge) * (tds - edge) < 0) {
          const share = (edge - before[1]) / (tds - before[1]);
          cut.push([before[0] + share * (ey - before[0]), edge]);
        }
      }
    }
    if (tds >= tdsEnds[0] && tds <= tdsEnds[1]) cut.push([ey, tds]);
  }
  if (cut.length < 2) return null;
  const px = cut.map(([ey, tds]) => [scales.x(ey), scales.y(tds)] as const);
  const [startX] = px[0]!;
  const [endX, endY] = px[px.length - 1]!;
  if (endX - startX < SHORTEST_PX) return null; // a stub in a corner says nothing and its label would sit on the axis
  const leavesTop = cut[cut.length - 1]![1] >= tdsEnds[1] - 1e-9;
  return {
    label: `1:${ratio}`,
    path: px.map(([x, y], i) => `${i ? 'L' : 'M'}${x.toFixed(1)} ${y.toFixed(1)}`).join(''),
    labelX: leavesTop ? endX : endX + 5,
    labelY: leavesTop ? endY - 5 : endY + 4,
    anchor: leavesTop ? 'end' : 'start',
  };
}
