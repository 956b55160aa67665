const MONTHS = ['jan', 'feb', 'mar', 'apr', 'may', 'jun', 'jul', 'aug', 'sep', 'oct', 'nov', 'dec'];

const iso = (year: number, month: number, day: number): string | null => {
  const at = new Date(Date.UTC(year, month - 1, day));
  const real = at.getUTCFullYear() === year && at.getUTCMonth() === month - 1 && at.getUTCDate() === day;
  return real ? at.toISOString().slice(0, 10) : null;
};

const near = (today: Date, days: number) => {
  const at = new Date(today.getFullYear(), today.getMonth(), today.getDate() + days);
  return iso(at.getFullYear(), at.getMonth() + 1, at.getDate());
};

const full = (year: string | undefined, today: Date) =>
  year === undefined || year === '' ? today.getFullYear() : year.length === 2 ? 2000 + Number(year) : Number(year);

/** A day as people write it, as YYYY-MM-DD; null when it is none. Day before month, as the words "28 Nov" say. */
export function readDay(text: string, today = new Date()): string | null {
  const said = text.trim().toLowerCase();
  if (said === 'today') return near(today, 0);
  if (said === 'yesterday') return near(today, -1);
  if (said === 'tomorrow') return near(today, 1);
  let m = /^(\d{4})-(\d{1,2})-(\d{1,2})$/.exec(said);
  if (m) return iso(Number(m[1]), Number(m[2]), Number(m[3]));
  m = /^(\d{1,2})[./](\d{1,2})[./]?(\d{2}|\d{4})?$/.exec(said);
  if (m) return iso(full(m[3], today), Number(m[2]), Number(m[1]));
  m = /^(\d{1,2})\.?\s*([a-z]{3,9})\.?\s*(\d{4})?$/.exec(said);
  const month = m ? MONTHS.findIndex((name) => m![2]!.startsWith(name)) : -1;
  return m && month >= 0 ? iso(full(m[3], today), month + 1, Number(m[1])) : null;
}

/** "2026-11-28" → "28 Nov 2026"; anything else as it is. */
export function dayInWords(day: string): string {
  const m = /^(\d{4})-(\d{2})-(\d{2})$/.exec(day);
  if (!m) return day;
  const name = MONTHS[Number(m[2]) - 1];
  return name ? `${Number(m[3])} ${name[0]!.toUpperCase()}${name.slice(1)} ${m[1]}` : day;
}

/** A time of day as people write it ("9", "9:30", "0930", "9.30"), as HH:MM; null when it is none. */
export function readTimeOfDay(text: string): string | null {
  const m = /^(\d{1,2})(?:[:.h]?(\d{2}))?$/.exec(text.trim());
  if (!m || Number(m[1]) > 23 || Number(m[2] ?? 0) > 59) return null;
  return `${m[1]!.padStart(2, '0')}:${m[2] ?? '00'}`;
}
