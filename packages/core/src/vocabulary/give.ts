import type { WordSet } from '../marks/marks';
import { unique, type Term, type Vocabulary } from './term';

/** What frames get by some words. */
export interface Given {
  keywords: string[];
  persons: string[];
}

/** The term that a word stands for, where it stands for one alone. */
const termOf = (vocabulary: Vocabulary, word: string): Term | null => {
  const named = vocabulary.named(word);
  return named.length === 1 ? named[0]! : null;
};

/**
 * What words that are typed as keywords, or as persons, give frames: terms give their other words and those under which they
 * stand; a person is a keyword and a person, whichever it was typed as. What is no term is itself.
 */
export function giveWords(vocabulary: Vocabulary, set: WordSet, words: readonly string[]): Given {
  const terms = words.map((word) => termOf(vocabulary, word));
  const people = terms.flatMap((term) => (term?.kind === 'person' ? [term.word] : []));
  if (set === 'keywords') return { keywords: vocabulary.givenBy(words), persons: unique(people) };
  return {
    keywords: unique(terms.flatMap((term) => (term?.kind === 'person' ? vocabulary.given(term.id) : []))),
    persons: unique(words.map((word, i) => (terms[i]?.kind === 'person' ? terms[i].word : word))),
  };
}

/**
 * Where a frame's keywords stand in the vocabulary, each from the top down: of its terms those under which none of its others
 * stands.
 */
export function treeOf(vocabulary: Vocabulary, keywords: readonly string[]): string[][] {
  const terms = vocabulary.termsOf(keywords);
  const above = new Set(terms.flatMap(({ id }) => vocabulary.ancestors(id).map((one) => one.id)));
  return terms.filter(({ id }) => !above.has(id)).map(({ id }) => vocabulary.path(id));
}

/** What a term that was chosen gives frames. */
export function giveTerm(vocabulary: Vocabulary, { id, word, kind }: Term): Given {
  return { keywords: vocabulary.given(id), persons: kind === 'person' ? [word] : [] };
}
