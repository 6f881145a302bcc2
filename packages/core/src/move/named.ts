import { collisionKey } from '../naming/legalName';
import { endingAfter, type MoveFrame, type PlannedMove } from './plan';

/** Where a frame is to lie, and what it is to be called, said one by one. */
export interface NamedPlace {
  id: string;
  name: string;
  folder: string;
  place: string;
}

/**
 * Frames under names that are given one by one, as another archive gave them. All files of a frame keep one base name. What is called so
 * already is left out; `taken` are those whose name another frame has that stays, or that is given first: they stay as they are.
 *
 * @param frames all of the shoot
 */
export function planNamed(
  frames: readonly MoveFrame[],
  wanted: readonly NamedPlace[],
): { moves: PlannedMove[]; taken: string[] } {
  const keyOf = ({ place, name }: Pick<NamedPlace, 'place' | 'name'>) => collisionKey(`${place}/${name}`);
  const byId = new Map(frames.flatMap((frame) => (frame.id === null ? [] : [[frame.id, frame] as const])));
  const leave = wanted.filter((its) => {
    const frame = byId.get(its.id);
    return frame !== undefined && (frame.place !== its.place || frame.name !== its.name);
  });
  const leaving = new Set(leave.map(({ id }) => id));
  const stay = frames.filter(({ id }) => id !== null && !leaving.has(id));
  const taken: string[] = [];
  const moves: PlannedMove[] = [];
  // What cannot go stays in the way of others: gone through until none is left.
  for (let go = leave; ;) {
    const claimed = new Set(stay.map(keyOf));
    const stuck = go.filter((its) => {
      const key = keyOf(its);
      if (claimed.has(key)) return true;
      claimed.add(key);
      return false;
    });
    if (stuck.length === 0) {
      for (const { id, name, folder, place } of go) {
        const frame = byId.get(id)!;
        moves.push({
          id,
          from: { name: frame.name, folder: frame.folder, place: frame.place },
          to: { name, folder, place },
          files: frame.files.map((file) => ({
            assetId: file.assetId,
            from: file.path,
            to: `${place}/${name}${endingAfter(file.path, frame.name)}`,
          })),
        });
      }
      return { moves, taken };
    }
    const gone = new Set(stuck.map(({ id }) => id));
    taken.push(...gone);
    stay.push(...stuck.map(({ id }) => byId.get(id)!));
    go = go.filter(({ id }) => !gone.has(id));
  }
}
