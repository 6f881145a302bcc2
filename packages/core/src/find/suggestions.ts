import { foldText } from '../query/folding';
import { lineValue } from '../query/lineTokens';
import { askedWords, asksWords, saidOf } from '../query/words';
import { Bits } from './bits';
import type { FindIndex, SetName } from './findIndex';
import { meantBy } from './spelling';

/** What could be typed further, and how many frames it would find by itself. */
export interface Suggestion {
  /** what it is */
  kind: 'word' | 'keyword' | 'person' | 'shoot' | 'client' | 'place';
  words: string;
  /** the part of a line that asks for it */
  line: string;
  count: number;
}

/** What a list below a line can hold without hiding the pictures. */
const MOST = { word: 5, value: 4, shoot: 3 } as const;

/** What begins like the last word of a line, of the archive's own words, the most frequent first. */
export function suggestionsFor(index: FindIndex, typed: string): Suggestion[] {
  const [word] = askedWords(typed).slice(-1);
  if (word === undefined) return [];
  return [
    ...values(index, 'keywords', 'keyword', word),
    ...values(index, 'persons', 'person', word),
    ...shoots(index, word),
    ...words(index, word),
  ];
}

function words(index: FindIndex, start: string): Suggestion[] {
  const ids = index.words.beginning(start).filter((id) => index.words.countOf(id) > 0);
  return most(ids, (id) => index.words.countOf(id), MOST.word).map((id) => ({
    kind: 'word',
    words: index.words.word(id),
    line: index.words.word(id),
    count: counted(index, [id]),
  }));
}

function values(index: FindIndex, set: SetName, kind: 'keyword' | 'person', start: string): Suggestion[] {
  const says = asksWords('begins', start);
  const fitting = index
    .valuesOf(set)
    .filter(({ id }) => index.words.countOf(id) > 0 && says(index.saidByValue(id)));
  return most(fitting, ({ id }) => index.words.countOf(id), MOST.value).map(({ id, value }) => ({
    ...{ kind, words: value, line: `${kind}=${lineValue(value)}` },
    count: counted(index, [id]),
  }));
}

function shoots(index: FindIndex, start: string): Suggestion[] {
  const says = asksWords('begins', start);
  const found: Suggestion[] = [];
  const here = index.all();
  for (const kind of ['shoot', 'client', 'place'] as const) {
    const codes = new Map<string, number[]>();
    index.shootOf.values.forEach((id, code) => {
      const shoot = id === null ? null : index.shoot(id);
      const value = shoot === null ? '' : kind === 'shoot' ? shoot.title : shoot[kind];
      if (value === '' || !says(saidOf([value]))) return;
      codes.set(value, [...(codes.get(value) ?? []), code]);
    });
    if (codes.size === 0) continue;
    const byCode = new Uint32Array(index.shootOf.values.length);
    here.each((n) => (byCode[index.shootOf.codes[n]!]! += 1));
    const all = [...codes].map(([value, its]) => ({
      ...{ kind, words: value, line: `${kind}=${lineValue(value)}` },
      count: its.reduce((sum, code) => sum + byCode[code]!, 0),
    }));
    found.push(...most(all, ({ count }) => count, MOST.shoot).filter(({ count }) => count > 0));
  }
  return found;
}

const most = <T>(list: readonly T[], by: (one: T) => number, n: number): T[] =>
  [...list].sort((a, b) => by(b) - by(a)).slice(0, n);

function counted(index: FindIndex, ids: readonly number[]): number {
  const found = Bits.of(index.room);
  index.words.addAll(ids, found);
  return found.and(index.all()).count;
}

/** Letters from which a word is the beginning of another one and not of many. */
const FEWEST = 3;

/** What a word that nothing has was probably meant to be; null: nobody knows. `more`: words that no frame has yet, as of a vocabulary. */
export function meantWord(index: FindIndex, word: string, more: Iterable<string> = []): string | null {
  function* known(): Generator<{ word: string; count: number }> {
    for (let id = 0; id < index.words.size; id++)
      if (index.isPlain(id)) yield { word: index.words.word(id), count: index.words.countOf(id) };
    for (const its of more) yield { word: its, count: 1 };
  }
  const typed = foldText(word);
  // What was only begun is more likely than what was typed wrong.
  const [begun] =
    typed.length < FEWEST
      ? []
      : most(
          index.words.beginning(typed).filter((id) => index.isPlain(id) && index.words.countOf(id) > 0),
          (id) => index.words.countOf(id),
          1,
        );
  return begun === undefined ? meantBy(typed, known()) : index.words.word(begun);
}
