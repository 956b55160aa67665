type Block = { brew: string; lane: string; label: string; start_s: number; end_s: number };

export type Lane<B extends Block> = { name: string; rows: B[][]; passive: boolean };

const KINDS = ['hands', 'kettle', 'grinder', 'brewer'];

/** Blocks by lane, hands first; a lane of several machines has a row for each that is in use at once. */
export function lanesOf<B extends Block>(blocks: B[]): Lane<B>[] {
  const names = [...new Set(blocks.map((b) => b.lane))].sort(
    (a, b) => KINDS.indexOf(a.split(':')[0]!) - KINDS.indexOf(b.split(':')[0]!) || a.localeCompare(b),
  );
  return names.map((name) => ({
    name,
    rows: packed(blocks.filter((b) => b.lane === name)),
    passive: !name.startsWith('hands'),
  }));
}

function packed<B extends Block>(blocks: B[]): B[][] {
  const rows: B[][] = [];
  for (const b of [...blocks].sort((x, y) => x.start_s - y.start_s)) {
    const row = rows.find((r) => r.at(-1)!.end_s <= b.start_s + 0.01);
    if (row) row.push(b);
    else rows.push([b]);
  }
  return rows;
}
