import type { ColumnMeaning, TableRead } from './queries';

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

/** How the button says what it will do. */
export function bringsIn(read: TableRead, leaveOut: boolean): { text: string; can: boolean } {
  const brews = `${read.ready} brew${read.ready === 1 ? '' : 's'}`;
  if (read.missing.length) return { text: `Choose the column for ${read.missing.join(' and ')}`, can: false };
  if (read.fault_count && !leaveOut) return { text: 'Fix the errors first', can: false };
  if (!read.ready) return { text: read.here ? 'All of it is already on this bench' : 'Nothing to import', can: false };
  return { text: `Import ${brews}`, can: true };
}

/** The bytes of a file, or of what was pasted, in base64. */
export function base64Of(bytes: Uint8Array): string {
  let text = '';
  for (let i = 0; i < bytes.length; i += 0x8000) text += String.fromCharCode(...bytes.subarray(i, i + 0x8000));
  return btoa(text);
}
