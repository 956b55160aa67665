export type Column<T> = { head: string; of: (row: T) => string | number };
export type Rows<T> = { rows: T[]; columns: Column<T>[] };

/** A lone number stays one; whatever else begins like a formula does not. */
const NUMBER = /^[+-]?\d+(\.\d+)?(e[+-]?\d+)?$/i;

/** The table as a file. */
export function csvOf<T>({ rows, columns }: Rows<T>): string {
  const cell = (value: string | number) => {
    const text = String(value);
    // A cell that begins like a formula is written so that no program runs it.
    const safe = /^[=+\-@\t\r]/.test(text) && !NUMBER.test(text) ? `'${text}` : text;
    return /[",\n\r]/.test(safe) ? `"${safe.replaceAll('"', '""')}"` : safe;
  };
  return [columns.map((c) => cell(c.head)), ...rows.map((row) => columns.map((c) => cell(c.of(row))))]
    .map((line) => `${line.join(',')}\n`)
    .join('');
}
