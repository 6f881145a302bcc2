import { tidy } from '../description/keywords';
import { isRosterNumber } from './roster';
import { MOST_LEVELS, MOST_TERMS, TERM_KINDS, Vocabulary, type Term, type TermKind } from './term';

/** A term as it is brought in: its place is that of the words above it. */
export interface BroughtTerm {
  path: readonly string[];
  synonyms: readonly string[];
  kind: TermKind | null;
  /** on the numbered list of the term above it; null: on none */
  number: string | null;
  deliver: boolean;
}

export type BroughtResult = { ok: true; terms: BroughtTerm[] } | { ok: false; line: number; problem: string };

/**
 * The vocabulary as indented text: a line a term, a tab a level; synonyms in braces on lines of their own below it, as
 * several programs write such lists; a term that is not delivered in square brackets. What kind a term is stands behind it,
 * after two blanks and a number sign, and behind that its number on the list of the term above it.
 */
export function toIndented(vocabulary: Vocabulary): string {
  const lines: string[] = [];
  const write = (term: Term, depth: number) => {
    const word = term.deliver ? term.word : `[${term.word}]`;
    lines.push(`${'\t'.repeat(depth)}${word}${suffix(term)}`);
    for (const synonym of term.synonyms) lines.push(`${'\t'.repeat(depth + 1)}{${synonym}}`);
    for (const child of vocabulary.children(term.id)) write(child, depth + 1);
  };
  for (const term of vocabulary.children(null)) write(term, 0);
  return lines.length === 0 ? '' : `${lines.join('\n')}\n`;
}

const suffix = ({ kind, number }: Term): string =>
  kind === 'subject' && number === null ? '' : `  #${kind}${number === null ? '' : ` ${number}`}`;

const KIND = new RegExp(`\\s{2,}#(${TERM_KINDS.join('|')})(?: (\\S+))?$`);

/** Indented text as terms; a level is a tab or any one and the same number of blanks. */
export function fromIndented(text: string): BroughtResult {
  const terms: (BroughtTerm & { synonyms: string[] })[] = [];
  /** the terms above the next line, by level, each with what it is indented by */
  let above: { indent: number; term: BroughtTerm & { synonyms: string[] } }[] = [];
  for (const [i, raw] of text
    .replace(/^\uFEFF/, '')
    .split(/\r\n?|\n/)
    .entries()) {
    const [, blanks = '', rest = ''] = /^([ \t]*)(.*?)\s*$/.exec(raw) ?? [];
    if (rest === '') continue;
    const problem = (words: string): BroughtResult => ({ ok: false, line: i + 1, problem: words });
    // A tab counts for more than any run of blanks that stands for a level beside it.
    const indent = [...blanks].reduce((sum, char) => sum + (char === '\t' ? 8 : 1), 0);
    above = above.filter((one) => one.indent < indent);
    const parent = above.at(-1)?.term;
    if (indent > 0 && !parent) return problem('the first line of a list is not indented');
    const synonym = /^\{(.*)\}$/.exec(rest)?.[1];
    if (synonym !== undefined) {
      if (!parent) return problem('a synonym in braces stands below its term');
      if (tidy(synonym) !== '') parent.synonyms.push(tidy(synonym));
      continue;
    }
    const [, its, number = null] = KIND.exec(rest) ?? [];
    const kind = (its as TermKind | undefined) ?? null;
    if (number !== null && !isRosterNumber(number)) return problem(`“${number}” is no number of a list`);
    const bare = rest.replace(KIND, '');
    const hidden = /^\[(.*)\]$/.exec(bare)?.[1];
    const word = tidy(hidden ?? bare);
    if (word === '') return problem('the line holds no word');
    const path = [...(parent?.path ?? []), word];
    if (path.length > MOST_LEVELS) return problem(`terms stand at most ${MOST_LEVELS} levels deep`);
    const term = { path, synonyms: [], kind, number, deliver: hidden === undefined };
    terms.push(term);
    if (terms.length > MOST_TERMS) return problem(`a vocabulary holds at most ${MOST_TERMS} terms`);
    above.push({ indent, term });
  }
  return { ok: true, terms };
}
