import { FEW, likenessOf, pixelsApart } from '../vision/likeness';
import type { Look } from '../vision/look';
import { commonOf } from '../vision/matching';
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
 * Keypoints that agree from which it is worth looking closely: of 141 open pictures 108 parts with 0.4 of each side have as many with their whole,
 * and 138 with half; of 702 pairs of unrelated ones 9.
 */
const WORTH_A_LOOK = 3;

/** One of several pictures that another may have been made from. */
export interface Candidate {
  nth: number;
  /** it looks like it, or can be laid over it: if not this one, one of its scene */
  likely: boolean;
  /** by which candidates stand: the less, the likelier */
  unlikely: number;
}

/** More than pixels can be apart: three values of 255 each. */
const DOUBTFUL = 1000;

/**
 * Of some pictures those that one may have been made from, the likeliest first: those that look like it, or that it can be laid over, by how near
 * their pixels are; then those in which a few keypoints of it are found. Which of them it is their detail tells, see `byDetail`.
 */
export function candidatesFor(look: Look, among: readonly Look[]): Candidate[] {
  const candidates: Candidate[] = [];
  among.forEach((its, nth) => {
    // With fewer, closeness is far below what makes two one: that takes eight at least. It costs twice as much again.
    const { inliers } = commonOf(look.points, its.points);
    if (inliers < WORTH_A_LOOK) return;
    if (inliers >= FEW || sameness(look, its) >= SAME_PICTURE)
      candidates.push({ nth, likely: true, unlikely: Math.min(DOUBTFUL, pixelsApart(look, its)) });
    else candidates.push({ nth, likely: false, unlikely: DOUBTFUL + 1 / inliers });
  });
  return candidates.sort((a, b) => a.unlikely - b.unlikely);
}

function withoutColour(look: Look): Look {
  const { width, height, luma } = look.small;
  const none = new Uint8Array(luma.length).fill(128);
  return { ...look, small: { width, height, luma, blue: none, red: none } };
}
