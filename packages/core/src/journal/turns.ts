/** A group of operations that takes another one back: a decision, or what took that back. */
export interface Undoing {
  /** the group's id */
  id: string;
  /** the group that it takes back */
  undoes: string;
  /** milliseconds since 1970 UTC */
  at: number;
}

/** Where a decision stands after all that was taken back and done again. */
export interface Turned {
  /** the group that holds by now, and is taken back next: the decision's own, or the last that turned it */
  last: string;
  isUndone: boolean;
  /** when it was turned last; null: never */
  at: number | null;
}

/**
 * Follows a decision through what took it back, what took that back, and so on: after an odd number of steps it is undone.
 * `undoings` in the journal's order; where two windows took the same back, the later one counts.
 */
export function turned(group: string, undoings: readonly Undoing[]): Turned {
  const next = new Map(undoings.map((undoing) => [undoing.undoes, undoing]));
  const now: Turned = { last: group, isUndone: false, at: null };
  for (let step = next.get(group); step; step = next.get(step.id)) {
    next.delete(step.undoes);
    Object.assign(now, { last: step.id, isUndone: !now.isUndone, at: step.at });
  }
  return now;
}
