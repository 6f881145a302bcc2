import { stamped, type Operation, type Stamp } from '../journal/operation';
import { isCorrection } from '../takes/correction';
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
}

export const UNMARKED: Readonly<Marks> = {
  verdict: 'undecided',
  stars: 0,
  label: null,
  note: null,
  take: null,
  piles: '',
};

/** Marks of which a frame has one value. */
export type MarkField = Exclude<keyof Marks, 'piles'>;
/** What a mark changes: one of these, or whether the frame is in one pile, whatever others it is in. */
export type MarkKind = MarkField | PileKind;
export type MarkValue = Marks[MarkField] | boolean;

/** One decision about a frame, as the journal holds it. */
export type MarkOperation = Operation<MarkKind, MarkValue>;

export type PileKind = `pile ${string}`;
/** The kind of what puts frames into a pile (true) or takes them out (false). A pile's id is a ULID. */
export const pileKind = (pileId: string): PileKind => `pile ${pileId}`;
/** Every kind that there is; the one group is a pile's id. */
export const MARK_KIND = /^(?:verdict|stars|label|note|take|pile ([0-9A-Z]{26}))$/;
/** The pile of a kind; null: it is of another kind. */
export const pileOfKind = (kind: string): string | null => MARK_KIND.exec(kind)?.[1] ?? null;

/** The piles that a frame is in. */
export const pilesOf = ({ piles }: Pick<Marks, 'piles'>): string[] => (piles === '' ? [] : piles.split('+'));

/** What a frame's mark of a kind is. */
export function markOf(marks: Readonly<Marks>, kind: MarkKind): MarkValue {
  const pile = pileOfKind(kind);
  return pile === null ? marks[kind as MarkField] : pilesOf(marks).includes(pile);
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
    default:
      return pileOfKind(field) !== null && typeof value === 'boolean';
  }
}

/** The marks after an operation. An operation whose `from` no longer holds is applied all the same: the last wins. */
export function applyMark(marks: Readonly<Marks>, operation: Pick<MarkOperation, 'kind' | 'to'>): Marks {
  if (!isMarkValue(operation.kind, operation.to)) {
    throw new TypeError(`${operation.kind} cannot be ${JSON.stringify(operation.to)}`);
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
