/** Kinds of row as people call them, where the bench's own name is not theirs. */
const ENTITY_WORDS: Record<string, string> = {
  run: 'brew',
  live_brew: 'brew being made',
  kit_item: 'piece of kit',
  matched_setting: 'matched setting',
  sieve_sample: 'sieve sample',
  grinder_dose: 'dose',
  filter_test: 'filter test',
  stock_entry: 'stock',
  run_sheet: 'run sheet',
  instrument_check: 'check of an instrument',
};

export const entityWord = (entity: string) => ENTITY_WORDS[entity] ?? entity;

/** What something that was deleted was called; what has no name goes by its kind. */
export function deletedName({ entity, before }: { entity: string; before: Record<string, unknown> | null }): string {
  const named = before?.question ?? before?.name;
  if (named) return String(named);
  const word = entityWord(entity);
  return `A ${word}`;
}
