import { keywordsIn } from '../description/keywords';
import { pilesOf, type Label, type Verdict, type WordSet } from '../marks/marks';

/** The facts of a frame that filters and orders can see. Missing facts are null. */
export interface QueryFrame {
  name: string;
  original: string;
  verdict: Verdict;
  stars: number;
  label: Label | null;
  /** words to whoever edits it; see `Note` */
  note: string | null;
  /** what was said of its place among takes; see `Correction`. No filter asks for it. */
  take: string | null;
  /** corrected instant, milliseconds since 1970 UTC */
  instant: number | null;
  body: string | null;
  lens: string | null;
  aperture: number | null;
  exposure: number | null;
  iso: number | null;
  focalLength: number | null;
  /** original, clip */
  role: string;
  /** formats of its pictures and clips, the raw first, joined by `+`: `dng+jpeg` */
  format: string;
  /** none, only, pair: whether it has a raw, and a picture beside it */
  raw: string;
  /** what is wrong with its picture, seen when it was decoded: `incomplete file` */
  sign: string | null;
  /** how much of its file its picture shows */
  detail: Detail | null;
  /** see `sharpnessOf` */
  sharpness: number | null;
  /** what is said of its picture, see `adviceOf`, joined by `+` */
  advice: string;
  /** whether it has a voice note: {@link VOICE_NOTE} */
  voice: string | null;
  /** {@link AWAY} where no drive that is here holds its picture; drives come and go, so no frame keeps it */
  away?: string | null;
  /** ids of the piles that it is in, joined by `+` */
  piles: string;
  caption: string | null;
  /** joined by line ends */
  keywords: string;
  persons: string;
  /** see `textsIn` */
  texts: string;
}

/**
 * How much of its file a frame's picture shows: all of it; what the camera put into a raw; what was developed of a raw's
 * samples; one moment of a clip.
 */
export type Detail = 'full' | 'embedded' | 'developed' | 'poster';

export const VOICE_NOTE = 'voice note';
export const AWAY = 'on drives that are away';

/** The sign of a picture of which only a part can be decoded. */
export const INCOMPLETE = 'incomplete file';

/** A fact that a frame has once, or not. */
export type Fact = Exclude<keyof QueryFrame, 'piles' | 'take' | 'advice' | 'texts' | WordSet>;

/** What is offered to choose from: each value with its count, a range, or nothing but what is typed. */
export type FacetKind = 'values' | 'range' | 'none';

interface Described {
  /** what a sentence calls it */
  words: string;
  facet: FacetKind;
}

/** One fact, in a column of its own. */
export interface FactField extends Described {
  type: 'text' | 'number' | 'choice';
  /** this table is the only place that names columns of frames */
  column: Fact;
}

/** Words that may stand in any of several facts. */
export interface WordsField extends Described {
  type: 'words';
  columns: readonly (Fact | WordSet | 'texts')[];
}

/** What a frame has several of, or none: formats and piles; keywords and albums are of this kind. */
export interface SetField extends Described {
  type: 'set';
  of: (frame: QueryFrame) => readonly string[];
  /** SQL that is 1 or 0: whether the frame of this alias has what its one parameter says */
  has: (alias: string) => string;
  /** SQL that is 1 or 0: whether it has any */
  any: (alias: string) => string;
}

export type FieldInfo = FactField | WordsField | SetField;

const FACTS: Readonly<Record<Fact, FactField>> = {
  name: { type: 'text', facet: 'none', words: 'name', column: 'name' },
  original: { type: 'text', facet: 'none', words: 'camera’s name', column: 'original' },
  verdict: { type: 'choice', facet: 'values', words: 'verdict', column: 'verdict' },
  stars: { type: 'number', facet: 'values', words: 'stars', column: 'stars' },
  label: { type: 'choice', facet: 'values', words: 'label', column: 'label' },
  note: { type: 'text', facet: 'none', words: 'note', column: 'note' },
  caption: { type: 'text', facet: 'none', words: 'caption', column: 'caption' },
  instant: { type: 'number', facet: 'range', words: 'capture time', column: 'instant' },
  body: { type: 'choice', facet: 'values', words: 'body', column: 'body' },
  lens: { type: 'choice', facet: 'values', words: 'lens', column: 'lens' },
  aperture: { type: 'number', facet: 'range', words: 'aperture', column: 'aperture' },
  exposure: { type: 'number', facet: 'range', words: 'shutter time', column: 'exposure' },
  iso: { type: 'number', facet: 'range', words: 'ISO', column: 'iso' },
  focalLength: { type: 'number', facet: 'range', words: 'focal length', column: 'focalLength' },
  role: { type: 'choice', facet: 'values', words: 'kind', column: 'role' },
  format: { type: 'choice', facet: 'values', words: 'format', column: 'format' },
  raw: { type: 'choice', facet: 'values', words: 'raw', column: 'raw' },
  sign: { type: 'choice', facet: 'values', words: 'sign', column: 'sign' },
  detail: { type: 'choice', facet: 'values', words: 'detail', column: 'detail' },
  sharpness: { type: 'number', facet: 'range', words: 'sharpness', column: 'sharpness' },
  voice: { type: 'choice', facet: 'values', words: 'voice note', column: 'voice' },
  away: { type: 'choice', facet: 'values', words: 'drives', column: 'away' },
};

/** What stands in one column, joined by `+`, taken apart. */
export const joined = (text: string): string[] => text.split('+').filter((part) => part !== '');

/** SQL that is 1 or 0: whether such a column has what its one parameter says. */
const hasJoined = (alias: string, column: string): string =>
  `instr('+' || "${alias}"."${column}" || '+', '+' || ? || '+') > 0`;

/** A field of words that are kept joined by line ends. */
const wordSet = (set: WordSet, words: string): SetField => ({
  ...{ type: 'set', facet: 'values', words },
  of: (frame) => keywordsIn(frame[set]),
  has: (alias) => `instr(char(10) || "${alias}"."${set}" || char(10), char(10) || ? || char(10)) > 0`,
  any: (alias) => `"${alias}"."${set}" <> ''`,
});

const COMPOSED = {
  text: {
    type: 'words',
    facet: 'none',
    words: 'text',
    columns: ['name', 'original', 'body', 'lens', 'note', 'caption', 'keywords', 'persons', 'texts'],
  },
  advice: {
    type: 'set',
    facet: 'values',
    words: 'advice',
    of: ({ advice }) => joined(advice),
    has: (alias) => hasJoined(alias, 'advice'),
    any: (alias) => `"${alias}"."advice" <> ''`,
  },
  formats: {
    type: 'set',
    facet: 'values',
    words: 'file format',
    of: ({ format }) => joined(format),
    has: (alias) => hasJoined(alias, 'format'),
    any: (alias) => `"${alias}"."format" <> ''`,
  },
  keywords: wordSet('keywords', 'keyword'),
  persons: wordSet('persons', 'person'),
  piles: {
    type: 'set',
    facet: 'values',
    words: 'pile',
    of: (frame) => pilesOf(frame),
    has: (alias) => hasJoined(alias, 'piles'),
    any: (alias) => `"${alias}"."piles" <> ''`,
  },
} as const satisfies Record<string, WordsField | SetField>;

export type QueryField = Fact | keyof typeof COMPOSED;

/** One list of fields for interface, SQL and docs. */
export const QUERY_FIELDS: Readonly<Record<QueryField, FieldInfo>> = { ...FACTS, ...COMPOSED };

/** Facts by which filters go that are kept with a frame. */
export const QUERY_FACTS: readonly (keyof QueryFrame)[] = [
  ...(Object.keys(FACTS) as Fact[]).filter((fact) => fact !== 'away'),
  'piles',
  'keywords',
  'persons',
  'texts',
  'advice',
];
