import { hasKeyword, isKeyword, keywordKey } from '../description/keywords';
import { keywordKind, type KeywordKind } from '../marks/marks';
import { isRosterNumber, type RosterEntry } from './roster';
import { MOST_LEVELS, MOST_TERMS, unique, Vocabulary, type Term, type TermKind } from './term';

/** What can be done to a vocabulary. */
export type TermChange =
  | { do: 'add'; word: string; parent: string | null; kind: TermKind }
  | { do: 'set'; id: string; synonyms: readonly string[]; kind: TermKind; deliver: boolean }
  /** the numbered list under it, as a whole */
  | { do: 'roster'; id: string; entries: readonly RosterEntry[] }
  | { do: 'rename'; id: string; word: string }
  | { do: 'move'; id: string; parent: string | null }
  /** one that is another's too: frames get the other, what stands under it comes under the other */
  | { do: 'join'; id: string; into: string }
  /** one that is several: frames get all of them */
  | { do: 'split'; id: string; words: readonly string[] }
  /** goes, what stands under it comes to where it stood; `frames`: it is taken off frames too */
  | { do: 'remove'; id: string; frames: boolean };

export type ChangeResult = { ok: true; terms: Term[] } | { ok: false; problem: string };

const no = (problem: string): ChangeResult => ({ ok: false, problem });

/** The terms after a change, or why it cannot be. */
export function changeTerms(terms: readonly Term[], change: TermChange, newId: () => string): ChangeResult {
  const vocabulary = new Vocabulary(terms);
  const its = 'id' in change ? vocabulary.get(change.id) : null;
  if ('id' in change && !its) return no('The term is not in the vocabulary any more.');
  const put = (...changed: readonly Term[]): ChangeResult => {
    const byId = new Map(changed.map((term) => [term.id, term]));
    const next = terms.map((term) => byId.get(term.id) ?? term);
    for (const term of changed) if (!vocabulary.get(term.id)) next.push(term);
    return next.length > MOST_TERMS
      ? no(`A vocabulary holds at most ${MOST_TERMS} terms.`)
      : { ok: true, terms: next };
  };
  const taken = (word: string, parent: string | null, but?: string): boolean =>
    vocabulary.children(parent).some((one) => one.id !== but && keywordKey(one.word) === keywordKey(word));
  const where = (parent: string | null) =>
    parent === null ? 'at the top' : `under “${vocabulary.get(parent)?.word ?? ''}”`;
  switch (change.do) {
    case 'add': {
      const { word, parent, kind } = change;
      if (!isKeyword(word)) return no('A term is one line of text that says something.');
      if (parent !== null && !vocabulary.get(parent)) return no('What it was to stand under is gone.');
      if (parent !== null && vocabulary.ancestors(parent).length + 2 > MOST_LEVELS)
        return no(`Terms stand at most ${MOST_LEVELS} levels deep.`);
      if (taken(word, parent)) return no(`“${word}” stands ${where(parent)} already.`);
      return put({ id: newId(), word, parent, kind, synonyms: [], number: null, deliver: true });
    }
    case 'set': {
      const { kind, deliver } = change;
      const synonyms = unique(change.synonyms).filter((word) => keywordKey(word) !== keywordKey(its!.word));
      if (!synonyms.every(isKeyword)) return no('A synonym is one line of text that says something.');
      return put({ ...its!, synonyms, kind, deliver });
    }
    case 'roster': {
      const wrong = change.entries.find(({ number, word }) => !isRosterNumber(number) || !isKeyword(word));
      if (wrong) return no(`“${wrong.number} ${wrong.word}” is no number with a name.`);
      const numbers = new Map(change.entries.map(({ number, word }) => [keywordKey(word), number]));
      const there = vocabulary.children(its!.id);
      const known = new Set(there.map(({ word }) => keywordKey(word)));
      return put(
        ...there.map((term): Term => {
          const number = numbers.get(keywordKey(term.word)) ?? null;
          return number === term.number
            ? term
            : { ...term, number, kind: number === null ? term.kind : 'person' };
        }),
        ...change.entries
          .filter(({ word }) => !known.has(keywordKey(word)))
          .map(({ number, word }): Term => ({
            ...{ id: newId(), word, number, parent: its!.id },
            ...{ kind: 'person', synonyms: [], deliver: true },
          })),
      );
    }
    case 'rename':
      if (!isKeyword(change.word)) return no('A term is one line of text that says something.');
      if (taken(change.word, its!.parent, its!.id))
        return no(`“${change.word}” stands ${where(its!.parent)} already: join the two instead.`);
      return put({
        ...its!,
        word: change.word,
        synonyms: its!.synonyms.filter((word) => keywordKey(word) !== keywordKey(change.word)),
      });
    case 'move': {
      const { parent } = change;
      if (parent !== null && !vocabulary.get(parent)) return no('What it was to stand under is gone.');
      if (parent !== null && vocabulary.withAllBelow(its!.id).some(({ id }) => id === parent))
        return no(`“${its!.word}” cannot stand under itself.`);
      if (taken(its!.word, parent, its!.id))
        return no(`“${its!.word}” stands ${where(parent)} already: join the two instead.`);
      const depth = Math.max(
        ...vocabulary.withAllBelow(its!.id).map(({ id }) => vocabulary.ancestors(id).length),
      );
      const own = vocabulary.ancestors(its!.id).length;
      if (parent !== null && vocabulary.ancestors(parent).length + 2 + depth - own > MOST_LEVELS)
        return no(`Terms stand at most ${MOST_LEVELS} levels deep.`);
      return put({ ...its!, parent });
    }
    case 'join': {
      const into = vocabulary.get(change.into);
      if (!into || into.id === its!.id) return no('Join a term with another one.');
      if (vocabulary.withAllBelow(its!.id).some(({ id }) => id === into.id))
        return no(`“${into.word}” stands under “${its!.word}”: move it out first.`);
      const clash = vocabulary.children(its!.id).find((child) => taken(child.word, into.id, its!.id));
      if (clash) return no(`“${clash.word}” stands under both: join these two first.`);
      const moved = vocabulary.children(its!.id).map((child) => ({ ...child, parent: into.id }));
      return without(put(...moved), its!.id);
    }
    case 'split': {
      const words = unique(change.words);
      if (words.length < 2 || !words.every(isKeyword)) return no('Name two or more words that it becomes.');
      const kept = words.find((word) => keywordKey(word) === keywordKey(its!.word)) ?? words[0]!;
      const others = words.filter((word) => word !== kept);
      const clash = words.find((word) => taken(word, its!.parent, its!.id));
      if (clash) return no(`“${clash}” stands ${where(its!.parent)} already.`);
      return put(
        { ...its!, word: kept },
        ...others.map((word) => ({ ...its!, id: newId(), word, synonyms: [], number: null })),
      );
    }
    case 'remove': {
      const clash = vocabulary.children(its!.id).find((child) => taken(child.word, its!.parent, its!.id));
      if (clash) return no(`“${clash.word}” stands ${where(its!.parent)} already: join the two first.`);
      const lifted = vocabulary.children(its!.id).map((child) => ({ ...child, parent: its!.parent }));
      return without(put(...lifted), its!.id);
    }
  }
}

const without = (result: ChangeResult, id: string): ChangeResult =>
  result.ok ? { ok: true, terms: result.terms.filter((term) => term.id !== id) } : result;

/** The word by which frames are found that a change is about; null: it is about none. */
export function changedWord(vocabulary: Vocabulary, change: TermChange): string | null {
  if (
    ['add', 'set', 'roster'].includes(change.do) ||
    !('id' in change) ||
    (change.do === 'remove' && !change.frames)
  )
    return null;
  return vocabulary.get(change.id)?.word ?? null;
}

/**
 * What a change of the vocabulary changes on one frame: its keywords follow. A word under which the term stood goes where
 * nothing else of the frame stands under it.
 */
export function followTerm(
  before: Vocabulary,
  after: Vocabulary,
  change: TermChange,
  keywords: readonly string[],
): { kind: KeywordKind; from: boolean; to: boolean }[] {
  const word = changedWord(before, change);
  if (word === null || !('id' in change) || !hasKeyword(keywords, word)) return [];
  const its = before.termsOf(keywords);
  // One that is only called alike stands somewhere else in the tree.
  if (!its.some(({ id }) => id === change.id)) return [];
  // What it stood under is there because of it, unless something else stands under that too.
  const above = new Set(before.ancestors(change.id).map((one) => one.id));
  const others = its.filter((one) => one.id !== change.id && !above.has(one.id));
  const stays = (of: Vocabulary) => new Set(others.flatMap(({ id }) => of.given(id)).map(keywordKey));
  const gone =
    change.do === 'rename' || change.do === 'split'
      ? [word]
      : change.do === 'remove'
        ? [word]
        : [...(change.do === 'join' ? [word] : []), ...before.ancestors(change.id).map((one) => one.word)];
  const come =
    change.do === 'rename'
      ? [change.word]
      : change.do === 'split'
        ? unique(change.words)
        : change.do === 'move'
          ? after.given(change.id)
          : change.do === 'join'
            ? after.given(change.into)
            : [];
  const wanted = new Set(come.map(keywordKey));
  const kept = stays(after);
  const exact = new Set(come);
  const off = unique(gone).filter((one) => {
    const key = keywordKey(one);
    if (!hasKeyword(keywords, one)) return false;
    // Only its case is another: it goes and comes back as it is written now.
    if (wanted.has(key))
      return !exact.has(keywords.find((its_) => keywordKey(its_) === key)!) && change.do === 'rename';
    return change.do === 'move' || change.do === 'join' ? !kept.has(key) : true;
  });
  const on = unique(come).filter((one) => !hasKeyword(keywords, one) || hasKeyword(off, one));
  return [
    ...off.map((one) => ({ kind: keywordKind(one), from: true, to: false })),
    ...on.map((one) => ({ kind: keywordKind(one), from: false, to: true })),
  ];
}
