import { stamped, type Operation, type Stamp } from '../journal/operation';
import { isCorrection } from '../takes/correction';
import { hasKeyword, isKeyword, keywordKey, keywordsIn } from '../description/keywords';
import { isNote } from './note';

export type Verdict = 'keep' | 'reject' | 'undecided';
export const LABELS = ['A', 'B', 'M', 'S', 'P'] as const;
export type Label = (typeof LABELS)[number];

/** What was decided about a frame. A reject keeps its stars: taking the reject back gives them back. */
export interface Marks {
  verdict: Verdict;
  /** 0…5 */
  stars: number;
  label: Label | null;
  /** words to whoever edits it, perhaps at a spot of it (see `noteOf`); null: none */
  note: string | null;
  /** what was said of its place among takes (see `correctionOf`); null: nothing */
  take: string | null;
  /** ids of the piles that it is in, in order, joined by `+` */
  piles: string;
  /** what is said of it in words, as it goes to whoever publishes it; null: nothing */
  caption: string | null;
  /** its keywords in the order given, each once, joined by line ends; see `keywordsIn` */
  keywords: string;
}

export const UNMARKED: Readonly<Marks> = {
  verdict: 'undecided',
  stars: 0,
  label: null,
  note: null,
  take: null,
  piles: '',
  caption: null,
  keywords: '',
};

/** The marks out of what is known of a frame. */
export const marksIn = ({ verdict, stars, label, note, take, piles, caption, keywords }: Marks): Marks => ({
  ...{ verdict, stars, label, note, take, piles, caption, keywords },
});

/** Marks of which a frame has one value. */
export type MarkField = Exclude<keyof Marks, 'piles' | 'keywords'>;
/** What a mark changes: one of these, or whether the frame is in one pile, or has one keyword, whatever others it has. */
export type MarkKind = MarkField | PileKind | KeywordKind;
export type MarkValue = Marks[MarkField] | boolean;

/** One decision about a frame, as the journal holds it. */
export type MarkOperation = Operation<MarkKind, MarkValue>;

export type PileKind = `pile ${string}`;
/** The kind of what puts frames into a pile (true) or takes them out (false). A pile's id is a ULID. */
export const pileKind = (pileId: string): PileKind => `pile ${pileId}`;
export type KeywordKind = `keyword ${string}`;
/** The kind of what gives frames a keyword (true) or takes it from them (false). */
export const keywordKind = (keyword: string): KeywordKind => `keyword ${keyword}`;
/** Every kind that there is; the groups are a pile's id and a keyword. */
export const MARK_KIND = /^(?:verdict|stars|label|note|take|caption|pile ([0-9A-Z]{26})|keyword (\S.*))$/;
/** The pile of a kind; null: it is of another kind. */
export const pileOfKind = (kind: string): string | null => MARK_KIND.exec(kind)?.[1] ?? null;

/** The keyword of a kind; null: it is of another kind. */
export const keywordOfKind = (kind: string): string | null => MARK_KIND.exec(kind)?.[2] ?? null;

/** The piles that a frame is in. */
export const pilesOf = ({ piles }: Pick<Marks, 'piles'>): string[] => (piles === '' ? [] : piles.split('+'));

/** What a frame's mark of a kind is. */
export function markOf(marks: Readonly<Marks>, kind: MarkKind): MarkValue {
  const pile = pileOfKind(kind);
  if (pile !== null) return pilesOf(marks).includes(pile);
  const keyword = keywordOfKind(kind);
  if (keyword === null) return marks[kind as MarkField];
  return hasKeyword(keywordsIn(marks.keywords), keyword);
}

export function isMarkValue(field: MarkKind, value: unknown): value is MarkValue {
  switch (field) {
    case 'verdict':
      return value === 'keep' || value === 'reject' || value === 'undecided';
    case 'stars':
      return typeof value === 'number' && Number.isInteger(value) && value >= 0 && value <= 5;
    case 'label':
      return value === null || LABELS.includes(value as Label);
    case 'note':
      return value === null || isNote(value);
    case 'take':
      return value === null || isCorrection(value);
    case 'caption':
      return value === null || isCaption(value);
    default:
      return (pileOfKind(field) !== null || isKeyword(keywordOfKind(field))) && typeof value === 'boolean';
  }
}

/** Characters of a caption at most: a sidecar, which holds it, is read up to four times as many bytes. */
const LONGEST_CAPTION = 1_000_000;

/** A caption as it is kept: without blanks around it, lines ended by `\n`; null: nothing is said. */
export const captionIn = (text: string): string | null =>
  text.replace(/\r\n?/g, '\n').trim().slice(0, LONGEST_CAPTION).trimEnd() || null;

const isCaption = (value: unknown): value is string =>
  typeof value === 'string' && value === captionIn(value);

/** What gives and takes keywords so that one kept text of them becomes another. */
export function keywordChanges(
  from: string,
  to: string,
): { kind: KeywordKind; from: boolean; to: boolean }[] {
  const [before, after] = [keywordsIn(from), keywordsIn(to)];
  const of = (words: readonly string[], other: readonly string[], given: boolean) =>
    words
      .filter((word) => !hasKeyword(other, word))
      .map((word) => ({ kind: keywordKind(word), from: !given, to: given }));
  return [...of(before, after, false), ...of(after, before, true)];
}

/** The marks after an operation. An operation whose `from` no longer holds is applied all the same: the last wins. */
export function applyMark(marks: Readonly<Marks>, operation: Pick<MarkOperation, 'kind' | 'to'>): Marks {
  if (!isMarkValue(operation.kind, operation.to)) {
    throw new TypeError(`${operation.kind} cannot be ${JSON.stringify(operation.to)}`);
  }
  const keyword = keywordOfKind(operation.kind);
  if (keyword !== null) {
    const others = keywordsIn(marks.keywords).filter((its) => keywordKey(its) !== keywordKey(keyword));
    if (!operation.to) return { ...marks, keywords: others.join('\n') };
    // Given again it stays where it stands, as it was written first.
    if (markOf(marks, operation.kind)) return marks;
    return { ...marks, keywords: [...others, keyword].join('\n') };
  }
  const pile = pileOfKind(operation.kind);
  if (pile === null) return { ...marks, [operation.kind]: operation.to };
  const others = pilesOf(marks).filter((id) => id !== pile);
  const piles = operation.to ? [...others, pile].sort() : others;
  return { ...marks, piles: piles.join('+') };
}

/** Operations that set a mark on these frames as one group; frames that have it already are left out. */
export function markFrames(
  frames: readonly { id: string; marks: Readonly<Marks> }[],
  kind: MarkKind,
  to: MarkValue,
  stamp: Stamp,
): MarkOperation[] {
  return markEach(
    frames.map((frame) => ({ ...frame, field: kind, to })),
    stamp,
  );
}

/** Operations that set marks of several kinds as one group; what a frame has already is left out. */
export function markEach(
  changes: readonly { id: string; marks: Readonly<Marks>; field: MarkKind; to: MarkValue }[],
  stamp: Stamp,
): MarkOperation[] {
  const shared = stamped(stamp);
  return changes
    .filter(({ marks, field, to }) => markOf(marks, field) !== to)
    .map(({ id, marks, field, to }) => ({
      ...{ id: stamp.newId(), kind: field, subject: id, from: markOf(marks, field), to },
      ...shared,
    }));
}
