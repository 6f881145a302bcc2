import { keywordKey, tidy } from '../description/keywords';
import { written } from '../description/writing';
import type { Term, Vocabulary } from './term';

/** A number on a shirt, a boat, a bib: a few characters without blanks. */
const NUMBER = /^[\p{L}\p{N}][\p{L}\p{N}/-]{0,7}$/u;
export const isRosterNumber = (value: unknown): value is string =>
  typeof value === 'string' && NUMBER.test(value);

/** Somebody on a numbered list. */
export interface RosterEntry {
  number: string;
  word: string;
}

/** A line of a roster as it is looked up. */
export interface FoundEntry extends RosterEntry {
  term: Term;
  /** the term that the list stands under */
  roster: Term;
}

export type RosterResult =
  { ok: true; entries: RosterEntry[] } | { ok: false; line: number; problem: string };

/** A roster as it is typed or pasted: a line each, the number first, then the name. */
export function rosterIn(text: string): RosterResult {
  const entries: RosterEntry[] = [];
  const lines = text.split(/\r\n?|\n/);
  for (const [i, line] of lines.entries()) {
    if (line.trim() === '') continue;
    const [, number = '', name = ''] = /^\s*([^\s.:;,)]+)[\s.:;,)]+(.*)$/.exec(line) ?? [];
    const word = tidy(name);
    if (!isRosterNumber(number) || word === '')
      return { ok: false, line: i + 1, problem: 'a line is a number, a blank and a name' };
    if (entries.some((one) => one.number === number))
      return { ok: false, line: i + 1, problem: `the number ${number} is there already` };
    if (entries.some((one) => keywordKey(one.word) === keywordKey(word)))
      return { ok: false, line: i + 1, problem: `“${word}” is there already` };
    entries.push({ number, word });
  }
  return { ok: true, entries };
}

/** The numbered list under a term, in the order of its numbers. */
export const rosterOf = (vocabulary: Vocabulary, id: string): (Term & { number: string })[] =>
  vocabulary
    .children(id)
    .flatMap((term) => (term.number === null ? [] : [{ ...term, number: term.number }]))
    .sort((a, b) => byNumber.compare(a.number, b.number));

/** The terms under which numbered lists stand. */
export function rosters(vocabulary: Vocabulary): Term[] {
  const ids = new Set(
    vocabulary.terms.flatMap(({ number, parent }) => (number !== null && parent !== null ? [parent] : [])),
  );
  return vocabulary.terms.filter(({ id }) => ids.has(id));
}

/** Who bears a number on some rosters, those of exactly this number first; by a part of a name too. */
export function findOnRosters(vocabulary: Vocabulary, ids: readonly string[], typed: string): FoundEntry[] {
  const wanted = keywordKey(typed.trim());
  if (wanted === '') return [];
  const found = ids.flatMap((id) => {
    const roster = vocabulary.get(id);
    return roster ? rosterOf(vocabulary, id).map((term): FoundEntry => ({ ...term, term, roster })) : [];
  });
  const fits = ({ number, word }: FoundEntry) =>
    keywordKey(number) === wanted
      ? 0
      : keywordKey(number).startsWith(wanted)
        ? 1
        : keywordKey(word).includes(wanted)
          ? 2
          : 3;
  return found.filter((entry) => fits(entry) < 3).sort((a, b) => fits(a) - fits(b));
}

/** A caption with a name more: after other names with a comma between, after words with a blank; one that has it stays. */
export function captionWith(caption: string | null, name: string, persons: readonly string[]): string | null {
  if (caption?.includes(name)) return caption;
  if (caption !== null && persons.length > 0 && caption === persons.join(', ')) return `${caption}, ${name}`;
  return written(caption, name, 'add');
}

const byNumber = new Intl.Collator('en', { numeric: true });
