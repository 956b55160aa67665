import { scaleLinear } from '@visx/scale';
import { ratioTick } from '../../ui/units';

export type Ends = readonly [number, number];
export type Frame = { width: number; height: number; left: number; right: number; top: number; bottom: number };
export type Scales = ReturnType<typeof scalesOf>;

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
  scales: Scales,
  eyEnds: Ends,
  tdsEnds: Ends,
): LineOnChart | null {
  const cut: [number, number][] = [];
  for (let i = 1; i < points.length; i++) {
    const part = cutTo(points[i - 1] as [number, number], points[i] as [number, number], eyEnds, tdsEnds);
    if (!part) continue;
    if (!cut.length) cut.push(part[0]);
    cut.push(part[1]);
  }
  if (cut.length < 2) return null;
  const px = cut.map(([ey, tds]) => [scales.x(ey), scales.y(tds)] as const);
  const [startX] = px[0]!;
  const [endX, endY] = px[px.length - 1]!;
  if (endX - startX < SHORTEST_PX) return null; // a stub in a corner says nothing and its label would sit on the axis
  const leavesTop = cut[cut.length - 1]![1] >= tdsEnds[1] - 1e-9;
  return {
    label: ratioTick(ratio),
    path: px.map(([x, y], i) => `${i ? 'L' : 'M'}${x.toFixed(1)} ${y.toFixed(1)}`).join(''),
    labelX: leavesTop ? endX : endX + 5,
    labelY: leavesTop ? endY - 5 : endY + 4,
    anchor: leavesTop ? 'end' : 'start',
  };
}

/** The part of a straight piece that lies in the plot. */
function cutTo(
  a: [number, number],
  b: [number, number],
  ...ends: [Ends, Ends]
): [[number, number], [number, number]] | null {
  let [from, to] = [0, 1];
  for (const axis of [0, 1] as const) {
    const step = b[axis] - a[axis];
    const [low, high] = ends[axis];
    if (step === 0) {
      if (a[axis] < low || a[axis] > high) return null;
      continue;
    }
    const first = (low - a[axis]) / step;
    const second = (high - a[axis]) / step;
    from = Math.max(from, Math.min(first, second));
    to = Math.min(to, Math.max(first, second));
  }
  if (from > to) return null;
  const at = (share: number): [number, number] => [a[0] + share * (b[0] - a[0]), a[1] + share * (b[1] - a[1])];
  return [at(from), at(to)];
}

/** What is in view: the whole, or a part of it. */
export type View = { ey: Ends; tds: Ends };

const SMALLEST = { ey: 0.5, tds: 0.04 };

/** In (below 1) or out around the middle, never beyond the whole and never smaller than a reading's width. */
export function zoomed(view: View, whole: View, by: number): View {
  return {
    ey: around(view.ey, whole.ey, by, SMALLEST.ey),
    tds: around(view.tds, whole.tds, by, SMALLEST.tds),
  };
}

/** Moved by shares of what is in view, kept inside the whole. */
export function panned(view: View, whole: View, share: { ey: number; tds: number }): View {
  return { ey: moved(view.ey, whole.ey, share.ey), tds: moved(view.tds, whole.tds, share.tds) };
}

function around([low, high]: Ends, [first, last]: Ends, by: number, smallest: number): Ends {
  const half = Math.min((last - first) / 2, Math.max(smallest / 2, ((high - low) / 2) * by));
  const middle = Math.min(last - half, Math.max(first + half, (low + high) / 2));
  return [middle - half, middle + half];
}

function moved([low, high]: Ends, [first, last]: Ends, share: number): Ends {
  const by = Math.min(last - high, Math.max(first - low, share * (high - low)));
  return [low + by, high + by];
}

type Placed = { ey: { low: number; high: number }; tds: { low: number; high: number } };

/** Ends of both axes just around what is drawn, with room for its coins; never narrower than a difference anybody could taste. */
export function endsAround(drawn: readonly Placed[], whole: View): View {
  if (!drawn.length) return whole;
  return {
    ey: roomy(
      drawn.map((d) => d.ey),
      3,
    ),
    tds: roomy(
      drawn.map((d) => d.tds),
      0.18,
    ),
  };
}

function roomy(ends: readonly { low: number; high: number }[], least: number): Ends {
  const low = Math.min(...ends.map((e) => e.low));
  const high = Math.max(...ends.map((e) => e.high));
  const half = Math.max((high - low) * 0.65, least / 2);
  const middle = (low + high) / 2;
  return [Math.max(0, middle - half), middle + half];
}
