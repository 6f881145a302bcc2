import { likenessOf, pixelsApart } from '../vision/likeness';
import type { Look } from '../vision/look';
import { closeness } from './closeness';
import { cameraNameOf } from './kinds';

/** One of several frames that a camera dated to one moment. */
export interface MomentFrame {
  id: string;
  /** as its file was called by the camera, or by who processed it */
  original: string;
  /** tells one camera from another; null: its file does not say */
  body: string | null;
}

/** Whether two frames of one moment are one picture, by their names and cameras; `looks`: only what they show can tell. */
export type Told = 'same' | 'other' | 'looks';

/**
 * A camera gives each press a number: frames of one camera with the same number are one picture, processed in several ways or
 * written in several formats; with different ones they are two presses of a burst. Of other names nothing is known.
 */
export function toldOf(a: Omit<MomentFrame, 'id'>, b: Omit<MomentFrame, 'id'>): Told {
  if (a.body !== null && b.body !== null && a.body !== b.body) return 'other';
  const [nameA, nameB] = [cameraNameOf(a.original), cameraNameOf(b.original)];
  if (nameA === null || nameB === null) return 'looks';
  if (nameA === nameB) return 'same';
  return seriesOf(nameA) === seriesOf(nameB) ? 'other' : 'looks';
}

/** What stands before the number, and how many digits that has: `OCK_0012` → `OCK_#4`. */
const seriesOf = (name: string): string => name.replace(/\d+$/, (digits) => `#${digits.length}`);

/**
 * The frames of one moment, parted into pictures: each with its ids in the order given; pictures of which there is one frame are
 * left out. `alike` tells of two frames whether they show the same; it is asked only where names tell nothing.
 */
export function picturesOf(
  frames: readonly MomentFrame[],
  alike: (a: string, b: string) => boolean,
): string[][] {
  const groups: MomentFrame[][] = [];
  for (const frame of frames) {
    // With one it is surely apart, it does not go even where another of that picture looks like it.
    const home = groups.find((group) => {
      const told = group.map((other) => toldOf(other, frame));
      if (told.includes('same')) return true;
      return !told.includes('other') && group.some(({ id }) => alike(id, frame.id));
    });
    if (home) home.push(frame);
    else groups.push([frame]);
  }
  return groups.filter((group) => group.length > 1).map((group) => group.map(({ id }) => id));
}

/**
 * The sameness from which two pictures are one, processed otherwise. Measured on 98 open pictures (docs/grouping.md): made small, in
 * black and white, brighter, toned, or cut by a fifth, 92 to 97 of them reach it; of 4,753 pairs of others nine do, all of one
 * scene photographed twice.
 */
export const SAME_PICTURE = 2;

/** How sure it is that two pictures are one, as `closeness` tells it, but whatever their colours are: a print in black and white has none. */
export const sameness = (a: Look, b: Look): number =>
  closeness(likenessOf(withoutColour(a), withoutColour(b)));

/**
 * What tells that a picture is a part of another: keypoints that agree on how it lies there, the share of it that the other shows, and how
 * much of that may differ. Measured on 112 open pictures without their colours: of parts with 0.7, 0.6 and 0.5 of each side, square, and of
 * 9 : 16, 108, 104, 83, 109 and 108 are told by it, and among 1,746 pairs of unrelated ones none, where eight keypoints agree at most. By
 * {@link SAME_PICTURE} it was 91, 62, 7, 104 and 88: what is cut off counts there as having changed.
 */
const PART = { inliers: 10, overlap: 0.8, changed: 0.15 } as const;

/** Whether a picture surely is another one, processed otherwise, or a part of it. Another frame of one scene may be taken for it. */
export function isMadeFrom(look: Look, its: Look): boolean {
  const likeness = likenessOf(withoutColour(look), withoutColour(its));
  return (
    closeness(likeness) >= SAME_PICTURE ||
    (likeness.inliers >= PART.inliers && likeness.overlap >= PART.overlap && likeness.changed <= PART.changed)
  );
}

/**
 * Which of some pictures one was made from, as its number: of those that surely show the same the one whose pixels are nearest. −1: none
 * surely does.
 */
export function originalAmong(look: Look, among: readonly Look[]): number {
  let [best, least] = [-1, Infinity];
  among.forEach((its, i) => {
    if (!isMadeFrom(look, its)) return;
    const apart = pixelsApart(look, its);
    if (best < 0 || apart < least) [best, least] = [i, apart];
  });
  return best;
}

function withoutColour(look: Look): Look {
  const { width, height, luma } = look.small;
  const none = new Uint8Array(luma.length).fill(128);
  return { ...look, small: { width, height, luma, blue: none, red: none } };
}
