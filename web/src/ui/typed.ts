import { Refused } from '../api/refused';
import { readNumber } from './numbers';

/** The number typed, null when empty; throws a Refused naming the field when it is not a number. */
export function numberOf(field: string, text: string): number | null {
  const read = readNumber(text);
  if (read.kind === 'empty') return null;
  if (read.kind === 'number') return read.value;
  throw localRefusal(field, 'this is not a number.', 'Write digits with one decimal point, such as 1.42.');
}

/** A refusal made here, of the same kind as the bench's own, so that it shows at its field. */
export function localRefusal(field: string, reason: string, remedy: string): Refused {
  return new Refused(422, {
    type: 'about:blank',
    title: 'Some of this cannot be right',
    status: 422,
    detail: reason,
    errors: [{ field, reason, remedy }],
    current: null,
    yours: null,
  });
}
