import { QUERY_FIELDS, type QueryField, type QueryFrame } from './fields';

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
  | { field: QueryField; none: true };

/** The filter that lets everything through. */
export const EVERYTHING: Filter = { all: [] };

export function matches(filter: Filter, frame: QueryFrame): boolean {
  if ('all' in filter) return filter.all.every((f) => matches(f, frame));
  if ('any' in filter) return filter.any.some((f) => matches(f, frame));
  if ('not' in filter) return !matches(filter.not, frame);
  const value = frame[filter.field];
  if ('none' in filter) return value === null;
  if (value === null) return false;
  if ('is' in filter) return value === filter.is;
  if ('oneOf' in filter) return filter.oneOf.includes(value);
  if ('contains' in filter) return fold(String(value)).includes(fold(filter.contains));
  if (typeof value !== 'number') return false;
  if ('atLeast' in filter) return value >= filter.atLeast;
  if ('atMost' in filter) return value <= filter.atMost;
  return value >= filter.between[0] && value <= filter.between[1];
}

/** Case and accents do not matter when looking for text. */
function fold(text: string): string {
  return text.normalize('NFD').replace(/\p{M}/gu, '').toLowerCase();
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

function leafProblem(node: Record<string, unknown>): string | null {
  const number = (v: unknown) => typeof v === 'number' && Number.isFinite(v);
  if (typeof node.field !== 'string' || !Object.hasOwn(QUERY_FIELDS, node.field)) return 'a known field';
  // SQL turns “3” into 3 where it compares, and the predicate does not: a value of the field's own type, or none.
  const numeric = QUERY_FIELDS[node.field as QueryField].type === 'number';
  const scalar = numeric ? number : (v: unknown) => typeof v === 'string';
  const ordered = (check: (v: unknown) => boolean) => (v: unknown) => numeric && check(v);
  const checks: Record<string, (v: unknown) => boolean> = {
    is: scalar,
    atLeast: ordered(number),
    atMost: ordered(number),
    between: ordered((v) => Array.isArray(v) && v.length === 2 && v.every(number)),
    oneOf: (v) => Array.isArray(v) && v.every(scalar),
    contains: (v) => !numeric && typeof v === 'string',
    none: (v) => v === true,
  };
  const keys = Object.keys(node).filter((k) => k !== 'field');
  const key = keys[0];
  if (keys.length !== 1 || !key || !Object.hasOwn(checks, key))
    return `exactly one of ${Object.keys(checks).join(', ')}`;
  return checks[key]!(node[key]) ? null : `a fitting value for “${key}”`;
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
  const words = QUERY_FIELDS[filter.field].words;
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
  return `no ${words}`;
}

export interface SqlFilter {
  where: string;
  parameters: Scalar[];
}

/** The same filter as an SQL condition over the frame table with `?` parameters. Never puts a value into the text. */
export function toSql(filter: Filter, alias = 'f'): SqlFilter {
  const parameters: Scalar[] = [];
  const text = (f: Filter): string => {
    if ('all' in f) return f.all.length ? `(${f.all.map(text).join(' AND ')})` : '1';
    if ('any' in f) return f.any.length ? `(${f.any.map(text).join(' OR ')})` : '0';
    // A missing value gives NULL in SQL; COALESCE makes it the plain "no" that `matches` says.
    if ('not' in f) return `NOT ${text(f.not)}`;
    const column = `"${alias}"."${QUERY_FIELDS[f.field].column}"`;
    const sure = (condition: string, ...values: Scalar[]) => {
      parameters.push(...values);
      return `COALESCE(${condition}, 0)`;
    };
    if ('none' in f) return `(${column} IS NULL)`;
    if ('is' in f) return sure(`${column} = ?`, f.is);
    if ('atLeast' in f) return sure(`${column} >= ?`, f.atLeast);
    if ('atMost' in f) return sure(`${column} <= ?`, f.atMost);
    if ('between' in f) return sure(`${column} BETWEEN ? AND ?`, ...f.between);
    if ('oneOf' in f) {
      if (f.oneOf.length === 0) return '0';
      return sure(`${column} IN (${f.oneOf.map(() => '?').join(', ')})`, ...f.oneOf);
    }
    // arkiv_fold is registered on every connection: the same folding as `matches`.
    return sure(`instr(arkiv_fold(${column}), ?) > 0`, foldText(f.contains));
  };
  const where = text(filter);
  return { where, parameters };
}

/** The folding that text search uses on both sides: no case, no accents. */
export function foldText(text: string): string {
  return fold(text);
}

/** How many frames have each value of a field; `null` counts the unknown. */
export function facet(field: QueryField, frames: Iterable<QueryFrame>): Map<Scalar | null, number> {
  const counts = new Map<Scalar | null, number>();
  for (const frame of frames) counts.set(frame[field], (counts.get(frame[field]) ?? 0) + 1);
  return counts;
}
