import { spoken } from '../description/texts';
import { foldText } from './folding';
import {
  columnsOf,
  QUERY_FIELDS,
  textsHeld,
  type FactField,
  type FieldInfo,
  type QueryField,
  type QueryFrame,
} from './fields';
import { asksTexts, asksWords, saidOf, WORD_CONDITIONS, type Said, type WordCondition } from './words';

export type Scalar = string | number;

/** The filter language: a JSON tree. A missing value matches nothing but `none`; `not` is the complement. */
export type Filter =
  | { all: Filter[] }
  | { any: Filter[] }
  | { not: Filter }
  | { field: QueryField; is: Scalar }
  | { field: QueryField; atLeast: number }
  | { field: QueryField; atMost: number }
  | { field: QueryField; between: [number, number] }
  | { field: QueryField; oneOf: Scalar[] }
  | { field: QueryField; contains: string }
  /** this path, or one below it; empty: any */
  | { field: QueryField; within: string }
  | { field: QueryField; word: string }
  | { field: QueryField; begins: string }
  | { field: QueryField; phrase: string }
  | { field: QueryField; none: true };

/** The filter that lets everything through. */
export const EVERYTHING: Filter = { all: [] };

type Predicate = (frame: QueryFrame) => boolean;

/** Filters that were asked before: a screen asks one of ten thousand frames, with each change of it. */
const asked = new WeakMap<Filter, Predicate>();

export const matches = (filter: Filter, frame: QueryFrame): boolean => predicate(filter)(frame);

/** The filter as a question that is quickly asked of many frames. */
export function predicate(filter: Filter): Predicate {
  let known = asked.get(filter);
  if (!known) asked.set(filter, (known = made(filter)));
  return known;
}

function made(filter: Filter): Predicate {
  if ('all' in filter) {
    const parts = filter.all.map(predicate);
    return (frame) => {
      for (const part of parts) if (!part(frame)) return false;
      return true;
    };
  }
  if ('any' in filter) {
    const parts = filter.any.map(predicate);
    return (frame) => {
      for (const part of parts) if (part(frame)) return true;
      return false;
    };
  }
  if ('not' in filter) {
    const part = predicate(filter.not);
    return (frame) => !part(frame);
  }
  const field = QUERY_FIELDS[filter.field];
  if ('none' in filter) return (frame) => valuesOf(field, frame).length === 0;
  const words = wordsAsked(filter);
  if (words) {
    const says = asksWords(words.condition, words.text);
    return (frame) => says(saidBy(filter.field, field, frame));
  }
  const is = condition(filter);
  if (field.type === 'set') return (frame) => field.of(frame).some(is);
  if (field.type === 'words') return (frame) => valuesOf(field, frame).some(is);
  const { column } = field;
  return (frame) => {
    const value = frame[column];
    return value !== null && value !== undefined && is(value);
  };
}

/** The words that a leaf asks for; null: it asks for something else. */
export function wordsAsked(leaf: Leaf): { condition: WordCondition; text: string } | null {
  for (const condition of WORD_CONDITIONS)
    if (condition in leaf) return { condition, text: (leaf as Record<string, unknown>)[condition] as string };
  return null;
}

/** What frames say in a field, each gone through once: a screen asks ten thousand of them with each letter. */
const saidByField = new Map<QueryField, WeakMap<QueryFrame, Said>>();

function saidBy(name: QueryField, field: FieldInfo, frame: QueryFrame): Said {
  let known = saidByField.get(name);
  if (!known) saidByField.set(name, (known = new WeakMap()));
  let said = known.get(frame);
  if (!said) {
    said = saidOf(columnsOf(field).flatMap(({ column, holding }) => textsHeld(holding, frame[column])));
    known.set(frame, said);
  }
  return said;
}

/**
 * Whether columns say words that are asked for, as {@link toSql} asks it: what each holds stands before it. Made once for each
 * question.
 */
export function saysWords(condition: WordCondition, text: string): (columns: readonly unknown[]) => boolean {
  const says = asksTexts(condition, text);
  return (columns) => {
    const texts: string[] = [];
    for (let i = 0; i < columns.length; i += 2)
      texts.push(...textsHeld(columns[i] as Parameters<typeof textsHeld>[0], columns[i + 1]));
    return says(texts);
  };
}

/** Whether one value is what a leaf asks for. */
function condition(leaf: Leaf): (value: Scalar) => boolean {
  if ('is' in leaf) return (value) => value === leaf.is;
  if ('oneOf' in leaf) {
    if (leaf.oneOf.length <= FEW) return (value) => leaf.oneOf.includes(value);
    const wanted = new Set(leaf.oneOf);
    return (value) => wanted.has(value);
  }
  if ('contains' in leaf) {
    const wanted = foldText(leaf.contains);
    return (value) => foldText(String(value)).includes(wanted);
  }
  if ('within' in leaf) {
    const { within } = leaf;
    return (value) => within === '' || value === within || String(value).startsWith(`${within}/`);
  }
  if ('atLeast' in leaf) return (value) => typeof value === 'number' && value >= leaf.atLeast;
  if ('atMost' in leaf) return (value) => typeof value === 'number' && value <= leaf.atMost;
  if ('between' in leaf) {
    const [from, to] = leaf.between;
    return (value) => typeof value === 'number' && value >= from && value <= to;
  }
  throw new Error(`no condition on one value: ${JSON.stringify(leaf)}`);
}

/** Values that are gone through one by one; of more a set is made. */
const FEW = 8;

/** What a frame has of a field; nothing where it is not known. */
function valuesOf(field: FieldInfo, frame: QueryFrame): readonly Scalar[] {
  if (field.type === 'set') return field.of(frame);
  const facts = field.type === 'words' ? field.columns : [field.column];
  return facts.flatMap((fact) => (fact === 'texts' ? spoken(frame.texts) : (frame[fact] ?? [])));
}

export type FilterProblem = { path: string; expected: string; found: string };

/** Levels of nesting and leaves taken from outside: far above what any interface builds, far below trouble. */
const MAX_DEPTH = 16;
const MAX_LEAVES = 500;

/** Checks JSON from outside. Returns the first problem, or null when it is a filter. */
export function filterProblem(value: unknown): FilterProblem | null {
  let leaves = 0;
  const visit = (node: unknown, path: string, depth: number): FilterProblem | null => {
    const wrong = (expected: string): FilterProblem => ({
      path: path || '/',
      expected,
      found: JSON.stringify(node) ?? 'nothing',
    });
    if (typeof node !== 'object' || node === null || Array.isArray(node)) return wrong('a filter object');
    if (depth > MAX_DEPTH) return wrong(`at most ${MAX_DEPTH} levels`);
    for (const key of ['all', 'any'] as const) {
      if (key in node) {
        const list = (node as Record<string, unknown>)[key];
        if (!Array.isArray(list)) return wrong(`a list under “${key}”`);
        for (let i = 0; i < list.length; i++) {
          const problem = visit(list[i], `${path}/${key}/${i}`, depth + 1);
          if (problem) return problem;
        }
        return null;
      }
    }
    if ('not' in node) return visit(node.not, `${path}/not`, depth + 1);
    if (++leaves > MAX_LEAVES) return wrong(`at most ${MAX_LEAVES} conditions`);
    return leafProblem(node as Record<string, unknown>)
      ? wrong(leafProblem(node as Record<string, unknown>)!)
      : null;
  };
  return visit(value, '', 0);
}

/** Whether a filter asks about a field. */
export function asksFor(filter: Filter, field: QueryField): boolean {
  if ('not' in filter) return asksFor(filter.not, field);
  if ('all' in filter || 'any' in filter)
    return ('all' in filter ? filter.all : filter.any).some((part) => asksFor(part, field));
  return filter.field === field;
}

/** What frames have of the one shoot that they are all of. */
export interface OfShoot {
  title: string;
  /** empty: none */
  client: string;
  place: string;
}
const OF_SHOOT: readonly QueryField[] = ['shoot', 'client', 'place'];

/** The same filter among frames of one shoot alone, which have nothing of it with them: what is asked of it holds for all, or for none. */
export function inShoot(filter: Filter, shoot: OfShoot): Filter {
  if ('not' in filter) return { not: inShoot(filter.not, shoot) };
  if ('all' in filter) return { all: filter.all.map((part) => inShoot(part, shoot)) };
  if ('any' in filter) return { any: filter.any.map((part) => inShoot(part, shoot)) };
  if (!OF_SHOOT.includes(filter.field)) return filter;
  const { title, client, place } = shoot;
  const frame = { shoot: title, client: client || null, place: place || null } as QueryFrame;
  return made(filter)(frame) ? EVERYTHING : { any: [] };
}

const isNumber = (v: unknown): boolean => typeof v === 'number' && Number.isFinite(v);
const isText = (v: unknown): boolean => typeof v === 'string';
const isPair = (v: unknown): boolean => Array.isArray(v) && v.length === 2 && v.every(isNumber);
const isTrue = (v: unknown): boolean => v === true;
const listOf = (check: (v: unknown) => boolean) => (v: unknown) => Array.isArray(v) && v.every(check);

const WORDS = { word: isText, begins: isText, phrase: isText };

/** What can be asked of each type of field, and by what. SQL turns “3” into 3 where it compares; the predicate does not. */
const ASKED: Readonly<Record<FieldInfo['type'], Readonly<Record<string, (v: unknown) => boolean>>>> = {
  text: { is: isText, oneOf: listOf(isText), contains: isText, within: isText, ...WORDS, none: isTrue },
  choice: { is: isText, oneOf: listOf(isText), contains: isText, within: isText, ...WORDS, none: isTrue },
  number: {
    ...{ is: isNumber, oneOf: listOf(isNumber), none: isTrue },
    ...{ atLeast: isNumber, atMost: isNumber, between: isPair },
  },
  words: { contains: isText, ...WORDS, none: isTrue },
  set: { is: isText, oneOf: listOf(isText), ...WORDS, none: isTrue },
};
const CONDITIONS = [
  ...['is', 'atLeast', 'atMost', 'between', 'oneOf', 'contains', 'within'],
  ...WORD_CONDITIONS,
  'none',
];

function leafProblem(node: Record<string, unknown>): string | null {
  if (typeof node.field !== 'string' || !Object.hasOwn(QUERY_FIELDS, node.field)) return 'a known field';
  const field = QUERY_FIELDS[node.field as QueryField];
  const checks = ASKED[field.type];
  const keys = Object.keys(node).filter((k) => k !== 'field');
  const key = keys[0];
  if (keys.length !== 1 || !key || !CONDITIONS.includes(key))
    return `exactly one of ${CONDITIONS.join(', ')}`;
  if ((WORD_CONDITIONS as readonly string[]).includes(key) && columnsOf(field).length === 0)
    return 'a field that holds words';
  return Object.hasOwn(checks, key) && checks[key]!(node[key]) ? null : `a fitting value for “${key}”`;
}

/** The same filter in its simplest form: nested groups of one kind joined, groups of one opened, double `not` gone. */
export function normalise(filter: Filter): Filter {
  if ('not' in filter) {
    const inner = normalise(filter.not);
    return 'not' in inner ? inner.not : { not: inner };
  }
  if (!('all' in filter) && !('any' in filter)) return filter;
  const key = 'all' in filter ? 'all' : 'any';
  const list = ('all' in filter ? filter.all : filter.any)
    .map(normalise)
    .flatMap((f) => (key in f ? (f as Record<string, Filter[]>)[key]! : [f]));
  if (list.length === 1) return list[0]!;
  return key === 'all' ? { all: list } : { any: list };
}

/** The sentence for the empty state: what hides the frames. Empty text for the filter that hides nothing. */
export function describe(filter: Filter): string {
  const simple = normalise(filter);
  if ('all' in simple) return simple.all.map(describePart).join(', ');
  return describePart(simple);
}

function describePart(filter: Filter): string {
  if ('all' in filter) return `(${filter.all.map(describePart).join(', ')})`;
  if ('any' in filter) return filter.any.length === 0 ? 'nothing' : filter.any.map(describePart).join(' or ');
  if ('not' in filter) return `not ${describePart(filter.not)}`;
  const { words } = QUERY_FIELDS[filter.field];
  if ('oneOf' in filter && filter.oneOf.length === 0) return 'nothing';
  const star = filter.field === 'stars';
  if ('is' in filter)
    return star
      ? `exactly ${filter.is}★`
      : filter.field === 'verdict'
        ? String(filter.is)
        : `${words} ${filter.is}`;
  if ('atLeast' in filter) return star ? `≥ ${filter.atLeast}★` : `${words} ≥ ${filter.atLeast}`;
  if ('atMost' in filter) return star ? `≤ ${filter.atMost}★` : `${words} ≤ ${filter.atMost}`;
  if ('between' in filter) return `${words} ${filter.between[0]}–${filter.between[1]}`;
  if ('oneOf' in filter)
    return filter.field === 'verdict' ? filter.oneOf.join(' or ') : `${words} ${filter.oneOf.join(' or ')}`;
  if ('contains' in filter) return `${words} contains “${filter.contains}”`;
  if ('within' in filter)
    return filter.within === '' ? `any ${words}` : `${words} ${filter.within} or below it`;
  if ('word' in filter) return `${words} with the words “${filter.word}”`;
  if ('begins' in filter) return `${words} with words that begin like “${filter.begins}”`;
  if ('phrase' in filter) return `${words} says “${filter.phrase}”`;
  return `no ${words}`;
}

export interface SqlFilter {
  where: string;
  parameters: Scalar[];
}

/**
 * The same filter as an SQL condition over the frame table with `?` parameters. Never puts a value into the text. A
 * missing fact makes a comparison NULL, which selects nothing, as it should; under `not` it is asked for by name. So no
 * column is wrapped in a function where an index could serve it.
 */
export function toSql(filter: Filter, alias = 'f'): SqlFilter {
  const parameters: Scalar[] = [];
  const text = (f: Filter, negated: boolean): string => {
    if ('not' in f) return text(f.not, !negated);
    if ('all' in f || 'any' in f) {
      const list = 'all' in f ? f.all : f.any;
      // Of none of them all hold, and none does.
      const and = 'all' in f !== negated;
      if (list.length === 0) return and ? '1' : '0';
      return `(${list.map((part) => text(part, negated)).join(and ? ' AND ' : ' OR ')})`;
    }
    return leafSql(f, QUERY_FIELDS[f.field], alias, negated, parameters);
  };
  const where = text(filter, false);
  return { where, parameters };
}

export type Leaf = Extract<Filter, { field: QueryField }>;

function leafSql(f: Leaf, field: FieldInfo, alias: string, negated: boolean, parameters: Scalar[]): string {
  const not = negated ? 'NOT ' : '';
  const words = wordsAsked(f);
  if (words) {
    parameters.push(words.condition, words.text);
    // arkiv_says is registered on every connection: the same words as the predicate's.
    const held = columnsOf(field).map(({ column, holding }) =>
      field.type === 'words' || field.type === 'set'
        ? `'${holding}', "${alias}"."${column}"`
        : `'${holding}', ${factSql(field, alias)}`,
    );
    return `(arkiv_says(?, ?, ${held.join(', ')}) = ${negated ? 0 : 1})`;
  }
  if (field.type === 'set') {
    if ('none' in f) return `(${negated ? '' : 'NOT '}${field.any(alias)})`;
    const wanted = 'oneOf' in f ? f.oneOf : 'is' in f ? [f.is] : [];
    parameters.push(...wanted);
    return wanted.length === 0
      ? negated
        ? '1'
        : '0'
      : `${not}(${wanted.map(() => field.has(alias)).join(' OR ')})`;
  }
  // arkiv_spoken is registered on every connection.
  const columns =
    field.type === 'words'
      ? field.columns.map((c) => (c === 'texts' ? `arkiv_spoken("${alias}"."texts")` : `"${alias}"."${c}"`))
      : [factSql(field, alias)];
  if ('none' in f) return `(${columns.map((c) => `${c} IS ${not}NULL`).join(negated ? ' OR ' : ' AND ')})`;
  const condition = columns.map((column) => {
    const asked = comparison(f, column, parameters);
    return negated ? `(${column} IS NULL OR NOT ${asked})` : asked;
  });
  return `(${condition.join(negated ? ' AND ' : ' OR ')})`;
}

const factSql = ({ column, sql }: FactField, alias: string): string =>
  sql ? sql(alias) : `"${alias}"."${column}"`;

function comparison(f: Leaf, column: string, parameters: Scalar[]): string {
  const ask = (condition: string, ...values: Scalar[]): string => {
    parameters.push(...values);
    return `(${condition})`;
  };
  if ('is' in f) return ask(`${column} = ?`, f.is);
  if ('atLeast' in f) return ask(`${column} >= ?`, f.atLeast);
  if ('atMost' in f) return ask(`${column} <= ?`, f.atMost);
  if ('between' in f) return ask(`${column} BETWEEN ? AND ?`, ...f.between);
  if ('oneOf' in f)
    return f.oneOf.length === 0
      ? '0'
      : ask(`${column} IN (${f.oneOf.map(() => '?').join(', ')})`, ...f.oneOf);
  if ('within' in f) {
    // What stands below begins so; `0` comes right after the slash. An index by the column serves both.
    const below = `${column} >= ? AND ${column} < ?`;
    return f.within === ''
      ? `(${column} IS NOT NULL)`
      : ask(`${column} = ? OR (${below})`, f.within, `${f.within}/`, `${f.within}0`);
  }
  // arkiv_fold is registered on every connection: the same folding as `matches`.
  return ask(`instr(arkiv_fold(${column}), ?) > 0`, foldText((f as { contains: string }).contains));
}

/** How many frames have each value of a field; `null` counts those that have none. */
export function facet(field: QueryField, frames: Iterable<QueryFrame>): Map<Scalar | null, number> {
  const counts = new Map<Scalar | null, number>();
  for (const frame of frames) {
    const values = valuesOf(QUERY_FIELDS[field], frame);
    for (const value of values.length === 0 ? [null] : values)
      counts.set(value, (counts.get(value) ?? 0) + 1);
  }
  return counts;
}
