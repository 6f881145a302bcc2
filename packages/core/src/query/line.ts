import { LABELS, type Label } from '../marks/marks';
import { QUERY_FIELDS, type QueryField } from './fields';
import type { Filter } from './filter';
import { foldText } from './folding';
import { DEFAULT_RULES, standingFilter, type KeeperRules, type Standing } from './keeperRule';
import { stageFilter } from '../stages/stages';
import { askedWords, type WordCondition } from './words';

/** What a line of words and facts is read with. */
export interface LineContext {
  rules?: KeeperRules;
  /** what the studio calls its labels */
  labels?: Readonly<Partial<Record<Label, string>>>;
  /** the studio's stages, in their order */
  stages?: readonly Named[];
  /** piles and drives by name: a line names them, a filter asks for their ids */
  piles?: readonly Named[];
  drives?: readonly Named[];
  albums?: readonly NamedAlbum[];
  /** keywords of the vocabulary that a word means beside itself: those that stand below it, and whose synonym it is */
  meant?: (condition: WordCondition, text: string) => readonly string[];
  /** the last word is still being typed where no blank follows it: what begins with it is found */
  typing?: boolean;
  /** fields that nobody can be asked for here */
  unknown?: readonly QueryField[];
}

export interface Named {
  id: string;
  name: string;
}

/** An album that a line names. */
export interface NamedAlbum extends Named {
  /** of the frames in it and below it; a text says why its rule cannot be followed */
  filter: () => Filter | string;
}

/** What stands between two blanks of a line. */
export interface LinePart {
  /** where it stands in the line */
  from: number;
  to: number;
  /** what it is called where it is shown by itself */
  words: string;
  filter: Filter;
  kind: 'fact' | 'word';
  /** what it says that cannot be asked here; it hides nothing then */
  problem?: string;
  /** of a plain word: what is asked for */
  asked?: { condition: WordCondition; text: string };
}

/** The filter of all parts of a line. */
export const lineFilter = (parts: readonly LinePart[]): Filter => ({
  all: parts.filter(({ problem }) => problem === undefined).map(({ filter }) => filter),
});

/** The line without one of its parts. */
export const withoutPart = (line: string, { from, to }: LinePart): string =>
  `${line.slice(0, from).trimEnd()} ${line.slice(to).trimStart()}`.trim();

/** A part that can be put behind a line. */
export const withPart = (line: string, part: string): string =>
  line.trim() === '' ? part : `${line.trim()} ${part}`;

/** A value as it stands in a line behind its field and `=`. Quotation marks and backslashes of its own stand behind a backslash. */
export const lineValue = (value: string): string =>
  /[\s"“”„|\\]/.test(value) || value === '' || value === 'none' || value === 'any'
    ? `"${value.replace(/["“”„\\]/g, '\\$&')}"`
    : value;

/** What a backslash makes a plain character, and while a line is read the two that stand for both: as long, so that places in it stay. */
const PLAIN = '"“”„\\';
const [PLAIN_FROM, PLAIN_SECOND] = [0xe000, '\ue00f'];
const hidden = (line: string): string =>
  line.replace(
    /\\(["“”„\\])/g,
    (_, char: string) => String.fromCharCode(PLAIN_FROM + PLAIN.indexOf(char)) + PLAIN_SECOND,
  );
const unhidden = (text: string): string =>
  text.replace(/([\ue000-\ue004])\ue00f/g, (_, char: string) => PLAIN[char.charCodeAt(0) - PLAIN_FROM]!);

interface Token {
  from: number;
  to: number;
  text: string;
}

/** What stands between blanks; blanks between quotation marks part nothing. */
function tokensOf(line: string): Token[] {
  const tokens: Token[] = [];
  let from = -1;
  let quoted = false;
  for (let at = 0; at <= line.length; at++) {
    const char = line[at];
    const ends = char === undefined || (!quoted && /\s/.test(char));
    if (ends) {
      if (from >= 0) tokens.push({ from, to: at, text: line.slice(from, at) });
      from = -1;
      continue;
    }
    if (from < 0) from = at;
    if (/["“”„]/.test(char)) quoted = !quoted;
  }
  return joinedTokens(tokens, line);
}

/** `ISO 400` and `400 mm` are one. */
function joinedTokens(tokens: readonly Token[], line: string): Token[] {
  const joined: Token[] = [];
  for (const token of tokens) {
    const last = joined.at(-1);
    const one =
      last &&
      ((/^-?iso$/i.test(last.text) && /^[\d≥≤<>=]/.test(token.text)) ||
        (/^-?[≥≤<>=]*\d+(-\d+)?$/.test(last.text) && /^mm$/i.test(token.text)));
    if (one)
      joined[joined.length - 1] = { from: last.from, to: token.to, text: line.slice(last.from, token.to) };
    else joined.push(token);
  }
  return joined;
}

/**
 * A line of words and facts, as `heron fish ≥4★ f/8 2029 keep "North Pier"`, read part by part. What is no fact is words: each must
 * be found in a frame, in its texts, names, keywords, persons or its shoot. Parts that ask for nothing, as a dash, are none.
 */
export function partsOfLine(line: string, context: LineContext = {}): LinePart[] {
  const tokens = tokensOf(hidden(line));
  return tokens.flatMap((token, i) => {
    const unfinished = Boolean(context.typing) && i === tokens.length - 1 && token.to === line.length;
    const negated = /^[-−][^\s]/.test(token.text);
    const text = (negated ? token.text.slice(1) : token.text).trim();
    const read = factOf(text, context, unfinished) ?? wordsPart(text, context, unfinished);
    if (!read) return [];
    const { words, filter, ...rest } = read;
    return [
      {
        ...{ from: token.from, to: token.to },
        ...rest,
        words: negated ? `not ${words}` : words,
        filter: negated ? { not: filter } : filter,
      },
    ];
  });
}

type Read = Omit<LinePart, 'from' | 'to'>;
const fact = (words: string, filter: Filter): Read => ({ kind: 'fact', words, filter });
const problem = (words: string, said: string): Read => ({
  ...{ kind: 'fact', words, filter: { all: [] }, problem: said },
});

/** A fact, or several of which one holds, parted by a bar. */
function factOf(text: string, context: LineContext, unfinished: boolean): Read | null {
  return (
    standing(text, context) ??
    stars(text) ??
    taken(text) ??
    camera(text) ??
    format(text) ??
    field(text, context, unfinished)
  );
}

const STANDINGS: Readonly<Record<string, [Standing, string]>> = {
  keepers: ['keeper', 'keepers'],
  rejects: ['reject', 'rejects'],
};
const VERDICTS: Readonly<Record<string, string>> = {
  ...{ keep: 'keep', kept: 'keep', reject: 'reject', rejected: 'reject', undecided: 'undecided' },
};

function standing(text: string, { rules = DEFAULT_RULES }: LineContext): Read | null {
  const word = text.toLowerCase();
  const verdict = Object.hasOwn(VERDICTS, word) ? VERDICTS[word]! : null;
  if (verdict) return fact(verdict, { field: 'verdict', is: verdict });
  if (!Object.hasOwn(STANDINGS, word)) return null;
  const [is, words] = STANDINGS[word]!;
  return fact(words, standingFilter(is, rules));
}

const BOUND = '(≥|>=|≤|<=|>|<|=)?';
const COMPARED = { '≥': '≥', '>=': '≥', '>': '>', '≤': '≤', '<=': '≤', '<': '<', '=': '' } as const;
type Bound = '≥' | '>' | '≤' | '<' | '';
const boundOf = (text: string | undefined): Bound =>
  text === undefined ? '' : COMPARED[text as keyof typeof COMPARED];

const STARS = new RegExp(`^${BOUND}([0-5])(?:-([0-5]))?(?:★+|\\*|stars?)(\\+)?$`, 'i');

function stars(text: string): Read | null {
  const found = STARS.exec(text);
  if (!found) return null;
  const [, bound, low, high, more] = found;
  const n = Number(low);
  if (high !== undefined)
    return fact(`${low}–${high}★`, {
      all: [
        { field: 'stars', atLeast: n },
        { field: 'stars', atMost: Number(high) },
      ],
    });
  switch (more ? '≥' : boundOf(bound)) {
    case '≥':
      return fact(`≥ ${n}★`, { field: 'stars', atLeast: n });
    case '>':
      return fact(`> ${n}★`, { field: 'stars', atLeast: n + 1 });
    case '≤':
      return fact(`≤ ${n}★`, { field: 'stars', atMost: n });
    case '<':
      return fact(`< ${n}★`, { field: 'stars', atMost: n - 1 });
    case '':
      return fact(n === 0 ? 'no stars' : `${n}★`, { field: 'stars', is: n });
  }
}

const DATE = '(\\d{4})(?:-(\\d{2})(?:-(\\d{2})(?:T(\\d{2})(?::(\\d{2}))?)?)?)?';
const TAKEN = new RegExp(`^(?:taken:)?${BOUND}${DATE}(?:\\.\\.${DATE})?$`, 'i');
/** Years that a plain number of four digits is: cameras wrote none before, and none of these is a frame’s number by chance. */
const [FIRST_YEAR, LAST_YEAR] = [1970, 2099];

/** The stretch of minutes that a written date or time means, as `takenOf` counts. */
function stretch([year, month, day, hour, minute]: readonly (string | undefined)[]): [number, number] | null {
  const valid =
    (month === undefined || (Number(month) >= 1 && Number(month) <= 12)) &&
    (day === undefined || (Number(day) >= 1 && Number(day) <= 31)) &&
    (hour === undefined || Number(hour) <= 23) &&
    (minute === undefined || Number(minute) <= 59);
  if (!valid) return null;
  const at = (...parts: (string | undefined)[]) => Number(parts.join(''));
  return [
    at(year, month ?? '01', day ?? '01', hour ?? '00', minute ?? '00'),
    at(year, month ?? '12', day ?? '31', hour ?? '23', minute ?? '59'),
  ];
}

function taken(text: string): Read | null {
  const found = TAKEN.exec(text);
  if (!found) return null;
  const [, bound, ...parts] = found;
  const year = Number(parts[0]);
  if (year < FIRST_YEAR || year > LAST_YEAR) return null;
  const first = stretch(parts.slice(0, 5));
  const last = parts[5] === undefined ? first : stretch(parts.slice(5));
  if (!first || !last) return null;
  const words = text
    .replace(/^taken:/i, '')
    .replace('..', ' – ')
    .replace(/T/gi, ' ');
  const called = (mark: string) => `taken ${mark} ${words.replace(/^[≥≤<>=]+/, '')}`;
  switch (boundOf(bound)) {
    case '≥':
      return fact(called('from'), { field: 'taken', atLeast: first[0] });
    case '>':
      return fact(called('after'), { field: 'taken', atLeast: first[1] + 1 });
    case '≤':
      return fact(called('up to'), { field: 'taken', atMost: first[1] });
    case '<':
      return fact(called('before'), { field: 'taken', atMost: first[0] - 1 });
    case '':
      return fact(words.replace(/^=/, ''), { field: 'taken', between: [first[0], last[1]] });
  }
}

/** How far a written number may be from a camera's, as a share of it: thirds of a stop, the nearest, lie 12 % apart. */
const NEAR = 0.02;

interface CameraFact {
  field: QueryField;
  pattern: RegExp;
  value: (text: string) => number;
  words: (first: string, last?: string) => string;
}

const NUMBER = '\\d+(?:\\.\\d+)?';
const CAMERA: readonly CameraFact[] = [
  {
    field: 'aperture',
    pattern: new RegExp(`^${BOUND}f/?(${NUMBER})(?:-(?:f/?)?(${NUMBER}))?(\\+)?$`, 'i'),
    value: Number,
    words: (first, last) => `f/${first}${last ? `–${last}` : ''}`,
  },
  {
    field: 'focalLength',
    pattern: new RegExp(`^${BOUND}(${NUMBER})(?:-(${NUMBER}))?\\s*mm(\\+)?$`, 'i'),
    value: Number,
    words: (first, last) => `${first}${last ? `–${last}` : ''} mm`,
  },
  {
    field: 'iso',
    pattern: new RegExp(`^${BOUND}iso:?\\s*${BOUND}(\\d+)(?:-(\\d+))?(\\+)?$`, 'i'),
    value: Number,
    words: (first, last) => `ISO ${first}${last ? `–${last}` : ''}`,
  },
  {
    field: 'exposure',
    pattern: new RegExp(`^${BOUND}(1/\\d+|${NUMBER}s)(?:-(1/\\d+|${NUMBER}s))?s?(\\+)?$`, 'i'),
    value: (text) => (text.startsWith('1/') ? 1 / Number(text.slice(2)) : Number.parseFloat(text)),
    words: (first, last) => `${first.replace(/s$/, '')}${last ? `–${last.replace(/s$/, '')}` : ''} s`,
  },
];

function camera(text: string): Read | null {
  for (const { field: name, pattern, value, words } of CAMERA) {
    const found = pattern.exec(text);
    if (!found) continue;
    // An ISO may have its bound on either side of its name.
    const parts = name === 'iso' ? [found[1] ?? found[2], ...found.slice(3)] : found.slice(1);
    const [bound, first, last, more] = parts;
    const n = value(first!);
    const [low, high] = [n * (1 - NEAR), n * (1 + NEAR)];
    const called = words(first!, last);
    if (last !== undefined) {
      const m = value(last);
      return fact(called, {
        field: name,
        between: [Math.min(low, m * (1 - NEAR)), Math.max(high, m * (1 + NEAR))],
      });
    }
    switch (more ? '≥' : boundOf(bound)) {
      case '≥':
        return fact(`≥ ${called}`, { field: name, atLeast: low });
      case '>':
        return fact(`> ${called}`, { field: name, atLeast: high });
      case '≤':
        return fact(`≤ ${called}`, { field: name, atMost: high });
      case '<':
        return fact(`< ${called}`, { field: name, atMost: low });
      case '':
        return fact(called, { field: name, between: [low, high] });
    }
  }
  return null;
}

/** Formats that are words of nothing else. */
const FORMATS = [
  'jpeg',
  'heic',
  'dng',
  'tiff',
  'png',
  'webp',
  'avif',
  'cr2',
  'cr3',
  'nef',
  'arw',
  'raf',
  'orf',
  'rw2',
  'mp4',
  'mov',
];

function format(text: string): Read | null {
  const word = text.toLowerCase();
  if (word === 'raw') return fact('raw', { field: 'raw', oneOf: ['only', 'pair'] });
  if (word === 'clip' || word === 'clips') return fact('clips', { field: 'role', is: 'clip' });
  if (word === 'jpg') return fact('JPEG', { field: 'formats', is: 'jpeg' });
  return FORMATS.includes(word) ? fact(word.toUpperCase(), { field: 'formats', is: word }) : null;
}

/** What a field is called in a line: `keyword:heron`. */
export const LINE_FIELDS = {
  ...{ name: 'name', original: 'original', caption: 'caption', note: 'note' },
  ...{ keyword: 'keywords', person: 'persons', shoot: 'shoot', client: 'client', place: 'place' },
  ...{
    body: 'body',
    lens: 'lens',
    label: 'label',
    stage: 'stage',
    pile: 'piles',
    album: 'albums',
    folder: 'lies',
    below: 'lies',
    drive: 'drives',
  },
  ...{ format: 'formats', kind: 'role', raw: 'raw', sign: 'sign', detail: 'detail', advice: 'advice' },
  ...{
    voice: 'voice',
    edited: 'edited',
    finished: 'finished',
    delivered: 'delivered',
    verdict: 'verdict',
    stars: 'stars',
    text: 'text',
  },
  ...{
    iso: 'iso',
    aperture: 'aperture',
    focal: 'focalLength',
    shutter: 'exposure',
    taken: 'taken',
    drives: 'away',
  },
} as const satisfies Record<string, QueryField>;

const FIELD = /^([a-z]+)([:=])(.*)$/is;
const plainValue = (text: string): string => unhidden(text.replace(/["“”„]/g, ''));
const isQuoted = (text: string): boolean => /^["“”„].*["“”]$/.test(text);

function field(text: string, context: LineContext, unfinished: boolean): Read | null {
  const found = FIELD.exec(text);
  const called = found?.[1]!.toLowerCase();
  if (!found || !Object.hasOwn(LINE_FIELDS, called!)) return null;
  const name: QueryField = LINE_FIELDS[called as keyof typeof LINE_FIELDS];
  const value = found[3]!;
  const words = `${called} ${plainValue(value)}`.trim();
  if (context.unknown?.includes(name)) return problem(words, `“${called}” can be asked for in Find only.`);
  if (plainValue(value).trim() === '')
    return unfinished ? null : problem(words, `Nothing stands behind “${called}:”.`);
  const one = (its: string, last: boolean): Filter | string =>
    called === 'below'
      ? {
          field: name,
          within: plainValue(its)
            .trim()
            .replace(/^\/+|\/+$/g, ''),
        }
      : valueFilter(name, its, found[2] === '=', context, unfinished && last);
  const values = alternatives(value);
  const parts = values.map((its, i) => one(its, i === values.length - 1));
  const wrong = parts.find((part) => typeof part === 'string');
  if (wrong !== undefined) return problem(words, wrong as string);
  const isAll = called === 'below' && parts.some((part) => (part as { within?: string }).within === '');
  const shown = isAll ? 'all folders' : `${called} ${values.map(plainValue).join(' or ')}`;
  return fact(shown, parts.length === 1 ? (parts[0] as Filter) : { any: parts as Filter[] });
}

/** What stands between bars; bars between quotation marks part nothing. */
function alternatives(text: string): string[] {
  return (text.match(/(?:["“„][^"“”]*["”]?|[^|"“”„])+/g) ?? []).filter(
    (part) => plainValue(part).trim() !== '',
  );
}

/** Of one value of a field; a text says why it is none. */
function valueFilter(
  name: QueryField,
  given: string,
  exact: boolean,
  context: LineContext,
  unfinished: boolean,
): Filter | string {
  const value = plainValue(given).trim();
  const { type } = QUERY_FIELDS[name];
  if (name === 'albums' && !isQuoted(given) && (value === 'none' || value === 'any')) {
    // Those that were taken away keep their frames: what is asked for are those that are there.
    const any = anyOf((context.albums ?? []).map(({ filter }) => filter()));
    return typeof any === 'string' || value === 'any' ? any : { not: any };
  }
  if (!isQuoted(given) && value === 'none') return { field: name, none: true };
  if (!isQuoted(given) && value === 'any') return { not: { field: name, none: true } };
  if (name === 'piles' || name === 'drives' || name === 'albums') {
    const key = foldText(value);
    const called = <T extends Named>(all: readonly T[] = []): readonly T[] =>
      all.filter(
        (its) => its.id === value || (exact ? its.name === value : foldText(its.name).includes(key)),
      );
    const nobody = `No ${QUERY_FIELDS[name].words} is called “${value}”.`;
    if (name === 'albums') {
      const filters = called(context.albums).map(({ filter }) => filter());
      return filters.length === 0 ? nobody : anyOf(filters);
    }
    const ids = called(context[name]);
    return ids.length === 0 ? nobody : { field: name, oneOf: ids.map(({ id }) => id) };
  }
  if (name === 'label') return labelFilter(value, context.labels);
  if (name === 'stage') return stagesFilter(value, exact, context);
  if (name === 'formats')
    return { field: name, is: value.toLowerCase() === 'jpg' ? 'jpeg' : value.toLowerCase() };
  if (type === 'number') {
    const n = Number(value);
    return Number.isFinite(n) ? { field: name, is: n } : `“${value}” is no number.`;
  }
  // What stands behind one word is the same in each of them, whatever its case.
  if (name === 'verdict' || name === 'role' || name === 'raw')
    return { field: name, is: value.toLowerCase() };
  if (exact) return type === 'words' ? { field: name, phrase: value } : { field: name, is: value };
  const condition = conditionOf(given, unfinished);
  const asked: Filter = { field: name, [condition]: withoutStar(value) } as Filter;
  if (name !== 'keywords') return asked;
  const meant = context.meant?.(condition, withoutStar(value)) ?? [];
  return meant.length === 0 ? asked : { any: [asked, { field: 'keywords', oneOf: [...meant] }] };
}

/** Any of several filters; one that cannot be followed says why. */
function anyOf(filters: readonly (Filter | string)[]): Filter | string {
  const wrong = filters.find((filter) => typeof filter === 'string');
  if (wrong !== undefined) return wrong as string;
  return filters.length === 1 ? filters[0]! : { any: filters as Filter[] };
}

function labelFilter(value: string, names: LineContext['labels']): Filter | string {
  const key = foldText(value);
  const fitting = LABELS.filter(
    (label) => label.toLowerCase() === key || foldText(names?.[label] ?? '') === key,
  );
  const found =
    fitting.length > 0 ? fitting : LABELS.filter((label) => foldText(names?.[label] ?? '').startsWith(key));
  return found.length === 0 ? `No label is called “${value}”.` : { field: 'label', oneOf: found };
}

/** Stages are known by their names, or how these begin, and by their ids. */
function stagesFilter(value: string, exact: boolean, { stages = [], rules }: LineContext): Filter | string {
  const key = foldText(value);
  const called = stages.filter(({ id, name }) => id === value || foldText(name) === key);
  const found =
    called.length > 0 || exact ? called : stages.filter(({ name }) => foldText(name).startsWith(key));
  if (found.length === 0) return `No stage is called “${value}”.`;
  const { keeper } = rules ?? DEFAULT_RULES;
  return anyOf(found.map(({ id }) => stageFilter(id, stages, keeper)));
}

const withoutStar = (text: string): string => text.replace(/\*$/, '');
const conditionOf = (given: string, unfinished: boolean): WordCondition =>
  isQuoted(given)
    ? 'phrase'
    : given.endsWith('*') || (unfinished && !/["“”„]/.test(given))
      ? 'begins'
      : 'word';

/** Where a plain word is looked for. */
const EVERYWHERE: readonly QueryField[] = ['text', 'shoot', 'client', 'place'];

/** Words; several of which one is enough are parted by a bar. */
function wordsPart(text: string, context: LineContext, unfinished: boolean): Read | null {
  const values = alternatives(text).filter((value) => askedWords(plainValue(value)).length > 0);
  const asked = values.map((value, i) => ({
    condition: conditionOf(value, unfinished && i === values.length - 1),
    text: withoutStar(plainValue(value).trim()),
  }));
  // A single letter begins too much to say anything yet.
  const last = asked.at(-1);
  if (unfinished && last?.condition === 'begins' && /^[a-z0-9]$/i.test(last.text)) asked.pop();
  if (asked.length === 0) return null;
  const known = EVERYWHERE.filter((name) => !context.unknown?.includes(name));
  const any = asked.flatMap(({ condition, text: its }): Filter[] => {
    const meant = context.meant?.(condition, its) ?? [];
    return [
      ...known.map((name) => ({ field: name, [condition]: its }) as Filter),
      ...(meant.length > 0 ? [{ field: 'keywords', oneOf: [...meant] } as Filter] : []),
    ];
  });
  const words = values
    .map((value) => (isQuoted(value) ? `“${plainValue(value)}”` : unhidden(value)))
    .join(' or ');
  const [only] = asked;
  return { kind: 'word', words, filter: { any }, ...(asked.length === 1 ? { asked: only } : {}) };
}
