import type { MarkOperation } from './marks';

/** Groups of operations, oldest first. Without limit: a season's marks are a few megabytes. */
export interface History {
  done: readonly (readonly MarkOperation[])[];
  undone: readonly (readonly MarkOperation[])[];
}

export const EMPTY_HISTORY: History = { done: [], undone: [] };

/** A new decision: it goes on top, and what was undone can no longer be redone. */
export function record(history: History, operations: readonly MarkOperation[]): History {
  return operations.length === 0 ? history : { done: [...history.done, operations], undone: [] };
}

/**
 * Takes the last group off for undo. `inverse` are the operations that really take it back; they are what redo
 * has to invert in its turn.
 */
export function undone(history: History, inverse: readonly MarkOperation[]): History {
  if (history.done.length === 0) return history;
  const rest = history.done.slice(0, -1);
  return { done: rest, undone: inverse.length > 0 ? [...history.undone, inverse] : history.undone };
}

/** The counterpart of {@link undone}: `inverse` takes the undo back and can itself be undone. */
export function redone(history: History, inverse: readonly MarkOperation[]): History {
  if (history.undone.length === 0) return history;
  const rest = history.undone.slice(0, -1);
  return { done: inverse.length > 0 ? [...history.done, inverse] : history.done, undone: rest };
}
