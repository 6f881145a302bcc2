import { foldText } from '../query/folding';
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
 * The terms of a vocabulary by what is typed, without case and accents. Folded and put in order once, the short ones first: fifty
 * thousand terms are gone through in some milliseconds at each key then, and nothing is sorted.
 */
export class TermSearch {
  private readonly folded: readonly Folded[];

  constructor(vocabulary: Vocabulary) {
    this.folded = [...vocabulary.terms].sort(shorter).map((term) => ({
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
      if (best === ranks.length || ranks[best]!.length === most) continue;
      ranks[best]!.push({ term, by: by === 0 ? null : term.synonyms[by - 1]! });
      // Nothing that is less well begun comes before these.
      if (ranks[1]!.length === most) break;
    }
    return ranks.flat().slice(0, most);
  }
}

const PART_OF_WORD = /[\p{L}\p{N}]/u;

/** How well a word fits what is typed, 0 the best; 4: not at all. */
function rankOf(word: string, wanted: string): number {
  const at = word.indexOf(wanted);
  if (at < 0) return 4;
  if (at === 0) return word.length === wanted.length ? 0 : 1;
  return PART_OF_WORD.test(word[at - 1]!) ? 3 : 2;
}

const shorter = (a: Term, b: Term): number =>
  a.word.length - b.word.length || (a.word < b.word ? -1 : a.word > b.word ? 1 : 0);
