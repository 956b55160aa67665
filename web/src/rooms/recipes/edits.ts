import { STEPS } from '../../api/vocabulary';
import type { GrindSettingDocument, RecipeDocument, StepDocument, StepKind, TimedStep } from './queries';

/** Changes of a document while it is written. Nothing here judges a recipe: the bench checks each state of it. */

export const stepsOf = (doc: RecipeDocument): StepDocument[] => doc.steps ?? [];

export const grindsOf = (doc: RecipeDocument): GrindSettingDocument[] => doc.grinds ?? [];

export function withGrind(doc: RecipeDocument, index: number, change: Partial<GrindSettingDocument>): RecipeDocument {
  return { ...doc, grinds: grindsOf(doc).map((g, i) => (i === index ? { ...g, ...change } : g)) };
}

/** The words a setting came with stay beside its link. */
export const linkGrind = (doc: RecipeDocument, index: number, dial_id: string) => withGrind(doc, index, { dial_id });

export function withoutGrind(doc: RecipeDocument, index: number): RecipeDocument {
  return { ...doc, grinds: grindsOf(doc).filter((_, i) => i !== index) };
}

export function withStep(doc: RecipeDocument, index: number, change: Partial<StepDocument>): RecipeDocument {
  return { ...doc, steps: stepsOf(doc).map((s, i) => (i === index ? tidy({ ...s, ...change }) : s)) };
}

/** Empty values are left out, so that two documents saying the same are the same. */
function tidy(step: StepDocument): StepDocument {
  const kept = Object.entries(step).filter(([, v]) => v !== null && v !== undefined && v !== '' && v !== false);
  return Object.fromEntries(kept) as StepDocument;
}

export const tidyDocument = (doc: RecipeDocument): RecipeDocument => ({ ...doc, steps: stepsOf(doc).map(tidy) });

export function insertStep(doc: RecipeDocument, at: number, step: StepDocument): RecipeDocument {
  const steps = [...stepsOf(doc)];
  steps.splice(at, 0, step);
  return { ...doc, steps };
}

export function removeStep(doc: RecipeDocument, index: number): RecipeDocument {
  return { ...doc, steps: stepsOf(doc).filter((_, i) => i !== index) };
}

export function moveStep(doc: RecipeDocument, index: number, by: -1 | 1): RecipeDocument {
  const steps = [...stepsOf(doc)];
  const to = index + by;
  if (to < 0 || to >= steps.length) return doc;
  [steps[index], steps[to]] = [steps[to]!, steps[index]!];
  return { ...doc, steps };
}

/** A step of another kind keeps what still applies to it. */
export function withKind(doc: RecipeDocument, index: number, kind: StepKind): RecipeDocument {
  const old = stepsOf(doc)[index]!;
  const next: StepDocument = {
    kind,
    start_cue: old.start_cue,
    cue: old.cue,
    note: old.note,
    start_s: old.start_s,
    duration_s: old.duration_s,
    end_s: old.end_s,
  };
  if (takes(kind, 'water')) Object.assign(next, { to_g: old.to_g, add_g: old.add_g });
  if (takes(kind, 'where')) next.where = old.where;
  if (takes(kind, 'count')) next.count = old.count;
  if (takes(kind, 'heat')) next.temperature_c = old.temperature_c;
  return withStep(doc, index, { ...blank(old), ...next });
}

/** What is seen when a step begins and ends, and its note, as one line that reads back as itself. */
export function seenText(step: StepDocument): string {
  return [step.start_cue && `once ${step.start_cue}`, step.cue && `until ${step.cue}`, step.note]
    .filter(Boolean)
    .join('; ');
}

/** Once … begins a step, until … ends it; everything else is a note and stays one. */
export function seenOf(text: string): Pick<StepDocument, 'start_cue' | 'cue' | 'note'> {
  const found = { start_cue: '', cue: '', note: '' };
  const notes: string[] = [];
  for (const part of text.split(';').map((p) => p.trim())) {
    const said = /^(once|until)\s+(.+)$/i.exec(part);
    if (said) found[said[1]!.toLowerCase() === 'once' ? 'start_cue' : 'cue'] = said[2]!;
    else if (part) notes.push(part);
  }
  return { ...found, note: notes.join('; ') };
}

const blank = (step: StepDocument): Partial<StepDocument> =>
  Object.fromEntries(Object.keys(step).map((k) => [k, undefined])) as Partial<StepDocument>;

export type Taken = 'water' | 'where' | 'count' | 'heat' | 'reading';

/** What the table asks of a kind of step, beside its times. */
export function takes(kind: StepKind, what: Taken): boolean {
  return STEPS.some((s) => s.code === kind && (s.takes as readonly string[]).includes(what));
}

/** A pour dragged or nudged: its reading by g, its start and end by s. Times become explicit. */
export function moved(
  doc: RecipeDocument,
  timed: TimedStep,
  by: { g: number; start_s: number; end_s: number },
): RecipeDocument {
  const step = stepsOf(doc)[timed.index]!;
  const change: Partial<StepDocument> = {};
  if (by.g) {
    if (step.to_g != null) change.to_g = Math.max(0, step.to_g + by.g);
    else change.add_g = Math.max(0, (step.add_g ?? 0) + by.g);
    change.rest = false;
  }
  if (by.start_s || by.end_s) {
    const start = Math.max(0, Math.round(timed.start_s) + by.start_s);
    const end = Math.max(start + 1, Math.round(timed.end_s) + by.end_s);
    const first = timed.start_s <= 0 && step.start_s == null;
    Object.assign(
      change,
      first ? { duration_s: end, end_s: null } : { start_s: start, end_s: null, duration_s: end - start },
    );
  }
  return withStep(doc, timed.index, change);
}
