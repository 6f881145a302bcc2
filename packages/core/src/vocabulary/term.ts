import { isKeyword, keywordKey } from '../description/keywords';

/** What a term is about. */
export const TERM_KINDS = ['subject', 'person', 'place', 'event'] as const;
export type TermKind = (typeof TERM_KINDS)[number];

/** A keyword in the studio's vocabulary. */
export interface Term {
  /** a ULID */
  id: string;
  /** as frames bear it; among the terms under one parent each word stands once */
  word: string;
  /** id of the term that it stands under; null: at the top */
  parent: string | null;
  /** other words for it, which frames get beside it */
  synonyms: readonly string[];
  kind: TermKind;
  /** on the numbered list of the term above it, as on a shirt; null: on none */
  number: string | null;
  /** whether it goes into what is delivered; false: it only orders the tree, or is nobody else's business */
  deliver: boolean;
}

/** Terms under which one stands: far more than anybody looks through. */
export const MOST_LEVELS = 20;
/** Terms of one vocabulary: twice what was measured. */
export const MOST_TERMS = 100_000;
const MOST_SYNONYMS = 100;

/** Whether a value from outside can be a term. */
export function isTerm(value: unknown): value is Term {
  if (typeof value !== 'object' || value === null) return false;
  const { id, word, parent, synonyms, kind, number, deliver } = value as Partial<Term>;
  return (
    typeof id === 'string' &&
    isKeyword(word) &&
    (parent === null || typeof parent === 'string') &&
    Array.isArray(synonyms) &&
    synonyms.length <= MOST_SYNONYMS &&
    synonyms.every(isKeyword) &&
    TERM_KINDS.includes(kind as TermKind) &&
    (number === null || (typeof number === 'string' && number !== '')) &&
    typeof deliver === 'boolean'
  );
}

/** Terms as a tree, read many times and never changed: what changes it makes another one. */
export class Vocabulary {
  private readonly byId = new Map<string, Term>();
  private readonly below = new Map<string | null, Term[]>();
  /** by word without regard to case: those called so, and those that have it as a synonym */
  private readonly called = new Map<string, Term[]>();

  constructor(readonly terms: readonly Term[]) {
    for (const term of terms) this.byId.set(term.id, term);
    for (const term of terms) {
      // A term whose parent is gone stands at the top.
      const parent = term.parent !== null && this.byId.has(term.parent) ? term.parent : null;
      push(this.below, parent, term);
      push(this.called, keywordKey(term.word), term);
      for (const synonym of term.synonyms) push(this.called, keywordKey(synonym), term);
    }
    for (const list of this.below.values()) list.sort(byWord);
  }

  get(id: string): Term | null {
    return this.byId.get(id) ?? null;
  }

  /** What stands under a term, or at the top, in the order of their words. */
  children(id: string | null): readonly Term[] {
    return this.below.get(id) ?? [];
  }

  /** The terms under which one stands, the nearest first. */
  ancestors(id: string): Term[] {
    const found: Term[] = [];
    for (let at = this.above(id); at && found.length < MOST_LEVELS; at = this.above(at.id)) found.push(at);
    return found;
  }

  /** The words from the top down to a term. */
  path(id: string): string[] {
    const term = this.byId.get(id);
    return term
      ? [
          ...this.ancestors(id)
            .map(({ word }) => word)
            .reverse(),
          term.word,
        ]
      : [];
  }

  /** A term and all that stands under it, each before what is under it. */
  withAllBelow(id: string): Term[] {
    const found: Term[] = [];
    const visit = (term: Term, depth: number) => {
      found.push(term);
      if (depth < MOST_LEVELS) for (const child of this.children(term.id)) visit(child, depth + 1);
    };
    const term = this.byId.get(id);
    if (term) visit(term, 0);
    return found;
  }

  /** Terms that a word stands for: called so themselves before those that have it as a synonym. */
  named(word: string): readonly Term[] {
    const key = keywordKey(word);
    const found = this.called.get(key) ?? [];
    return [...found].sort((a, b) => Number(keywordKey(b.word) === key) - Number(keywordKey(a.word) === key));
  }

  /** The words that choosing a term gives a frame: it, its other words, and those under which it stands, the nearest first. */
  given(id: string): string[] {
    const term = this.byId.get(id);
    if (!term) return [];
    return unique([term.word, ...term.synonyms, ...this.ancestors(id).map(({ word }) => word)]);
  }

  /** What typed words come to: each that is a term's alone gives what the term gives, the others themselves. */
  givenBy(words: readonly string[]): string[] {
    return unique(
      words.flatMap((word) => {
        const found = this.named(word);
        return found.length === 1 ? [...this.given(found[0]!.id), word] : [word];
      }),
    );
  }

  /**
   * The terms that a frame's keywords are, told by their words: where several are called alike, those whose ancestors the
   * frame has too.
   */
  termsOf(keywords: readonly string[]): Term[] {
    const has = new Set(keywords.map(keywordKey));
    return keywords.flatMap((word) => {
      const called = (this.called.get(keywordKey(word)) ?? []).filter(
        (term) => keywordKey(term.word) === keywordKey(word),
      );
      if (called.length < 2) return called;
      const fitting = called.filter(({ id }) =>
        this.ancestors(id).every((one) => has.has(keywordKey(one.word))),
      );
      return fitting.length > 0 ? fitting : [];
    });
  }

  private above(id: string): Term | undefined {
    const parent = this.byId.get(id)?.parent ?? null;
    return parent === null ? undefined : this.byId.get(parent);
  }
}

const collator = new Intl.Collator('en', { numeric: true, sensitivity: 'base' });
const byWord = (a: Term, b: Term): number => collator.compare(a.word, b.word) || (a.id < b.id ? -1 : 1);

function push<K>(map: Map<K, Term[]>, key: K, term: Term): void {
  const list = map.get(key);
  if (list) list.push(term);
  else map.set(key, [term]);
}

/** Each word once, as it comes first, without regard to case. */
export function unique(words: readonly string[]): string[] {
  const seen = new Set<string>();
  return words.filter((word) => {
    const key = keywordKey(word);
    return !seen.has(key) && seen.add(key) !== undefined;
  });
}
