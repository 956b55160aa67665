import { clock, dayAndTime, fixed } from '../../ui/numbers';
import { heat } from '../../ui/units';
import type { Change } from './queries';
import { entityWord } from './words';

/** What was done to a thing, as a sentence goes on after who did it; {x} is the thing. */
const DEEDS: Record<string, string> = {
  create: 'added the {x}',
  update: 'changed the {x}',
  delete: 'deleted the {x}',
  restore: 'brought the {x} back',
  lose_value: 'removed an unreadable value from the {x}',
  declare: 'declared a difference in the {x}',
  take_back: 'took a declaration back in the {x}',
  close: 'closed the {x}',
  flip: 'flipped the {x}',
  correct_marks: 'entered the marks again in the {x}',
  verdict_then: 'noted the verdict before deleting the {x}',
  renew_link: 'made a new link in the {x}',
  withdraw_link: 'withdrew a link in the {x}',
  add_taster: 'seated a taster in the {x}',
  leave: 'left the {x}',
  come_back: 'came back to the {x}',
  open_pass: 'opened a pass in the {x}',
  shuffled: 'shuffled the servers of the {x}',
  read_temperature: 'read a cup’s temperature in the {x}',
  take_back_temperature: 'took a temperature back in the {x}',
  duplicate: 'duplicated the {x}',
  judged_again: 'changed the rule of the verdict after the flip of the {x}',
  hold: 'held a setting equal, which ended a declaration in the {x}',
  host_tastes: 'tastes too, as the host of the {x}',
  open_pour_sheet: 'opened the pour sheet of the {x}',
  host_saw_key: 'saw the pour sheet, as the host of the {x}',
  break_seal: 'broke the seal of the {x}',
};

/** "Odile changed the brew" */
export const deedOf = ({ who, action, entity }: Pick<Change, 'who' | 'action' | 'entity'>): string =>
  `${who ?? 'Somebody without a name'} ${(DEEDS[action] ?? `${action.replaceAll('_', ' ')}: the {x}`).replace('{x}', entityWord(entity))}`;

/** Columns that say nothing to a person: what they stand for is said elsewhere. */
const UNSAID = new Set(['revision_id', 'version_id', 'run_id', 'found', 'asked', 'uuid', 'seq']);

const LABELS: Record<string, string> = {
  liked: 'liking',
  off_plan: 'off plan',
  marked: 'steps as made',
  judged_pass: 'pass judged',
  archived_at: 'put away',
  retired_at: 'retired',
};

type Said = { label: string; say: (value: unknown) => string };

/** A column's name and how its values are said, by the unit at its end. */
function column(name: string): Said {
  const plain = (suffix: string) => LABELS[name] ?? name.slice(0, name.length - suffix.length).replaceAll('_', ' ');
  const number = (unit: string) => (v: unknown) => `${typeof v === 'number' ? Number(fixed(v, 2)) : v} ${unit}`;
  if (name.endsWith('_pct')) return { label: plain('_pct'), say: number('%') };
  if (name.endsWith('_g')) return { label: plain('_g'), say: number('g') };
  if (name.endsWith('_c')) return { label: plain('_c'), say: (v) => (typeof v === 'number' ? heat(v) : String(v)) };
  if (name.endsWith('_s')) return { label: plain('_s'), say: (v) => (typeof v === 'number' ? clock(v) : String(v)) };
  if (name.endsWith('_at')) return { label: plain('_at'), say: (v) => dayAndTime(String(v)) };
  return { label: LABELS[name] ?? name.replaceAll('_', ' '), say: (v) => String(v).replaceAll('_', ' ') };
}

const isEmpty = (v: unknown) => v === undefined || v === null || v === '' || (Array.isArray(v) && v.length === 0);
const isRecord = (v: unknown): v is Record<string, unknown> => typeof v === 'object' && v !== null && !Array.isArray(v);

function sayValue(name: string, value: unknown): string {
  if (isEmpty(value)) return 'nothing';
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if (Array.isArray(value))
    return value
      .map((v) => (isRecord(v) ? sayRecord(v) : Array.isArray(v) ? v.join(' ') : column(name).say(v)))
      .join(', ');
  return isRecord(value) ? sayRecord(value) : column(name).say(value);
}

/** "step done at 1:20", "dose 18 g": what a small record holds. */
function sayRecord(record: Record<string, unknown>): string {
  const { kind, at_s, ...rest } = record;
  const named = Object.entries(rest)
    .filter(([name, v]) => !isEmpty(v) && !UNSAID.has(name))
    .map(([name, v]) => `${column(name).label} ${sayValue(name, v)}`);
  const head = kind === undefined ? [] : [String(kind).replaceAll('_', ' ')];
  const when = at_s === undefined || at_s === null ? '' : ` at ${clock(Number(at_s))}`;
  return `${[...head, ...named].join(' ')}${when}` || 'nothing';
}

const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b);

/** What is different, a line each: "dose: 18 g → 18.4 g"; of a list what came to it and what went. */
export function differencesOf({ action, before, after }: Pick<Change, 'action' | 'before' | 'after'>): string[] {
  if (action === 'create' || action === 'delete') return [];
  return linesOf(before ?? {}, after ?? {}, '');
}

function linesOf(before: Record<string, unknown>, after: Record<string, unknown>, within: string): string[] {
  const names = [...new Set([...Object.keys(before), ...Object.keys(after)])].filter((n) => !UNSAID.has(n));
  return names.flatMap((name) => {
    const [was, is] = [before[name], after[name]];
    const label = within ? `${within}, ${column(name).label}` : column(name).label;
    if (same(was, is)) return [];
    if (isRecord(was) && isRecord(is)) return linesOf(was, is, label);
    if (Array.isArray(was) && Array.isArray(is) && (was.some(isRecord) || is.some(isRecord))) {
      const came = is.filter((x) => !was.some((y) => same(x, y)));
      const went = was.filter((x) => !is.some((y) => same(x, y)));
      return [
        ...(came.length ? [`${label}, new: ${sayValue(name, came)}`] : []),
        ...(went.length ? [`${label}, no more: ${sayValue(name, went)}`] : []),
      ];
    }
    return [`${label}: ${sayValue(name, was)} → ${sayValue(name, is)}`];
  });
}
