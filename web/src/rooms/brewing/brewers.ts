import { BREWER_KINDS } from '../../api/vocabulary';

type Kind = (typeof BREWER_KINDS)[number];

const kindOf = (brewerType: string | null): Kind | undefined => BREWER_KINDS.find((k) => k.code === brewerType);

/** The yield a kind of brewer is usually quoted in. */
export const yieldBasisOf = (brewerType: string | null) => kindOf(brewerType)?.yield_basis ?? 'in_cup';

/** Whether a brew in it may end by a press, with a force and a time. */
export const isPressed = (brewerType: string | null) =>
  (kindOf(brewerType)?.ends as readonly string[] | undefined)?.includes('pressed') ?? false;
