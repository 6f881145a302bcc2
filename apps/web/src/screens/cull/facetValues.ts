import { joined, keywordsIn, type Filter } from '@arkiv/core';
import { mediumDay } from '../../data/format';
import type { LoadedFrame } from '../../data/frames';

/** A value that is chosen from; null: it is not known. */
export type Value = string | number | null;

/** Facts of a frame that are chosen from by their values, in the order in which they are offered. */
export const CHOSEN = [
  'label',
  'stage',
  'formats',
  'role',
  'body',
  'lens',
  'aperture',
  'exposure',
  'iso',
  'focalLength',
  'detail',
  'advice',
  'keywords',
  'persons',
] as const;
export type Chosen = (typeof CHOSEN)[number];
/** What frames are called that have no value of a fact, where it is not that nobody knows. */
export const NONE_WORDS: Partial<Record<Chosen, string>> = {
  ...{ stage: 'none said', advice: 'none', keywords: 'no keyword', persons: 'nobody named' },
};
/** Times are chosen as stretches of the shoot. */
export const TIMES = ['day', 'hour'] as const;
export type Stretch = (typeof TIMES)[number];

/** A stretch of time that is chosen: its first frame's and its last one's instant. */
export interface ChosenTime {
  /** `YYYY-MM-DD` or `YYYY-MM-DDTHH`, by the corrected wall clock */
  key: string;
  from: number;
  to: number;
}

type Seen = Pick<LoadedFrame, Exclude<Chosen, 'formats'> | 'format'>;

const parted = (text: string): readonly Value[] => (text === '' ? UNKNOWN : joined(text));
const inLines = (text: string): readonly Value[] => (text === '' ? UNKNOWN : keywordsIn(text));

/** The values that a frame has of a fact: several formats, one of the others, or none. */
export function valuesOf(fact: Chosen, frame: Seen): readonly Value[] {
  if (fact === 'formats') return parted(frame.format);
  if (fact === 'advice') return parted(frame.advice);
  if (fact === 'keywords' || fact === 'persons') return inLines(frame[fact]);
  const value = frame[fact];
  return value === null || value === '' ? UNKNOWN : [value];
}
const UNKNOWN: readonly Value[] = [null];

/** Any of some values of a fact. */
export function chosenFilter(fact: Chosen, chosen: readonly Value[]): Filter {
  const known = chosen.filter((value) => value !== null);
  const parts: Filter[] = [];
  if (known.length > 0) parts.push({ field: fact, oneOf: known });
  if (chosen.includes(null)) parts.push({ field: fact, none: true });
  return parts.length === 1 ? parts[0]! : { any: parts };
}

export const timesFilter = (times: readonly ChosenTime[]): Filter => ({
  any: times.map(({ from, to }) => ({ field: 'instant', between: [from, to] })),
});
/** A stretch of time as it is called. */
export const timeWords = (key: string): string =>
  key.length === 10 ? mediumDay(key) : `${mediumDay(key.slice(0, 10))}, ${key.slice(11)}:00`;
