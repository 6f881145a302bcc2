import { asksWords, saidOf, type Said, type WordCondition } from '../query/words';
import type { Term, Vocabulary } from './term';

/** What words mean in a vocabulary when frames are looked for: a term, its other words, and all that stands below it. */
export class Meanings {
  private readonly said: readonly { term: Term; said: Said }[];

  constructor(private readonly vocabulary: Vocabulary) {
    this.said = vocabulary.terms.map((term) => ({ term, said: saidOf([term.word, ...term.synonyms]) }));
  }

  /**
   * The keywords that are found by a word besides itself. `written`: how frames write a word of the vocabulary, as nobody has to keep
   * to upper and lower case; those that no frame has are left out.
   */
  of(condition: WordCondition, text: string, written: (word: string) => readonly string[]): string[] {
    const says = asksWords(condition, text);
    const ids = new Set<string>();
    for (const { term, said } of this.said)
      if (says(said)) for (const { id } of this.vocabulary.withAllBelow(term.id)) ids.add(id);
    const found = new Set<string>();
    for (const id of ids) {
      const { word, synonyms } = this.vocabulary.get(id)!;
      for (const its of [word, ...synonyms]) for (const one of written(its)) found.add(one);
    }
    return [...found];
  }
}
