// What is told from looks as they are kept, without a picture: in the pictures' process, beside the thread that answers.
import {
  candidatesFor,
  clockBetween,
  closest,
  sameness,
  unpackLook,
  type Candidate,
  type ClockOffset,
  type Close,
} from '@arkiv/core';

/** A frame's kept look, and those before it, the last first; `gap` as `closest` takes it. */
export interface Compared {
  own: Uint8Array;
  before: readonly Uint8Array[];
  gap: number | null;
}

/** How close frames are to those before them, in their order; null: there is none before. */
export const compare = (frames: readonly Compared[]): (Close | null)[] =>
  frames.map(({ own, before, gap }) => closest(before.map(unpackLook), unpackLook(own), gap));

/** How sure it is of each pair of kept looks that they are one picture, see `sameness`. */
export const same = (pairs: readonly (readonly [Uint8Array, Uint8Array])[]): number[] =>
  pairs.map(([a, b]) => sameness(unpackLook(a), unpackLook(b)));

/** Which of some kept looks a picture may have been made from, see `candidatesFor`. */
export const candidates = (of: Uint8Array, among: readonly Uint8Array[]): Candidate[] =>
  candidatesFor(unpackLook(of), among.map(unpackLook));

/** A moment of a body, with the kept look of one of its frames. */
export interface MomentLooked {
  at: number;
  id: string;
  look: Uint8Array | null;
}

/** By how much the second body's clock is off, by what both saw; null: nothing tells. */
export function clock(first: readonly MomentLooked[], second: readonly MomentLooked[]): ClockOffset | null {
  const looked = (moments: readonly MomentLooked[]) =>
    moments.map(({ at, id, look }) => ({ at, id, look: look && unpackLook(look) }));
  return clockBetween(looked(first), looked(second));
}
