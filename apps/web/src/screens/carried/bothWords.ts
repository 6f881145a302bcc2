import { many } from '../../data/format';
import type { Api } from '../../data/http';
import { noteOf, shownName, type Stage } from '@arkiv/core';

/** What the studio calls its labels and stages. */
export interface Names {
  labels: Readonly<Record<string, string>>;
  stages: readonly Pick<Stage, 'id' | 'name'>[];
}

/** What a mark is of, in words. */
export function kindWords(kind: string): string {
  const [set = '', ...rest] = kind.split(' ');
  const more = rest.join(' ');
  if (set === 'keyword' || set === 'person') return `${set} “${shownName(more)}”`;
  if (set === 'pile' || set === 'album') return `place in ${set === 'pile' ? 'a pile' : 'an album'}`;
  if (set === 'text' || set === 'finish') return more;
  if (set === 'shoot') return `${more} of the shoot`;
  return kind;
}

/** A mark's value in words, as its own kind says it. */
export function valueWords(kind: string, value: unknown, { labels, stages }: Names): string {
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if (value === null || value === '') return 'none';
  if (kind === 'stars') return value === 0 ? 'none' : `${Number(value)}★`;
  if (kind === 'label') return labels[String(value)] ?? String(value);
  if (kind === 'stage') return stages.find(({ id }) => id === value)?.name ?? String(value);
  if (kind === 'note') return shownName(noteOf(String(value)).words);
  if (kind.startsWith('album ')) return 'in it';
  return shownName(typeof value === 'object' ? JSON.stringify(value) : String(value));
}

/** Where a frame went on the way: its folder's own name, and what it is called where that is another. */
export const placeWords = ({
  here,
  name,
  place,
}: Pick<Api['NamedThereDto'], 'here' | 'name' | 'place'>): string =>
  `${here} → ${place.slice(place.lastIndexOf('/') + 1)}${name === here ? '' : `/${name}`}`;

/** How much came. */
export function cameWords({
  shoots,
  frames,
  decisions,
}: Record<'shoots' | 'frames' | 'decisions', number>): string {
  const parts = [
    ...(frames > 0 ? [`${many(frames, 'frame')} that ${frames === 1 ? 'was' : 'were'} not here`] : []),
    ...(decisions > 0
      ? [`${many(decisions, 'decision')} that ${decisions === 1 ? 'was' : 'were'} not known here`]
      : []),
  ];
  const what = parts.length === 0 ? 'nothing in it was new here' : parts.join(', ');
  return `${many(shoots, 'shoot was', 'shoots were')} taken in: ${what}.`;
}
