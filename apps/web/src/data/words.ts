import {
  giveWords,
  keywordsOf,
  type Vocabulary,
  saidIn,
  joinedKeywords,
  keywordKey,
  keywordKind,
  keywordsIn,
  personKind,
  type MarkKind,
  type MarkValue,
  type Marks,
} from '@arkiv/core';

/** What frames have of caption and keywords. */
export type Worded = Pick<Marks, 'caption' | 'keywords'>;

/** A keyword among some frames. */
export interface KeywordOf {
  word: string;
  /** how many of them have it */
  frames: number;
}

/** What is said of some frames, as it is shown before it is changed. */
export interface WordsOf {
  keywords: readonly KeywordOf[];
  /** the caption of all of them; null: none has one, or they differ */
  caption: string | null;
  /** in how many frames the caption is another than in the first; 0: it is the same in all */
  different: number;
}

/** What is in sets of words as frames keep them, in the order in which they come, each with how many have it. */
export function wordsIn(sets: readonly string[]): KeywordOf[] {
  const found = new Map<string, KeywordOf>();
  for (const set of sets)
    for (const word of keywordsIn(set)) {
      const known = found.get(keywordKey(word));
      found.set(keywordKey(word), { word: known?.word ?? word, frames: (known?.frames ?? 0) + 1 });
    }
  return [...found.values()];
}

/** What some frames have in common, keywords in the order in which they come. */
export function wordsOf(frames: readonly Worded[]): WordsOf {
  const [first] = frames;
  const different = frames.filter(({ caption }) => caption !== first?.caption).length;
  return {
    keywords: wordsIn(frames.map(({ keywords }) => keywords)),
    caption: different === 0 ? (first?.caption ?? null) : null,
    different,
  };
}

/** What somebody wants to be said. */
export interface WordsWish {
  /** given to all, as they were typed: parted by commas */
  typed: string;
  /** taken from all that have them */
  off: readonly string[];
  /** given to all that lack them */
  on: readonly string[];
  /** the caption as it was typed; null: each keeps its own */
  caption: string | null;
  /** said to be shown */
  persons?: readonly string[];
}

/** What is wanted, with what the vocabulary gives beside it. */
export function withTerms(wish: WordsWish, vocabulary: Vocabulary): WordsWish {
  const { keywords, persons } = giveWords(vocabulary, 'keywords', keywordsOf(wish.typed));
  return { ...wish, typed: keywords.join(','), persons };
}

/** The changes that say so; what a frame has already is left out by whoever applies them. */
export function wordChanges(
  ids: readonly string[],
  { typed, off, on, caption, persons = [] }: WordsWish,
): { id: string; field: MarkKind; to: MarkValue }[] {
  const given = keywordsIn(joinedKeywords([...on, ...typed.split(/[,;\n]/)]));
  return ids.flatMap((id) => [
    ...off.map((word) => ({ id, field: keywordKind(word), to: false })),
    ...given.map((word) => ({ id, field: keywordKind(word), to: true })),
    ...persons.map((person) => ({ id, field: personKind(person), to: true })),
    ...(caption === null ? [] : [{ id, field: 'caption' as const, to: saidIn(caption) }]),
  ]);
}

/** Keywords that go on with what is typed last, the most frequent first, without those that are there already. */
export function suggested(
  typed: string,
  known: readonly KeywordOf[],
  taken: readonly string[],
  most: number,
): string[] {
  const begun = typed.split(/[,;]/).at(-1)!.trim().toLowerCase();
  const there = new Set([...taken, ...typed.split(/[,;]/)].map((word) => word.trim().toLowerCase()));
  return known
    .filter(({ word }) => !there.has(word.toLowerCase()) && word.toLowerCase().includes(begun))
    .sort((a, b) => starts(b, begun) - starts(a, begun) || b.frames - a.frames || (a.word < b.word ? -1 : 1))
    .slice(0, most)
    .map(({ word }) => word);
}

const starts = ({ word }: KeywordOf, begun: string): number => Number(word.toLowerCase().startsWith(begun));

/** What is typed, with the last word of it put in whole. */
export const withSuggested = (typed: string, word: string): string =>
  [
    ...typed
      .split(/[,;]/)
      .slice(0, -1)
      .map((part) => part.trim()),
    word,
    '',
  ]
    .join(', ')
    .replace(/^, /, '');
