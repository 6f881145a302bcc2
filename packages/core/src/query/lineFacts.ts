// Facts that are written as photographers write them: stars, dates, the numbers of a camera, formats.
import type { QueryField } from './fields';
import type { Filter } from './filter';
import type { WordCondition } from './words';

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

/** A part of a line without its place. */
export type Read = Omit<LinePart, 'from' | 'to'>;
export const fact = (words: string, filter: Filter): Read => ({ kind: 'fact', words, filter });
export const problem = (words: string, said: string): Read => ({
  ...{ kind: 'fact', words, filter: { all: [] }, problem: said },
});

const BOUND = '(≥|>=|≤|<=|>|<|=)?';
const COMPARED = { '≥': '≥', '>=': '≥', '>': '>', '≤': '≤', '<=': '≤', '<': '<', '=': '' } as const;
type Bound = '≥' | '>' | '≤' | '<' | '';
const boundOf = (text: string | undefined): Bound =>
  text === undefined ? '' : COMPARED[text as keyof typeof COMPARED];

const STARS = new RegExp(`^${BOUND}([0-5])(?:-([0-5]))?(?:★+|\\*|stars?)(\\+)?$`, 'i');

export function stars(text: string): Read | null {
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

export function taken(text: string): Read | null {
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

export function camera(text: string): Read | null {
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

export function format(text: string): Read | null {
  const word = text.toLowerCase();
  if (word === 'raw') return fact('raw', { field: 'raw', oneOf: ['only', 'pair'] });
  if (word === 'clip' || word === 'clips') return fact('clips', { field: 'role', is: 'clip' });
  if (word === 'jpg') return fact('JPEG', { field: 'formats', is: 'jpeg' });
  return FORMATS.includes(word) ? fact(word.toUpperCase(), { field: 'formats', is: word }) : null;
}
