import { PASSES } from '../../api/vocabulary';
import type { Again, LikingBody } from './queries';

export const LIKINGS = [1, 2, 3, 4, 5, 6, 7, 8, 9] as const;

/** When it was liked: of the whole brew, or while it cools. */
export const WHENS = [
  { code: '', label: 'the brew' },
  ...PASSES.map((p) => ({ code: p.code, label: p.label.toLowerCase() })),
];

type ByPass = NonNullable<LikingBody['by_pass']>;

/** The liking of one pass set, or taken away when it is touched again. */
export function withLiking(a: Pick<Again, 'by_pass' | 'words'>, when: string, liking: number): LikingBody {
  const by_pass = { ...a.by_pass } as Record<string, number | null>;
  if (by_pass[when] === liking) delete by_pass[when];
  else by_pass[when] = liking;
  return { by_pass: by_pass as ByPass, words: a.words };
}

/** A word touched: there, or gone again. */
export const withWord = (a: Pick<Again, 'by_pass' | 'words'>, word: string): LikingBody => ({
  by_pass: a.by_pass as ByPass,
  words: a.words.includes(word) ? a.words.filter((w) => w !== word) : [...a.words, word],
});

/** How it was liked, in a few words; empty when nobody said. */
export function likedSaid(a: Pick<Again, 'by_pass' | 'words'>): string {
  const said = WHENS.flatMap((w) =>
    a.by_pass[w.code] === undefined ? [] : [`${w.code && `${w.label} `}${a.by_pass[w.code]}`],
  );
  return [said.length ? `liked ${said.join(', ')} of 9` : '', a.words.join(', ')].filter(Boolean).join(' · ');
}
