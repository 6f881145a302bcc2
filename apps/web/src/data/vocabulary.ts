import { TermSearch, Vocabulary, type Term, type TermKind } from '@arkiv/core';
import { useMemo } from 'react';
import type { Api } from './http';
import { useGet } from './useGet';

export interface KnownTerms {
  vocabulary: Vocabulary;
  search: TermSearch;
}

const made = new WeakMap<Api['TermColumnsDto'], KnownTerms>();

/** Columns back to terms, once for each answer. */
export function termsOf(answer: Api['TermColumnsDto']): KnownTerms {
  let known = made.get(answer);
  if (!known) {
    const { id, word, parent, synonyms, kind, number, deliver } = answer.columns;
    const terms = Array.from({ length: answer.count }, (_, i): Term => ({
      id: id![i] as string,
      word: word![i] as string,
      parent: parent![i] as string | null,
      synonyms: JSON.parse(synonyms![i] as string) as string[],
      kind: kind![i] as TermKind,
      number: number![i] as string | null,
      deliver: Boolean(deliver![i]),
    }));
    const vocabulary = new Vocabulary(terms);
    made.set(answer, (known = { vocabulary, search: new TermSearch(vocabulary) }));
  }
  return known;
}

/** The studio's keywords as a tree; null: on their way. */
export function useVocabulary(): { known: KnownTerms | null; error: unknown } {
  const { data, error } = useGet('/vocabulary');
  const known = useMemo(() => (data ? termsOf(data) : null), [data]);
  return { known, error };
}
