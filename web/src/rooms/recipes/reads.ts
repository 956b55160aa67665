import { localRefusal, secondsOf } from '../../ui/fields';
import { readNumber } from '../../ui/numbers';
import { celsiusTyped } from '../../ui/units';
import { type RecipeDocument, readText } from './queries';

/** What was typed in a cell, as a number; null when emptied. Throws a Refused with the reason. */
export type Reader = (text: string) => Promise<number | null>;

export const readGrams: Reader = async (text) => plain(text.replace(/\s*g$/i, ''), 'Write grams, such as 45 or 45.5.');

export const readTime: Reader = (text) => secondsOf(text);

export const readCount: Reader = async (text) => {
  const count = plain(text.replace(/\s*[×x]$/i, ''), 'Write how many times, such as 3.');
  return count === null ? null : Math.max(1, Math.round(count));
};

/** 93, 93 °C or 200 F; a bare number is in the bench's unit. */
export const readHeat: Reader = async (text) => plain(celsiusTyped(text), 'Write 93, 93 C or 200 F.');

/** 16, 1:16, 62.5 g/L or 6.25 g per 100 g. */
export const readRatio: Reader = (text) => loose(text, text, 'brew_ratio', 'Write 1:16, 62.5 g/L or 6.25 g/100g.');

function plain(text: string, remedy: string): number | null {
  const read = readNumber(text);
  if (read.kind === 'empty') return null;
  if (read.kind === 'number') return read.value;
  throw localRefusal('cell', 'this is not a number.', remedy);
}

async function loose(text: string, sent: string, field: 'brew_ratio', remedy: string) {
  if (readNumber(text).kind !== 'bad') return plain(text, remedy);
  const got = await readText(sent);
  const value = (got.document as RecipeDocument)[field];
  if (value == null || got.not_understood.length) throw localRefusal('cell', 'this was not understood.', remedy);
  return value;
}
