/** The half edge of a coin, in steps from left to right: for each its wedge of the rim, and where a finger lands. */
export type Wedge = { path: string; x: number; y: number };

export const FAN = { width: 360, height: 196, outer: 176, inner: 104 };
const GAP = 0.018;

export function wedges(steps: number): Wedge[] {
  const { width, height, outer, inner } = FAN;
  const [cx, cy] = [width / 2, height - 14];
  const at = (angle: number, r: number) => [cx - r * Math.cos(angle), cy - r * Math.sin(angle)] as const;
  const said = (p: readonly [number, number]) => `${p[0].toFixed(1)} ${p[1].toFixed(1)}`;
  return [...Array(steps).keys()].map((i) => {
    const [from, to] = [(Math.PI * i) / steps + GAP, (Math.PI * (i + 1)) / steps - GAP];
    const [x, y] = at((from + to) / 2, (outer + inner) / 2);
    const path = `M${said(at(from, outer))}A${outer} ${outer} 0 0 1 ${said(at(to, outer))}L${said(at(to, inner))}A${inner} ${inner} 0 0 0 ${said(at(from, inner))}Z`;
    return { path, x, y };
  });
}
