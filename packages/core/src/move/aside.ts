import type { FolderPlan } from '../folders/plan';
import { sidecarOf } from '../intake/plan';
import { collisionKey } from '../naming/legalName';
import { freeName } from '../naming/pattern';
import { endingAfter, type MoveFrame, type MovePlan, type PlannedMove } from './plan';

/**
 * Sets frames aside into their shoot folder's place for rejects, or brings them back to the originals, with all their
 * files and under their own names; below either place they lie in the same folders. What lies there already stays.
 * Pure. `exists` tells whether a place is taken by something that does not move.
 */
export function planAside(
  way: 'aside' | 'back',
  frames: readonly MoveFrame[],
  { originals, rejects }: Pick<FolderPlan, 'originals' | 'rejects'>,
  nextSeq: number,
  exists: (to: string) => boolean,
): MovePlan {
  const [out, into] = way === 'aside' ? [originals, rejects] : [rejects, originals];
  const claimed = new Set<string>();
  const isTaken = (to: string) => claimed.has(collisionKey(to)) || exists(to);
  const moves: PlannedMove[] = [];
  for (const frame of frames) {
    const from = `${frame.folder}/${out}`;
    if (frame.id === null || !(frame.place === from || frame.place.startsWith(`${from}/`))) continue;
    const place = `${frame.folder}/${into}${frame.place.slice(from.length)}`;
    const filesAs = (base: string) =>
      frame.files.map((file) => ({
        assetId: file.assetId,
        from: file.path,
        to: `${place}/${base}${endingAfter(file.path, frame.name)}`,
      }));
    const placesOf = (base: string) => [...filesAs(base).map(({ to }) => to), sidecarOf(place, base)];
    const base = freeName(frame.name, (name) => placesOf(name).some(isTaken));
    for (const to of placesOf(base)) claimed.add(collisionKey(to));
    const { id, name, folder } = frame;
    moves.push({
      id,
      from: { name, folder, place: frame.place },
      to: { name: base, folder, place },
      files: filesAs(base),
    });
  }
  const folders = [...new Set(moves.map((move) => move.to.folder))];
  return { moves, folders, nextSeq, problems: [] };
}
