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

/** One decision, with its inverse inside. `group` holds what is undone together. */
export interface MarkOperation {
  /** ULID from the window that made it; sending it twice changes nothing */
  id: string;
  frameId: string;
  field: MarkField;
  from: MarkValue;
  to: MarkValue;
  /** milliseconds since 1970 UTC, from the window's clock */
  at: number;
  group: string;
  window: string;
}

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
export function applyMark(marks: Readonly<Marks>, operation: Pick<MarkOperation, 'field' | 'to'>): Marks {
  if (!isMarkValue(operation.field, operation.to)) {
    throw new TypeError(`${operation.field} cannot be ${JSON.stringify(operation.to)}`);
  }
  return { ...marks, [operation.field]: operation.to };
}

/** What a new operation needs from outside core: ids and time. */
export interface Stamp {
  newId: () => string;
  at: number;
  window: string;
}

/** Operations that set `field` to `to` on these frames as one group; frames that have it already are left out. */
export function markFrames(
  frames: readonly { id: string; marks: Readonly<Marks> }[],
  field: MarkField,
  to: MarkValue,
  stamp: Stamp,
): MarkOperation[] {
  const group = stamp.newId();
  return frames
    .filter((frame) => frame.marks[field] !== to)
    .map((frame) => ({
      id: stamp.newId(),
      frameId: frame.id,
      field,
      from: frame.marks[field],
      to,
      at: stamp.at,
      group,
      window: stamp.window,
    }));
}

/**
 * New operations that take a group back: from and to swapped, last first. Fields that someone changed since are
 * skipped and counted, so that undo never wipes out another's decision.
 */
export function invertGroup(
  operations: readonly MarkOperation[],
  current: (frameId: string) => Readonly<Marks> | undefined,
  stamp: Stamp,
): { operations: MarkOperation[]; skipped: number } {
  const group = stamp.newId();
  const inverse: MarkOperation[] = [];
  let skipped = 0;
  for (const operation of [...operations].reverse()) {
    if (current(operation.frameId)?.[operation.field] !== operation.to) {
      skipped += 1;
      continue;
    }
    inverse.push({
      ...operation,
      id: stamp.newId(),
      from: operation.to,
      to: operation.from,
      at: stamp.at,
      group,
      window: stamp.window,
    });
  }
  return { operations: inverse, skipped };
}
