import { BLINDINGS, FACTOR_KINDS, KIT_KINDS, PURPOSES, YIELD_BASES } from './vocabulary';

/** How the bench's codes are called: every label comes from the core's own lists. */
type Coded = readonly { readonly code: string; readonly label: string }[];

export const labelOf = (list: Coded, code: string | null | undefined): string =>
  list.find((x) => x.code === code)?.label ?? code ?? '';

/** For a choice of one. */
export const optionsOf = <T extends Coded>(list: T): { value: T[number]['code']; label: string }[] =>
  list.map((x) => ({ value: x.code, label: x.label }));

export const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

export const FACTORS = Object.fromEntries(FACTOR_KINDS.map((f) => [f.code, f.asked])) as Record<
  (typeof FACTOR_KINDS)[number]['code'],
  string
>;
export const FACTOR_ORDER = FACTOR_KINDS.map((f) => f.code);
export const isEquipment = (codes: readonly string[]) =>
  FACTOR_KINDS.some((f) => f.equipment && codes.includes(f.code));
/** Questions whose cups differ in strength by what is asked: never matched in it. */
export const hasOwnStrength = (codes: readonly string[]) =>
  FACTOR_KINDS.some((f) => f.own_strength && codes.includes(f.code));
export const yieldOptions = optionsOf(YIELD_BASES);
/** How a flight was tasted: whether in sight of the labels, and whether that is known by word only. */
export const blindingOf = (code: string) => BLINDINGS.find((b) => b.code === code);
export const purposeLabel = (code: string) => labelOf(PURPOSES, code);
/** Kinds of kit as they are listed; burr sets stand with their grinders. */
export const LISTED_KITS = KIT_KINDS.filter((k) => k.code !== 'burr_set');
