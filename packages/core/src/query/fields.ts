import type { Label, Verdict } from '../marks/marks';

/** The facts of a frame that filters and orders can see. Missing facts are null. */
export interface QueryFrame {
  name: string;
  original: string;
  verdict: Verdict;
  stars: number;
  label: Label | null;
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
}

/** The sign of a picture of which only a part can be decoded. */
export const INCOMPLETE = 'incomplete file';

export type QueryField = keyof QueryFrame;
export type FieldType = 'text' | 'number' | 'choice';

export interface FieldInfo {
  type: FieldType;
  /** what a sentence calls it */
  words: string;
  /** column of the frame table; this table is the only place that names columns */
  column: string;
}

/** One list of fields for interface, SQL and docs. */
export const QUERY_FIELDS: Readonly<Record<QueryField, FieldInfo>> = {
  name: { type: 'text', words: 'name', column: 'name' },
  original: { type: 'text', words: 'camera’s name', column: 'original' },
  verdict: { type: 'choice', words: 'verdict', column: 'verdict' },
  stars: { type: 'number', words: 'stars', column: 'stars' },
  label: { type: 'choice', words: 'label', column: 'label' },
  instant: { type: 'number', words: 'capture time', column: 'instant' },
  body: { type: 'choice', words: 'body', column: 'body' },
  lens: { type: 'choice', words: 'lens', column: 'lens' },
  aperture: { type: 'number', words: 'aperture', column: 'aperture' },
  exposure: { type: 'number', words: 'shutter time', column: 'exposure' },
  iso: { type: 'number', words: 'ISO', column: 'iso' },
  focalLength: { type: 'number', words: 'focal length', column: 'focalLength' },
  role: { type: 'choice', words: 'kind', column: 'role' },
  format: { type: 'choice', words: 'format', column: 'format' },
  raw: { type: 'choice', words: 'raw', column: 'raw' },
  sign: { type: 'choice', words: 'sign', column: 'sign' },
};
