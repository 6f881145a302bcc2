import { FrameOrder } from '../data/frameOrder';
import type { LoadedFrame } from '../data/frames';
import type { ShootState } from '../data/shootStore';

/** A shoot's state as its store gives it. `marked` and `ordered` give the next one, as marks and arriving frames do. */
export function madeShoot(frames: readonly LoadedFrame[]): ShootState {
  return stateOf(frames, new FrameOrder(frames.map(({ id }) => id)), 1, []);
}

interface Change {
  version: number;
  places: readonly number[];
}

const changesOf = new WeakMap<ShootState, readonly Change[]>();

function stateOf(
  frames: readonly LoadedFrame[],
  order: FrameOrder,
  version: number,
  changes: readonly Change[],
): ShootState {
  const begun = version - changes.length;
  const state: ShootState = {
    ...{ frames, order, version, measured: 0, loaded: true, failure: null, canUndo: false, canRedo: false },
    byId: { get: (id) => frames[order.placeOf(id)], has: (id) => order.has(id) },
    changedSince: (since) =>
      since < begun ? null : changes.filter((c) => c.version > since).flatMap(({ places }) => [...places]),
  };
  changesOf.set(state, changes);
  return state;
}

export function marked(shoot: ShootState, marks: Readonly<Record<string, Partial<LoadedFrame>>>): ShootState {
  const frames = shoot.frames.map((frame) => ({ ...frame, ...marks[frame.id] }));
  const change = {
    version: shoot.version + 1,
    places: Object.keys(marks).map((id) => shoot.order.placeOf(id)),
  };
  return stateOf(frames, shoot.order, change.version, [...(changesOf.get(shoot) ?? []), change]);
}

export const ordered = (shoot: ShootState, frames: readonly LoadedFrame[]): ShootState =>
  stateOf(frames, new FrameOrder(frames.map(({ id }) => id)), shoot.version + 1, []);
