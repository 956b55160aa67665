import type { Grind } from './queries';

export const figureOf = (grind: Grind, code: string) => grind.measures.find((m) => m.code === code)?.figure ?? null;

/** The two grinds in view: those asked for, else the newest and the one of another dial that comes nearest its median. */
export function twoOf(grinds: Grind[], firstId: string | null, secondId: string | null) {
  const byId = (id: string | null) => grinds.find((g) => g.id === id || g.samples.some((s) => s.id === id));
  const first = byId(firstId) ?? newest(grinds);
  const second = byId(secondId) ?? (first && nearest(first, grinds));
  return { first, second: second?.id === first?.id ? undefined : second };
}

const newest = (grinds: Grind[]) =>
  [...grinds]
    .sort((a, b) => (lastDay(a) < lastDay(b) ? 1 : -1))
    .find((g) => grinds.some((o) => o.dial_id !== g.dial_id)) ?? grinds[0];

const lastDay = (g: Grind) =>
  g.samples
    .map((s) => s.sampled_on)
    .sort()
    .at(-1) ?? '';

function nearest(to: Grind, grinds: Grind[]): Grind | undefined {
  const others = grinds.filter((g) => g.dial_id !== to.dial_id);
  const here = figureOf(to, 'd50')?.value;
  const away = (g: Grind) => {
    const there = figureOf(g, 'd50')?.value;
    return here === undefined || there === undefined ? Number.POSITIVE_INFINITY : Math.abs(there - here);
  };
  return [...others].sort((a, b) => away(a) - away(b))[0] ?? grinds.find((g) => g.id !== to.id);
}

/** Whether any of the grinds asked for is not in the room. */
export const lacks = (room: { grinds: Grind[] } | undefined, ids: (string | null)[]) =>
  ids.some((id) => id && !room?.grinds.some((g) => g.id === id || g.samples.some((s) => s.id === id)));

type Two = { first: string | undefined; second: string | undefined };

/** One of the two chosen anew: choosing the other one there changes their places. */
export function picked(two: Two, which: 'first' | 'second', id: string): Two {
  const other = which === 'first' ? 'second' : 'first';
  return { ...two, [other]: two[other] === id ? two[which] : two[other], [which]: id };
}

/** The mass meant by what was typed: a number, or full less empty vessel ("86.4-80.1"); null when it is neither. */
export function readMass(text: string): number | null {
  const parts = text
    .replaceAll(',', '.')
    .replaceAll('−', '-')
    .split('-')
    .map((p) => p.trim());
  if (parts.length > 2 || parts.some((p) => !/^\d+(\.\d*)?$/.test(p))) return null;
  const [full, empty = '0'] = parts;
  return Math.round((Number(full) - Number(empty)) * 1000) / 1000;
}
