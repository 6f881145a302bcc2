import { LABELS, type Label } from '@arkiv/core';
import type { StudioSettings } from './settings.service';

/** The studio's label that a text means, its own or another program's, whatever its case. */
export function labelFor(
  text: string,
  { labels, labelAlso }: Pick<StudioSettings, 'labels' | 'labelAlso'>,
): Label | null {
  const meant = text.trim().toLowerCase();
  const also = (label: Label) => labelAlso[label].some((other) => other.toLowerCase() === meant);
  return (
    LABELS.find((label) => labels[label] === text) ??
    LABELS.find((label) => labels[label].toLowerCase() === meant) ??
    LABELS.find(also) ??
    null
  );
}
