/** What a drill's page makes of touches on cups. */

/** Places are told from the left, from one. */
export const placesOf = (cups: number) => Array.from({ length: cups }, (_, i) => `Cup ${i + 1}`);

/** Touched again, a cup and all after it are taken back; else it comes next. */
export function touched(order: number[], place: number): number[] {
  const at = order.indexOf(place);
  return at < 0 ? [...order, place] : order.slice(0, at);
}

/** The word laid on a cup; a word lies on one cup only. */
export function laid(words: (number | null)[], place: number, word: number | null): (number | null)[] {
  return words.map((w, i) => (i === place ? word : w === word ? null : w));
}

/** Marks from the left as far as they are read. Where all that are left are alike, the last ones need no reading. */
export function read(marks: (string | null)[], place: number, mark: string, setOut: string[]): (string | null)[] {
  const now = marks.map((m, i) => (i === place ? mark : m));
  const left = leftOver(now, setOut);
  return new Set(left).size === 1 ? now.map((m) => m ?? left[0]!) : now;
}

/** Marks not read on any cup yet. */
export function leftOver(marks: (string | null)[], setOut: string[]): string[] {
  const left = [...setOut];
  for (const mark of marks) {
    const at = mark === null ? -1 : left.indexOf(mark);
    if (at >= 0) left.splice(at, 1);
  }
  return left;
}

/** "A twice and B once"; "A, B and C". */
export function toPour(setOut: string[]): string {
  const marks = [...new Set(setOut)];
  const twice = marks.length < setOut.length;
  const said = marks.map((m) => (twice ? `${m} ${setOut.filter((x) => x === m).length === 2 ? 'twice' : 'once'}` : m));
  return `${said.slice(0, -1).join(', ')} and ${said.at(-1)}`;
}

/** "3 weeks in a row, 5 sittings". */
export function kept(weeks: number, sittings: number): string {
  if (!sittings) return 'No sitting yet.';
  const days = `${sittings} sitting${sittings === 1 ? '' : 's'}`;
  return weeks > 1 ? `${days}, ${weeks} weeks in a row.` : `${days} so far.`;
}
