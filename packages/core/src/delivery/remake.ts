/** A file of a set: by what it is told from the others of its frame, and what it was made of and by. */
export interface SetFile {
  frameId: string;
  /** which of the frame's files it is: the number of a spec, or what else of it goes along */
  part: string;
  /** digest of all that decides its bytes; null: nobody kept it */
  recipe: string | null;
  /** where it lies, or would lie */
  to: string;
}

/** What is to be done so that a set is what it would be now. */
export interface RemakePlan<Before, Now> {
  /** made of something else, or otherwise, or in another folder by now */
  changed: { before: Before; now: Now }[];
  /** not in it yet */
  fresh: Now[];
  /** as they were made */
  same: { before: Before; now: Now }[];
  /** in it, and no part of it any more */
  gone: Before[];
}

/** Holds what was made against what would be made now, in the order of the latter. Files whose recipe nobody kept count as changed. */
export function remakePlan<Before extends SetFile, Now extends SetFile>(
  before: readonly Before[],
  now: readonly Now[],
): RemakePlan<Before, Now> {
  const keyOf = ({ frameId, part }: SetFile) => `${frameId} ${part}`;
  const left = new Map(before.map((file) => [keyOf(file), file]));
  const plan: RemakePlan<Before, Now> = { changed: [], fresh: [], same: [], gone: [] };
  for (const file of now) {
    const was = left.get(keyOf(file));
    if (!was) plan.fresh.push(file);
    else if (was.recipe !== null && was.recipe === file.recipe && was.to === file.to)
      plan.same.push({ before: was, now: file });
    else plan.changed.push({ before: was, now: file });
    left.delete(keyOf(file));
  }
  plan.gone.push(...left.values());
  return plan;
}
