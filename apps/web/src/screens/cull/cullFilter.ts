import {
  AWAY,
  DEFAULT_RULES,
  describe,
  EVERYTHING,
  INCOMPLETE,
  partsOfLine,
  standingFilter,
  EDITED,
  FINISHED,
  VOICE_NOTE,
  withoutPart,
  type Filter,
  type KeeperRules,
  type LineContext,
  type Standing,
  type Verdict,
} from '@arkiv/core';
import {
  CHOSEN,
  chosenFilter,
  timesFilter,
  timeWords,
  type Chosen,
  type ChosenTime,
  type Value,
} from './facetValues';

export type StarsKind = 'any' | 'atLeast' | 'is' | 'atMost' | 'not';

/** The filter as the drawer shows it. */
export interface CullFilter {
  /** empty: all */
  verdicts: Verdict[];
  /** `n` null: none chosen yet, which hides nothing */
  stars: { kind: StarsKind; n: number | null };
  /** words and facts, as Find takes them */
  text?: string;
  /** values of facts, any of each; missing or empty: all */
  chosen?: Partial<Record<Chosen, Value[]>>;
  /** stretches of time, any of them */
  times?: ChosenTime[];
  /** any of these piles; `id` empty: in none */
  piles?: PileChoice[];
  /** with a note or without one; missing: all */
  note?: boolean | null;
  /** only frames whose file is incomplete */
  incomplete?: boolean;
  /** only frames with a voice note */
  voice?: boolean;
  /** only frames of which an edit came back */
  edited?: boolean;
  /** only frames that are finished here */
  finished?: boolean;
  /** only frames whose pictures lie on drives that are away */
  away?: boolean;
  /** what a frame is by the studio's rules; missing: all */
  standing?: Standing | null;
}

/** A pile as the filter names it, whatever it is called later. */
export interface PileChoice {
  id: string;
  name: string;
}

/** What is true of a frame or not: the filter's part, and the fact with the value that says so. */
export const TRUTHS = [
  { part: 'voice', fact: 'voice', is: VOICE_NOTE, words: 'with a voice note' },
  { part: 'edited', fact: 'edited', is: EDITED, words: 'edited' },
  { part: 'finished', fact: 'finished', is: FINISHED, words: 'finished here' },
  { part: 'incomplete', fact: 'sign', is: INCOMPLETE, words: INCOMPLETE },
  { part: 'away', fact: 'away', is: AWAY, words: AWAY },
] as const;

/** A line that is read with nothing else known. */
const NO_LINE: LineContext = {};

export const NO_FILTER: CullFilter = { verdicts: [], stars: { kind: 'any', n: null } };

const STANDING_WORDS: Readonly<Record<Standing, string>> = {
  keeper: 'keepers',
  reject: 'rejects',
  left: 'undecided by the studio’s rules',
};

export function starsPass(kind: StarsKind, n: number, stars: number): boolean {
  switch (kind) {
    case 'atLeast':
      return stars >= n;
    case 'atMost':
      return stars <= n;
    case 'not':
      return stars !== n;
    default:
      return stars === n;
  }
}

function starsFilter(kind: StarsKind, n: number): Filter {
  if (kind === 'atLeast') return { field: 'stars', atLeast: n };
  if (kind === 'atMost') return { field: 'stars', atMost: n };
  return kind === 'not' ? { not: { field: 'stars', is: n } } : { field: 'stars', is: n };
}

function pilesFilter(piles: readonly PileChoice[]): Filter {
  const ids = piles.flatMap(({ id }) => (id === '' ? [] : id));
  const parts: Filter[] = [];
  if (ids.length > 0) parts.push({ field: 'piles', oneOf: ids });
  if (ids.length < piles.length) parts.push({ field: 'piles', none: true });
  return parts.length === 1 ? parts[0]! : { any: parts };
}

const pileWords = (piles: readonly PileChoice[]): string =>
  piles.map(({ id, name }) => (id === '' ? 'in no pile' : `pile “${name}”`)).join(' or ');

export interface Part {
  /** where it is chosen: a choice of the drawer's, or what stands over all of them */
  section: string;
  part: Filter;
  words: string;
  /** what of the filter is another without it */
  without: Partial<CullFilter>;
}

/** What a filter is made of, part by part, in the order in which it is read. */
export function partsOf(filter: CullFilter, rules: KeeperRules, line: LineContext = NO_LINE): Part[] {
  const {
    verdicts,
    stars,
    text = '',
    chosen = {},
    times = [],
    piles = [],
    note = null,
    standing = null,
  } = filter;
  const parts: Part[] = [];
  const add = (section: string, part: Filter, without: Partial<CullFilter>, words = describe(part)) =>
    parts.push({ section, part, words, without });
  if (standing)
    add('standing', standingFilter(standing, rules), { standing: null }, STANDING_WORDS[standing]);
  if (verdicts.length > 0) add('verdict', { field: 'verdict', oneOf: verdicts }, { verdicts: [] });
  if (stars.kind !== 'any' && stars.n !== null)
    add('stars', starsFilter(stars.kind, stars.n), { stars: NO_FILTER.stars });
  for (const fact of CHOSEN) {
    const values = chosen[fact] ?? [];
    if (values.length > 0) add(fact, chosenFilter(fact, values), { chosen: { ...chosen, [fact]: [] } });
  }
  if (times.length > 0)
    add('times', timesFilter(times), { times: [] }, times.map(({ key }) => timeWords(key)).join(' or '));
  if (piles.length > 0) add('piles', pilesFilter(piles), { piles: [] }, pileWords(piles));
  const noted: Filter = { field: 'note', none: true };
  if (note !== null)
    add('note', note ? { not: noted } : noted, { note: null }, note ? 'with a note' : 'without a note');
  for (const { part, fact, is, words } of TRUTHS)
    if (filter[part]) add(fact, { field: fact, is }, { [part]: false }, words);
  for (const part of partsOfLine(text, { ...line, rules, typing: true }))
    if (part.problem === undefined) add('text', part.filter, { text: withoutPart(text, part) }, part.words);
  return parts;
}

export function toFilter(
  filter: CullFilter,
  rules: KeeperRules = DEFAULT_RULES,
  line: LineContext = NO_LINE,
): Filter {
  const parts = partsOf(filter, rules, line).map(({ part }) => part);
  return parts.length === 0 ? EVERYTHING : { all: parts };
}

/** What hides frames, in words. */
export const filterWords = (
  filter: CullFilter,
  rules: KeeperRules = DEFAULT_RULES,
  line: LineContext = NO_LINE,
): string =>
  partsOf(filter, rules, line)
    .map(({ words }) => words)
    .join(', ');

/** What hides frames, one chip for each part, with the filter that is left when that part is taken away. */
export const filterChips = (
  filter: CullFilter,
  rules: KeeperRules = DEFAULT_RULES,
  line: LineContext = NO_LINE,
): { words: string; rest: CullFilter }[] =>
  partsOf(filter, rules, line).map(({ words, without }) => ({ words, rest: { ...filter, ...without } }));
