import { foldText } from '../query/filter';
import type { Term, Vocabulary } from './term';

/** A term that was found, and by which of its words. */
export interface FoundTerm {
  term: Term;
  /** the synonym that fits; null: its own word does */
  by: string | null;
}

interface Folded {
  term: Term;
  words: readonly string[];
}

/**
 * The terms of a vocabulary by what is typed, without case and accents. Folded once: fifty thousand terms are gone through in
 * some milliseconds at each key then.
 */
export class TermSearch {
  private readonly folded: readonly Folded[];

  constructor(vocabulary: Vocabulary) {
    this.folded = vocabulary.terms.map((term) => ({
      term,
      words: [term.word, ...term.synonyms].map(foldText),
    }));
  }

  /** Those that fit, the best first: begun by what is typed, then with a word of theirs begun by it, then anywhere in them. */
  find(typed: string, most: number): FoundTerm[] {
    const wanted = foldText(typed.trim());
    if (wanted === '') return [];
    const ranks: FoundTerm[][] = [[], [], [], []];
    for (const { term, words } of this.folded) {
      let best = ranks.length;
      let by = 0;
      for (let i = 0; i < words.length && best > 0; i++) {
        const rank = rankOf(words[i]!, wanted);
        if (rank < best) [best, by] = [rank, i];
      }
      if (best < ranks.length) ranks[best]!.push({ term, by: by === 0 ? null : term.synonyms[by - 1]! });
    }
    return ranks.flatMap((found) => found.sort(shorter)).slice(0, most);
  }
}

/** How well a word fits what is typed, 0 the best; 4: not at all. */
function rankOf(word: string, wanted: string): number {
  const at = word.indexOf(wanted);
  if (at < 0) return 4;
  if (at === 0) return word.length === wanted.length ? 0 : 1;
  return /[^\p{L}\p{N}]$/u.test(word.slice(0, at)) ? 2 : 3;
}

const shorter = (a: FoundTerm, b: FoundTerm): number =>
  a.term.word.length - b.term.word.length || (a.term.word < b.term.word ? -1 : 1);
