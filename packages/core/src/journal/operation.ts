/**
 * One change of one thing, with its inverse inside. The journal holds all of them in this form, whatever it is that
 * changes: marks now; stages, takes, piles, albums, descriptions and passes have their kinds here too.
 */
export interface Operation<Kind extends string = string, Value = unknown> {
  /** ULID from the window that made it; sending it twice changes nothing */
  id: string;
  /** what is changed: `stars`, `verdict`, … */
  kind: Kind;
  /** id of the thing that it is changed of */
  subject: string;
  from: Value;
  to: Value;
  /** milliseconds since 1970 UTC, from the window's clock */
  at: number;
  /** who: {@link STUDIO}, or the program that wrote it into a sidecar */
  by: string;
  /** what is taken back together */
  group: string;
  /** the pass in which it was made; null: none */
  pass: string | null;
  window: string;
  /** the group that this one takes back; null: it is a decision of its own */
  undoes: string | null;
}

/** Whoever sits at the keys: nobody is told apart there yet. */
export const STUDIO = '';
/** Another program, which changed a sidecar. */
export const PROGRAM = 'program';

/** What a new operation needs from outside core: ids and time. */
export interface Stamp {
  newId: () => string;
  at: number;
  window: string;
  by?: string;
  pass?: string | null;
}

/** What all operations of one new group share. */
export function stamped(stamp: Stamp): Pick<Operation, 'at' | 'by' | 'group' | 'pass' | 'window' | 'undoes'> {
  const { newId, at, window, by = STUDIO, pass = null } = stamp;
  return { at, window, by, pass, group: newId(), undoes: null };
}

/**
 * New operations that take a group back: from and to swapped, last first. What someone changed since is skipped and
 * counted, so that undo never wipes out another's decision. `current` gives what a thing is now; undefined: not there.
 */
export function invertGroup<O extends Operation>(
  operations: readonly O[],
  current: (subject: string, kind: O['kind']) => unknown,
  stamp: Stamp,
): { operations: O[]; skipped: number } {
  const shared = { ...stamped(stamp), undoes: operations[0]?.group ?? null };
  const inverse: O[] = [];
  let skipped = 0;
  for (const operation of [...operations].reverse()) {
    if (current(operation.subject, operation.kind) !== operation.to) {
      skipped += 1;
      continue;
    }
    const { from, to } = operation;
    inverse.push({ ...operation, ...shared, id: stamp.newId(), from: to, to: from });
  }
  return { operations: inverse, skipped };
}

/**
 * New operations, as one group, that bring everything back to where it was before many groups of one piece of work. Of
 * each thing what it was first goes in, and only where it still is what that work left it at last; what was changed
 * since is skipped and counted. `operations` in the journal's order. The group is a decision of its own, and can be taken back.
 */
export function invertAll<O extends Operation>(
  operations: readonly O[],
  current: (subject: string, kind: O['kind']) => unknown,
  stamp: Stamp,
): { operations: O[]; skipped: number } {
  const ways = new Map<string, { first: O; last: O }>();
  for (const operation of operations) {
    const key = `${operation.subject} ${operation.kind}`;
    const known = ways.get(key);
    if (known) known.last = operation;
    else ways.set(key, { first: operation, last: operation });
  }
  const shared = stamped(stamp);
  const inverse: O[] = [];
  let skipped = 0;
  for (const { first, last } of ways.values()) {
    if (first.from === last.to) continue;
    if (current(last.subject, last.kind) !== last.to) skipped += 1;
    else inverse.push({ ...last, ...shared, id: stamp.newId(), from: last.to, to: first.from });
  }
  return { operations: inverse, skipped };
}
