import type { FinishField, Mono } from '@arkiv/core';

/** What values are called, and what they say in either direction. */
export const FINISH_WORDS: Readonly<Record<FinishField, string>> = {
  turn: 'quarter turn',
  angle: 'level',
  crop: 'crop',
  exposure: 'exposure',
  temperature: 'warmth',
  tint: 'tint',
  contrast: 'contrast',
  highlights: 'highlights',
  shadows: 'shadows',
  mono: 'black and white',
};

export const MONO_WORDS: Readonly<Record<Mono, string>> = {
  plain: 'black and white',
  yellow: 'through yellow',
  red: 'through red',
  green: 'through green',
};

/** Values that are put on other frames together. */
export const FINISH_GROUPS = [
  { id: 'tones', words: 'exposure and tones', fields: ['exposure', 'contrast', 'highlights', 'shadows'] },
  { id: 'balance', words: 'white balance', fields: ['temperature', 'tint'] },
  { id: 'mono', words: 'black and white', fields: ['mono'] },
  { id: 'shape', words: 'crop, level, turn', fields: ['turn', 'angle', 'crop'] },
] as const satisfies readonly { id: string; words: string; fields: readonly FinishField[] }[];
export type FinishGroup = (typeof FINISH_GROUPS)[number]['id'];

/** Digits behind the point of what is shown. */
const DIGITS: Readonly<Partial<Record<FinishField, number>>> = { exposure: 2, angle: 1 };

/** A number as it stands beside its slider: +0.35, −12. */
export function shownValue(field: FinishField, value: number): string {
  const text = Math.abs(value).toFixed(DIGITS[field] ?? 0);
  return `${value < 0 ? '−' : value > 0 ? '+' : ''}${text}`;
}

/** A number as somebody types it; null: it is none. */
export function typedValue(text: string): number | null {
  const plain = text.trim().replace('−', '-').replace(',', '.');
  return /^[+-]?\d*\.?\d+$/.test(plain) ? Number(plain) : null;
}
