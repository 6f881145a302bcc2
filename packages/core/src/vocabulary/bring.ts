import { keywordKey } from '../description/keywords';
import type { BroughtTerm } from './indented';
import { unique, type Term } from './term';

/** What bringing terms in would do. */
export interface Brought {
  terms: Term[];
  added: number;
  /** terms that were there and learned synonyms, or another kind */
  changed: number;
}

/** Terms with those that are brought in: one that stands at the same place already stays, and learns what it did not know. */
export function bringTerms(
  terms: readonly Term[],
  brought: readonly BroughtTerm[],
  newId: () => string,
): Brought {
  const next = new Map(terms.map((term) => [term.id, term]));
  const at = new Map<string, string>();
  const key = (parent: string | null, word: string) => `${parent ?? ''} ${keywordKey(word)}`;
  for (const { id, parent, word } of terms) at.set(key(parent, word), id);
  const added = new Set<string>();
  const changed = new Set<string>();
  for (const { path, synonyms, kind, number, deliver } of brought) {
    let parent: string | null = null;
    for (const [i, word] of path.entries()) {
      const there: string | undefined = at.get(key(parent, word));
      const last = i === path.length - 1;
      if (there === undefined) {
        const id = newId();
        next.set(id, {
          ...{ id, word, parent, deliver: last ? deliver : true, number: last ? number : null },
          synonyms: last ? unique(synonyms) : [],
          kind: (last ? kind : null) ?? (parent === null ? 'subject' : next.get(parent)!.kind),
        });
        at.set(key(parent, word), id);
        added.add(id);
        parent = id;
        continue;
      }
      if (last) {
        const its = next.get(there)!;
        const learned = unique([...its.synonyms, ...synonyms]);
        const now = {
          ...{ ...its, synonyms: learned, kind: kind ?? its.kind, number: number ?? its.number },
          deliver: its.deliver && deliver,
        };
        if (
          learned.length !== its.synonyms.length ||
          now.kind !== its.kind ||
          now.number !== its.number ||
          now.deliver !== its.deliver
        ) {
          next.set(there, now);
          if (!added.has(there)) changed.add(there);
        }
      }
      parent = there;
    }
  }
  return { terms: [...next.values()], added: added.size, changed: changed.size };
}
