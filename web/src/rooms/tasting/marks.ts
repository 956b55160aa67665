export type Cup = { code: string; round: number };
export type Mark = { mark: number; round: number };
export type Found = Record<string, number>;

/** The marks that can be under a code: of its round, and under no other code. */
export function freeFor(code: string, cups: readonly Cup[], marks: readonly Mark[], found: Found): number[] {
  const round = cups.find((c) => c.code === code)?.round;
  const elsewhere = new Set(Object.entries(found).flatMap(([c, m]) => (c === code ? [] : [m])));
  return marks.filter((m) => m.round === round && !elsewhere.has(m.mark)).map((m) => m.mark);
}

/** One more mark found; where one code and one mark of its round are left over, they belong together. Pressed again it is taken back. */
export function withMark(
  found: Found,
  code: string,
  mark: number,
  cups: readonly Cup[],
  marks: readonly Mark[],
): Found {
  if (found[code] === mark) return Object.fromEntries(Object.entries(found).filter(([c]) => c !== code));
  const next = { ...found, [code]: mark };
  const round = cups.find((c) => c.code === code)?.round;
  const open = cups.filter((c) => c.round === round && next[c.code] === undefined);
  const [last] = open;
  if (open.length !== 1 || !last) return next;
  const left = freeFor(last.code, cups, marks, next);
  return left.length === 1 ? { ...next, [last.code]: left[0]! } : next;
}
