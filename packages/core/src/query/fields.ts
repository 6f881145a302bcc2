import { keywordsIn } from '../description/keywords';
import { textsIn } from '../description/texts';
import { albumsOf, pilesOf, type Label, type Verdict, type WordSet } from '../marks/marks';

/** The facts of a frame that filters and orders can see. Missing facts are null. */
export interface QueryFrame {
  name: string;
  original: string;
  verdict: Verdict;
  stars: number;
  label: Label | null;
  /** words to whoever edits it; see `Note` */
  note: string | null;
  /** id of the stage at which it stands, where one was said; see `stageAt` */
  stage: string | null;
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
  /** {@link EDITED} where an edit of it came back */
  edited: string | null;
  /** {@link FINISHED} where it is finished */
  finished: string | null;
  /** {@link AWAY} where no drive that is here holds its picture; drives come and go, so no frame keeps it */
  away?: string | null;
  /** the folder that its files lie in, below each drive */
  lies?: string;
  /** title, client and place of its shoot, whose own they are */
  shoot?: string;
  client?: string | null;
  place?: string | null;
  /** the minute of the corrected wall clock in digits, see `takenOf` */
  taken?: number | null;
  /** {@link DELIVERED} where a client got it */
  delivered?: string | null;
  /** ids of the drives that hold the file which shows it, joined by `+` */
  drives?: string;
  /** ids of the piles that it is in, joined by `+` */
  piles: string;
  /** see `albumsIn` */
  albums: string;
  caption: string | null;
  /** joined by line ends */
  keywords: string;
  persons: string;
  /** see `textsIn` */
  texts: string;
  /** see `finishOf` */
  finish: string;
}

/**
 * How much of its file a frame's picture shows: all of it; what the camera put into a raw; what was developed of a raw's
 * samples; one moment of a clip.
 */
export type Detail = 'full' | 'embedded' | 'developed' | 'poster';

export const VOICE_NOTE = 'voice note';
export const EDITED = 'edited';
export const FINISHED = 'finished';
export const AWAY = 'on drives that are away';
export const DELIVERED = 'delivered';

/**
 * A corrected wall clock (`YYYY-MM-DDTHH:mm…`) as a number that is read as it is written, to the minute: `202904180914`. So
 * years, days and hours are stretches of numbers, whatever the time zone.
 */
export const takenOf = (time: string | null): number | null =>
  time === null
    ? null
    : Number(time.slice(0, 4)) * 1e8 +
      Number(time.slice(5, 7)) * 1e6 +
      Number(time.slice(8, 10)) * 1e4 +
      Number(time.slice(11, 13)) * 100 +
      Number(time.slice(14, 16));

/** The sign of a picture of which only a part can be decoded. */
export const INCOMPLETE = 'incomplete file';

/** A fact that a frame has once, or not. */
export type Fact = Exclude<
  keyof QueryFrame,
  'piles' | 'albums' | 'drives' | 'take' | 'advice' | 'texts' | 'finish' | WordSet
>;

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
  /** SQL of a fact that no column of frames holds */
  sql?: (alias: string) => string;
}

/** Words that may stand in any of several facts. */
export interface WordsField extends Described {
  type: 'words';
  columns: readonly (Fact | WordSet | 'texts')[];
}

/** What a frame has several of, or none: formats, piles, albums, keywords. */
export interface SetField extends Described {
  type: 'set';
  /** the column that holds it; missing: none does, and its words are not asked for */
  column?: 'advice' | 'format' | 'piles' | WordSet;
  of: (frame: QueryFrame) => readonly string[];
  /** SQL that is 1 or 0: whether the frame of this alias has what its one parameter says */
  has: (alias: string) => string;
  /** SQL that is 1 or 0: whether it has any */
  any: (alias: string) => string;
}

export type FieldInfo = FactField | WordsField | SetField;

const ofShoot = (column: string) => (alias: string) =>
  `(SELECT nullif(s."${column}", '') FROM shoot s WHERE s.id = "${alias}"."shootId")`;

const FACTS: Readonly<Record<Fact, FactField>> = {
  name: { type: 'text', facet: 'none', words: 'name', column: 'name' },
  original: { type: 'text', facet: 'none', words: 'camera’s name', column: 'original' },
  verdict: { type: 'choice', facet: 'values', words: 'verdict', column: 'verdict' },
  stars: { type: 'number', facet: 'values', words: 'stars', column: 'stars' },
  label: { type: 'choice', facet: 'values', words: 'label', column: 'label' },
  stage: { type: 'choice', facet: 'values', words: 'stage', column: 'stage' },
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
  edited: { type: 'choice', facet: 'values', words: 'edits', column: 'edited' },
  finished: {
    ...{ type: 'choice', facet: 'values', words: 'finishing', column: 'finished' },
    sql: (alias) => `CASE WHEN "${alias}"."finish" <> '' THEN '${FINISHED}' END`,
  },
  away: { type: 'choice', facet: 'values', words: 'drives', column: 'away' },
  shoot: { type: 'choice', facet: 'values', words: 'shoot', column: 'shoot', sql: ofShoot('title') },
  client: { type: 'choice', facet: 'values', words: 'client', column: 'client', sql: ofShoot('client') },
  place: { type: 'choice', facet: 'values', words: 'place', column: 'place', sql: ofShoot('place') },
  lies: {
    ...{ type: 'choice', facet: 'values', words: 'folder', column: 'lies' },
    sql: (alias) => `"${alias}"."place"`,
  },
  taken: {
    ...{ type: 'number', facet: 'range', words: 'taken', column: 'taken' },
    sql: (alias) =>
      `CAST(strftime('%Y%m%d%H%M', "${alias}"."local", (("${alias}".millis + "${alias}"."correctionMillis") / 1000.0) || ' seconds') AS integer)`,
  },
  delivered: {
    ...{ type: 'choice', facet: 'values', words: 'delivery', column: 'delivered' },
    sql: (alias) =>
      `(SELECT '${DELIVERED}' FROM delivery_file g JOIN delivery v ON v.id = g."deliveryId" AND v."finishedAt" IS NOT NULL
        WHERE g."frameId" = "${alias}".id AND g.fate = 'made' LIMIT 1)`,
  },
};

/** What stands in one column, joined by `+`, taken apart. */
export const joined = (text: string): string[] => text.split('+').filter((part) => part !== '');

/** SQL that is 1 or 0: whether such a column has what its one parameter says. */
const hasJoined = (alias: string, column: string): string =>
  `instr('+' || "${alias}"."${column}" || '+', '+' || ? || '+') > 0`;

/** A field of words that are kept joined by line ends. */
const wordSet = (set: WordSet, words: string): SetField => ({
  ...{ type: 'set', facet: 'values', words, column: set },
  of: (frame) => keywordsIn(frame[set]),
  has: (alias) => `instr(char(10) || "${alias}"."${set}" || char(10), char(10) || ? || char(10)) > 0`,
  any: (alias) => `"${alias}"."${set}" <> ''`,
});

/** Where the file lies that shows it, as `away` asks too. */
const onDrives = (alias: string): string => `SELECT 1 FROM copy c WHERE c."assetId" = "${alias}"."shownBy"`;

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
    column: 'advice',
    of: ({ advice }) => joined(advice),
    has: (alias) => hasJoined(alias, 'advice'),
    any: (alias) => `"${alias}"."advice" <> ''`,
  },
  formats: {
    type: 'set',
    facet: 'values',
    words: 'file format',
    column: 'format',
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
    column: 'piles',
    of: (frame) => pilesOf(frame),
    has: (alias) => hasJoined(alias, 'piles'),
    any: (alias) => `"${alias}"."piles" <> ''`,
  },
  albums: {
    type: 'set',
    facet: 'values',
    words: 'album',
    of: (frame) => albumsOf(frame),
    has: (alias) => `instr('+' || "${alias}"."albums", '+' || ? || ':') > 0`,
    any: (alias) => `"${alias}"."albums" <> ''`,
  },
  drives: {
    type: 'set',
    facet: 'values',
    words: 'drive',
    of: ({ drives = '' }) => joined(drives),
    has: (alias) => `EXISTS (${onDrives(alias)} AND c."volumeId" = ?)`,
    any: (alias) => `EXISTS (${onDrives(alias)})`,
  },
} as const satisfies Record<string, WordsField | SetField>;

/** What a column holds: one text, texts by field (see `textsIn`), several of them a line each, or several joined by `+`. */
type Holding = 'text' | 'texts' | 'lines' | 'joined';
const HOLDING: Readonly<Partial<Record<keyof QueryFrame, Holding>>> = {
  ...{ texts: 'texts', keywords: 'lines', persons: 'lines', piles: 'joined', advice: 'joined' },
};

/** The columns whose words a field is asked for, and what each holds. */
export function columnsOf(field: FieldInfo): { column: keyof QueryFrame; holding: Holding }[] {
  const columns: readonly (keyof QueryFrame)[] =
    field.type === 'words' ? field.columns : field.column === undefined ? [] : [field.column];
  const usual = field.type === 'set' ? 'joined' : 'text';
  return columns.map((column) => ({ column, holding: HOLDING[column] ?? usual }));
}

/** The texts that a column holds, each of which belongs to no other. */
export function textsHeld(holding: Holding, kept: unknown): string[] {
  if (kept === null || kept === undefined || kept === '') return [];
  const text = String(kept);
  switch (holding) {
    case 'text':
      return [text];
    case 'texts':
      return Object.values(textsIn(text));
    case 'lines':
      return keywordsIn(text);
    case 'joined':
      return joined(text);
  }
}

export type QueryField = Fact | keyof typeof COMPOSED;

/** One list of fields for interface, SQL and docs. */
export const QUERY_FIELDS: Readonly<Record<QueryField, FieldInfo>> = { ...FACTS, ...COMPOSED };

/** Facts by which filters go that no frame keeps: they are those of its shoot, of drives and of clients. */
export const NOT_KEPT = ['away', 'shoot', 'client', 'place', 'delivered', 'drives'] as const;

/** Facts by which filters go that are kept with a frame. */
export const QUERY_FACTS: readonly (keyof QueryFrame)[] = [
  ...(Object.keys(FACTS) as Fact[]).filter(
    (fact) => fact !== 'taken' && fact !== 'lies' && !(NOT_KEPT as readonly string[]).includes(fact),
  ),
  'piles',
  'albums',
  'keywords',
  'persons',
  'texts',
  'advice',
];
