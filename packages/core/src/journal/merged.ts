import type { Operation } from './operation';

/** Something that was decided on both sides, each not knowing of the other. */
export interface BothSides {
  subject: string;
  kind: string;
  /** what it became on either side */
  here: unknown;
  there: unknown;
  /** which of them holds: the one that was decided later */
  stands: 'here' | 'there';
}

export interface MergedDecisions<O extends Operation = Operation> {
  /** theirs that hold, in their order */
  apply: O[];
  /** theirs that only belong into the history: what was decided here later holds, or both became the same */
  keep: O[];
  both: BothSides[];
}

/**
 * What becomes of decisions that were made in two places apart, thing by thing and field by field: what only one side changed becomes
 * what that side made of it; of what both changed the later holds (at the same moment: here). Nothing is lost, as both are in the history.
 *
 * @param theirs operations made there and not known here, in their order
 * @param mine operations made here and not known there, in their order
 */
export function mergedDecisions<O extends Operation>(
  theirs: readonly O[],
  mine: readonly Operation[],
): MergedDecisions<O> {
  const lastHere = lastOf(mine);
  const lastThere = lastOf(theirs);
  const merged: MergedDecisions<O> = { apply: [], keep: [], both: [] };
  const held = new Set<string>();
  for (const [field, there] of lastThere) {
    const here = lastHere.get(field);
    if (!here) continue;
    const same = JSON.stringify(here.to) === JSON.stringify(there.to);
    const stands = there.at > here.at ? 'there' : 'here';
    if (same || stands === 'here') held.add(field);
    const { subject, kind } = there;
    if (!same) merged.both.push({ subject, kind, here: here.to, there: there.to, stands });
  }
  for (const operation of theirs) (held.has(fieldOf(operation)) ? merged.keep : merged.apply).push(operation);
  return merged;
}

const fieldOf = ({ subject, kind }: Operation): string => `${subject} ${kind}`;

function lastOf<O extends Operation>(operations: readonly O[]): Map<string, O> {
  return new Map(operations.map((operation) => [fieldOf(operation), operation]));
}
