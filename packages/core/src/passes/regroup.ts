/** The frames of a pass that lie in one shoot. */
export interface PassStretch {
  shootId: string;
  frames: number;
}

/** A pass, as far as it says which frames it goes over and where they lie. */
export interface PassFrames {
  /** ids; those of one shoot stand together, in the order of the stretches */
  frames: readonly string[];
  stretches: readonly PassStretch[];
  /** places of the seen ones among `frames` */
  seen: ReadonlySet<number>;
}

/**
 * The same pass after frames went into other shoots: frames of one shoot stand together again, shoots as their first frames come, and
 * what was seen stays seen. `where`: the shoot of a frame that is here; one that is not (it lies in the bin, it was deleted) goes with
 * the frame before it of its stretch, the first ones with the frame after them. Null: nothing changes.
 */
export function regrouped(
  { frames, stretches, seen }: PassFrames,
  where: (id: string) => string | undefined,
): PassFrames | null {
  const byShoot = new Map<string, number[]>();
  let from = 0;
  for (const { shootId, frames: length } of stretches) {
    const places = Array.from({ length }, (_, i) => from + i);
    const first = places.find((place) => where(frames[place]!) !== undefined);
    let its = first === undefined ? shootId : where(frames[first]!)!;
    for (const place of places) {
      its = where(frames[place]!) ?? its;
      const there = byShoot.get(its);
      if (there) there.push(place);
      else byShoot.set(its, [place]);
    }
    from += length;
  }
  const now = [...byShoot].map(([shootId, { length }]) => ({ shootId, frames: length }));
  const same =
    now.length === stretches.length &&
    now.every((its, n) => its.shootId === stretches[n]!.shootId && its.frames === stretches[n]!.frames);
  // With the same shoots, each as long as it was, frames may still have changed places.
  const order = [...byShoot.values()].flat();
  if (same && order.every((place, n) => place === n)) return null;
  return {
    frames: order.map((place) => frames[place]!),
    stretches: now,
    seen: new Set(order.flatMap((place, n) => (seen.has(place) ? [n] : []))),
  };
}
