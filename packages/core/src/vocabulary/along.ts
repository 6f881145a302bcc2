import { keywordKey } from '../description/keywords';
import type { BroughtTerm } from './indented';
import type { Term, Vocabulary } from './term';

/**
 * What another archive's vocabulary says of keywords that come with its pictures and that nothing here is called: their places, their
 * other words, what they are, and the same of terms above them that do not stand here yet. What stands here stays as it is.
 */
export function termsAlong(theirs: Vocabulary, here: Vocabulary, keywords: readonly string[]): BroughtTerm[] {
  const wanted = new Set(keywords.filter((word) => here.named(word).length === 0).map(keywordKey));
  const placed = new Set(here.terms.map(({ id }) => placeOf(here.path(id))));
  const along = new Map<string, Term>();
  for (const term of theirs.termsOf(keywords)) {
    if (!wanted.has(keywordKey(term.word))) continue;
    for (const one of [term, ...theirs.ancestors(term.id)])
      if (!placed.has(placeOf(theirs.path(one.id)))) along.set(one.id, one);
  }
  const brought = [...along.values()].map(({ id, synonyms, kind, number, deliver }) => ({
    ...{ path: theirs.path(id), synonyms, kind, number, deliver },
  }));
  // What stands above comes first, so that it comes with what it is.
  return brought.sort((a, b) => a.path.length - b.path.length);
}

const placeOf = (path: readonly string[]): string => path.map(keywordKey).join('\n');
