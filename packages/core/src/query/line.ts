import { LABELS, type Label } from '../marks/marks';
import { QUERY_FIELDS, type QueryField } from './fields';
import { inShoot, type Filter, type OfShoot } from './filter';
import { foldText } from './folding';
import { DEFAULT_RULES, standingFilter, type KeeperRules, type Standing } from './keeperRule';
import { camera, fact, format, problem, stars, taken, type LinePart, type Read } from './lineFacts';
import { alternatives, isQuoted, plainValue, tokensOf, unhidden } from './lineTokens';
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
  /** all frames are of this shoot: plain words are not looked for in what is its own, as all of them would have them, or none */
  shoot?: OfShoot;
  /** it is an album's rule, which means the same wherever it is followed */
  rule?: boolean;
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

export type { LinePart };

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

/**
 * A line of words and facts, as `heron fish ≥4★ f/8 2029 keep "North Pier"`, read part by part. What is no fact is words: each must
 * be found in a frame, in its texts, names, keywords, persons or its shoot. Parts that ask for nothing, as a dash, are none.
 */
export function partsOfLine(line: string, context: LineContext = {}): LinePart[] {
  const tokens = tokensOf(line);
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
        filter: ofShoot(negated ? { not: filter } : filter, context),
      },
    ];
  });
}

const ofShoot = (filter: Filter, { shoot }: LineContext): Filter => (shoot ? inShoot(filter, shoot) : filter);

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
  const known = EVERYWHERE.filter(
    (name) => name === 'text' || (!context.unknown?.includes(name) && (!context.shoot || context.rule)),
  );
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
