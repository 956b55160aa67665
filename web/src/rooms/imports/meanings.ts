import { plural } from '../../ui/numbers';
import type { BrewTableRead, ColumnMeaning, ScoreTableRead, TableRead } from './queries';

/** The meanings after one column was given another: what can stand only once leaves the column it had before. */
export function withMeaning(read: TableRead, column: number, target: string): ColumnMeaning[] {
  const many = read.targets.find((t) => t.code === target)?.many ?? false;
  return read.columns.map((c, i) => {
    if (i === column) return { target, unit: '' };
    return c.target === target && !many
      ? { target: '', unit: '' }
      : { target: c.target, unit: c.units.length ? c.unit : '' };
  });
}

export const withUnit = (read: TableRead, column: number, unit: string): ColumnMeaning[] =>
  read.columns.map((c, i) => ({ target: c.target, unit: i === column ? unit : c.units.length ? c.unit : '' }));

type Go = { text: string; can: boolean };

/** What stands in the way of any table, before what it holds is looked at. */
function inTheWay(read: TableRead & { missing: string[] }, leaveOut: boolean): Go | null {
  if (read.missing.length) return { text: `Choose the column for ${read.missing.join(' and ')}`, can: false };
  return read.fault_count && !leaveOut ? { text: 'Fix the errors first', can: false } : null;
}

/** How the button says what it will do. */
export function bringsIn(read: BrewTableRead, leaveOut: boolean): Go {
  const brews = `${read.ready} brew${read.ready === 1 ? '' : 's'}`;
  const blocked = inTheWay(read, leaveOut);
  if (blocked) return blocked;
  if (!read.ready) return { text: read.here ? 'All of it is already on this bench' : 'Nothing to import', can: false };
  return { text: `Import ${brews}`, can: true };
}

/** What must be said of a table of scores beside the table itself. */
export type SaidOfScores = { question: string; tasted: string | null };

/** The same for scores, whose table does not say what was asked or how it was tasted. */
export function scoresIn(read: ScoreTableRead, leaveOut: boolean, said: SaidOfScores): Go {
  const blocked = inTheWay(read, leaveOut);
  if (blocked) return blocked;
  if (!read.ready) return { text: read.here ? 'All of it is already on this bench' : 'Nothing to import', can: false };
  if (!said.question.trim()) return { text: 'Say what was asked', can: false };
  if (!said.tasted) return { text: 'Say whether labels were hidden', can: false };
  if (read.amounts_needed.length)
    return { text: `Give the ${read.amounts_needed.map((a) => a.toLowerCase()).join(' and the ')}`, can: false };
  return { text: `Import ${plural(read.ready, 'score')}`, can: true };
}

/** The bytes of a file, or of what was pasted, in base64. */
export function base64Of(bytes: Uint8Array): string {
  let text = '';
  for (let i = 0; i < bytes.length; i += 0x8000) text += String.fromCharCode(...bytes.subarray(i, i + 0x8000));
  return btoa(text);
}
