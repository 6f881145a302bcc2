import { LABELS, type MarkField, type MarkValue } from '@arkiv/core';
import { many } from '../../data/format';
import type { Step } from '../../data/shootStore';

export const markWords = (field: MarkField, to: MarkValue): string => {
  if (field === 'stars') return to === 0 ? 'no stars' : `${to}★`;
  if (field === 'label') return to === null ? 'no label' : `label ${to}`;
  return String(to);
};

/** What an undo or redo did. */
export function stepWords({ ids, skipped, elsewhere }: Step, words: string): string {
  const said = [`${words}: ${many(ids.length, 'mark')}`];
  if (elsewhere > 0) said.push(`${many(elsewhere, 'frame')} of them in another shoot now`);
  if (skipped > 0) said.push(`${many(skipped, 'mark')} changed since elsewhere and stayed`);
  return said.join(' · ');
}

/** What the digits after the label's key mean. */
export const labelPrompt = (names: Readonly<Record<string, string>>): string =>
  `Label: ${LABELS.map((label, i) => `${i + 1} ${names[label] ?? label}`).join(' · ')} · 0 none`;
