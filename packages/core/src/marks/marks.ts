import { stamped, type Operation, type Stamp } from '../journal/operation';

export type Verdict = 'keep' | 'reject' | 'undecided';
export const LABELS = ['A', 'B', 'M', 'S', 'P'] as const;
export type Label = (typeof LABELS)[number];

/** What was decided about a frame. A reject keeps its stars: taking the reject back gives them back. */
export interface Marks {
  verdict: Verdict;
  /** 0…5 */
  stars: number;
  label: Label | null;
}

export const UNMARKED: Readonly<Marks> = { verdict: 'undecided', stars: 0, label: null };

export type MarkField = keyof Marks;
export type MarkValue = Marks[MarkField];

/** One decision about a frame, as the journal holds it. */
export type MarkOperation = Operation<MarkField, MarkValue>;

export function isMarkValue(field: MarkField, value: unknown): value is MarkValue {
  switch (field) {
    case 'verdict':
      return value === 'keep' || value === 'reject' || value === 'undecided';
    case 'stars':
      return typeof value === 'number' && Number.isInteger(value) && value >= 0 && value <= 5;
    case 'label':
      return value === null || LABELS.includes(value as Label);
  }
}

/** The marks after an operation. An operation whose `from` no longer holds is applied all the same: the last wins. */
export function applyMark(marks: Readonly<Marks>, operation: Pick<MarkOperation, 'kind' | 'to'>): Marks {
  if (!isMarkValue(operation.kind, operation.to)) {
    throw new TypeError(`${operation.kind} cannot be ${JSON.stringify(operation.to)}`);
  }
  return { ...marks, [operation.kind]: operation.to };
}

/** Operations that set a mark on these frames as one group; frames that have it already are left out. */
export function markFrames(
  frames: readonly { id: string; marks: Readonly<Marks> }[],
  kind: MarkField,
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
  changes: readonly { id: string; marks: Readonly<Marks>; field: MarkField; to: MarkValue }[],
  stamp: Stamp,
): MarkOperation[] {
  const shared = stamped(stamp);
  return changes
    .filter(({ marks, field, to }) => marks[field] !== to)
    .map(({ id, marks, field, to }) => ({
      ...{ id: stamp.newId(), kind: field, subject: id, from: marks[field], to },
      ...shared,
    }));
}
