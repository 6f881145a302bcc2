import { correctedLocal, formatLdml, type CaptureTime } from '../time/captureTime';
import { legalOriginal, shortBase, toNamePart, unreserved } from './legalName';

/** A field that names and folders can use. Only data; the interface lists the same table. */
export const NAME_FIELDS = {
  shoot: 'the shoot’s title',
  capture: 'capture time, in date letters such as yyyyMMdd',
  number: 'running number, with its width',
  original: 'the camera’s own base name',
  body: 'the camera model',
  serial: 'the camera’s serial number',
  card: 'the card’s name',
  client: 'the client',
  place: 'the place',
  creator: 'the photographer',
  stars: 'the stars, 0 to 5',
  today: 'the day of today, in date letters',
  due: 'the day it is due, in date letters',
  keyword: 'the first of its keywords',
} as const;
export type NameField = keyof typeof NAME_FIELDS;

/** What a field was called before: patterns that were written then keep working. */
const EARLIER_FIELDS: ReadonlyMap<string, NameField> = new Map([['seq', 'number']]);

export type PatternToken = { text: string } | { field: NameField; format: string };

export type PatternProblem =
  | { kind: 'unknown-field'; field: string }
  | { kind: 'bad-format'; field: string; format: string }
  | { kind: 'unclosed' };

export type PatternResult = { ok: true; tokens: PatternToken[] } | { ok: false; problem: PatternProblem };

/** What a pattern draws on, for one frame. Missing text gives an empty part. */
export interface NameFacts {
  shoot: string;
  capture: CaptureTime | null;
  seq: number;
  original: string;
  body: string;
  serial: string;
  card: string;
  client: string;
  place: string;
  creator: string;
  stars: number;
  /** YYYY-MM-DD, where a name is given by the day; missing: it is empty */
  today?: string;
  due?: string | null;
  /** missing: none */
  keyword?: string;
}

/** Widest sequence: ten digits hold more frames than any shutter lives for. */
const MAX_SEQ_WIDTH = 10;

/** `{number}` without a width: a card of ten thousand frames is rare. */
export const DEFAULT_SEQ_WIDTH = 4;

/** Reads a name pattern: `{field}` or `{field:format}` among plain text. */
export function parsePattern(pattern: string): PatternResult {
  const tokens: PatternToken[] = [];
  let i = 0;
  while (i < pattern.length) {
    const open = pattern.indexOf('{', i);
    if (open < 0) {
      tokens.push({ text: pattern.slice(i) });
      break;
    }
    if (open > i) tokens.push({ text: pattern.slice(i, open) });
    const close = pattern.indexOf('}', open);
    if (close < 0) return { ok: false, problem: { kind: 'unclosed' } };
    const inside = pattern.slice(open + 1, close);
    const colon = inside.indexOf(':');
    const written = (colon < 0 ? inside : inside.slice(0, colon)).trim();
    const field = EARLIER_FIELDS.get(written) ?? written;
    const format = colon < 0 ? '' : inside.slice(colon + 1);
    if (!Object.hasOwn(NAME_FIELDS, field)) return { ok: false, problem: { kind: 'unknown-field', field } };
    if (!formatIsValid(field as NameField, format)) {
      return { ok: false, problem: { kind: 'bad-format', field, format } };
    }
    tokens.push({ field: field as NameField, format });
    i = close + 1;
  }
  return { ok: true, tokens };
}

const isDate = (field: NameField): field is 'capture' | 'today' | 'due' =>
  field === 'capture' || field === 'today' || field === 'due';

function formatIsValid(field: NameField, format: string): boolean {
  if (isDate(field)) return formatLdml('2000-01-01T00:00:00.000', format || 'yyyyMMdd').ok;
  if (field === 'number')
    return format === '' || (/^\d{1,2}$/.test(format) && +format >= 1 && +format <= MAX_SEQ_WIDTH);
  return format === '';
}

/** The text of a pattern for one frame. Plain text stands as written; field values are made fit for names. */
export function renderPattern(tokens: readonly PatternToken[], facts: NameFacts): string {
  return tokens
    .map((token) => ('text' in token ? token.text : fieldText(token.field, token.format, facts)))
    .join('');
}

/** Whether names of a pattern come from the card: equal ones are told apart by a number instead of being refused. */
export function usesOriginal(tokens: readonly PatternToken[]): boolean {
  return tokens.some((token) => 'field' in token && token.field === 'original');
}

/** A frame's base name: the pattern's text, and whatever a card calls its files made fit for every system. */
export function renderName(tokens: readonly PatternToken[], facts: NameFacts): string {
  const name = unreserved(renderPattern(tokens, facts));
  return usesOriginal(tokens) ? shortBase(name) : name;
}

/** Equal names told apart, at most; above, the collision is reported. */
const MAX_EQUAL = 100_000;

/** A name that is free: itself, or with the first number from 2 that is. */
export function freeName(name: string, isTaken: (name: string) => boolean): string {
  let free = name;
  for (let number = 2; number < MAX_EQUAL && isTaken(free); number++) free = `${name}_${number}`;
  return free;
}

function fieldText(field: NameField, format: string, facts: NameFacts): string {
  switch (field) {
    case 'capture': {
      if (!facts.capture) return 'undated';
      const result = formatLdml(correctedLocal(facts.capture), format || 'yyyyMMdd');
      return result.ok ? result.text : '';
    }
    case 'today':
    case 'due': {
      const day = facts[field];
      if (!day) return '';
      const result = formatLdml(`${day}T00:00:00.000`, format || 'yyyyMMdd');
      return result.ok ? result.text : '';
    }
    case 'number':
      return String(facts.seq).padStart(Number(format || DEFAULT_SEQ_WIDTH), '0');
    case 'stars':
      return String(facts.stars);
    case 'original':
      return legalOriginal(facts.original);
    default:
      return toNamePart(facts[field] ?? '');
  }
}

/**
 * The running number that gave a frame this name, or null where the pattern does not give this name to it. Every number
 * that stands in the name is tried: digits of a date or of the camera's name may lie right beside it.
 */
export function numberInName(
  tokens: readonly PatternToken[],
  facts: Omit<NameFacts, 'seq'>,
  name: string,
): number | null {
  for (const { index, 0: digits } of name.matchAll(/\d+/g))
    for (let from = index; from < index + digits.length; from++)
      for (let to = index + digits.length; to > from; to--) {
        const seq = to - from <= MAX_SEQ_WIDTH ? Number(name.slice(from, to)) : NaN;
        if (Number.isSafeInteger(seq) && renderPattern(tokens, { ...facts, seq }) === name) return seq;
      }
  return null;
}

/** The same fields in running text: values stand as they are, nothing is made fit for names. */
export function renderText(tokens: readonly PatternToken[], facts: NameFacts): string {
  return tokens
    .map((token) => {
      if ('text' in token) return token.text;
      const { field, format } = token;
      if (field === 'capture') return facts.capture ? fieldText(field, format, facts) : '';
      return field === 'number' || field === 'stars' || isDate(field)
        ? fieldText(field, format, facts)
        : (facts[field] ?? '');
    })
    .join('')
    .normalize('NFC');
}

/** One sentence for a problem, with the next step. */
export function describePatternProblem(pattern: string, problem: PatternProblem): string {
  switch (problem.kind) {
    case 'unknown-field':
      return `The pattern “${pattern}” names the field “${problem.field}”, which does not exist. Use one of: ${Object.keys(NAME_FIELDS).join(', ')}.`;
    case 'bad-format':
      return `The pattern “${pattern}” gives “${problem.field}” the format “${problem.format}”, which cannot be read. Dates use yyyy MM dd HH mm ss SSS, numbers a width such as 4.`;
    case 'unclosed':
      return `The pattern “${pattern}” opens a brace and does not close it. Write fields as {shoot}.`;
  }
}
