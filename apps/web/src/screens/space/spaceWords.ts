import type { SpaceKind } from '@arkiv/core';
import { INK, LABEL_COLOURS, MARKER, NOTE } from '../../theme/theme';

export const KIND_WORDS: Readonly<Record<SpaceKind, string>> = {
  raw: 'raws',
  picture: 'JPEGs and other pictures',
  clip: 'clips',
  edit: 'finished pictures',
  other: 'what else lay on cards',
};

export const KIND_COLOURS: Readonly<Record<SpaceKind, string>> = {
  raw: INK.soft,
  picture: MARKER,
  clip: NOTE,
  edit: LABEL_COLOURS.M,
  other: LABEL_COLOURS.S,
};

/** Months of age from which rejects are offered: a quarter for reclamations to come in, a year for a second look at the album. */
export const AGES = [0, 1, 3, 6, 12, 24, 36];

export function ageWords(months: number): string {
  if (months === 0) return 'whatever their age';
  const [n, unit] = months % 12 === 0 ? [months / 12, 'year'] : [months, 'month'];
  return n === 1 ? `at least a ${unit} old` : `at least ${n} ${unit}s old`;
}
