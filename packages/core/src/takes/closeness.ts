import { likenessOf, type Likeness } from '../vision/likeness';
import type { Look } from '../vision/look';

const { log1p, max, min } = Math;

/** Goes up whenever the same two looks would come out differently. */
export const CLOSENESS_VERSION = 1;

/** Keypoints above this tell no more. */
const MANY = 40;
/** Keypoints from which a picture begins to be laid over the other by them, and with which it surely is. */
const [UNSURE, LAID] = [9, 13];

/**
 * How much two pictures look like one subject at one moment, by their pixels alone, as a logit: 0 is as likely as not.
 * Bowls of one glaze have reached 4. The weights are those of a logistic regression over made shoots and open series;
 * what it was fitted on and tried on stands in docs/grouping.md.
 */
export function closeness(likeness: Likeness): number {
  return closenessParts(likeness).reduce((sum, part, i) => sum + part * WEIGHTS[i]!, 0);
}

/** What is weighed of two pictures, in the order of the weights: for whoever fits these anew. */
export function closenessParts({ inliers, changed, other, colour, hash }: Likeness): readonly number[] {
  const laid = min(1, max(0, (inliers - UNSURE) / (LAID - UNSURE)));
  return [
    log1p(min(MANY, inliers)),
    laid * min(1, changed / TOLD) * other,
    colour,
    hash / 32,
    laid * changed,
    1,
  ];
}

/** The share that has to change before its colours tell anything: less is what edges and grain make of one picture. */
const TOLD = 0.06;

const WEIGHTS = [1.75, -9, -10.7, -0.64, 10.7, -1.82];

/** How much a frame looks like what came before it, and where the middle of the one before lies in it. */
export interface Close {
  close: number;
  dx: number;
  dy: number;
}

/**
 * Frames of its body before it that a frame is compared with, where it looks little like the last: who goes on with a
 * subject after half a minute begins where the last burst began, not where it ended.
 */
export const LOOKED_BACK = 3;
/** A closeness from which no further one is looked at, a choice: most frames that go on with a subject are compared once. */
const SURELY = 2.5;
/** Milliseconds up to which the last frame alone is enough: it is the same press, or nearly. */
const AT_ONCE = 1000;

/** Compares a frame with those before it, the last first. `gap`: milliseconds since the last; null: not known. */
export function closest(before: readonly Look[], own: Look, gap: number | null): Close | null {
  const [last, ...further] = before;
  if (!last) return null;
  const likeness = likenessOf(last, own);
  const { dx, dy } = likeness;
  let close = closeness(likeness);
  if (gap === null || gap > AT_ONCE)
    for (const look of further) {
      if (close >= SURELY) break;
      close = max(close, closeness(likenessOf(look, own)));
    }
  return { close, dx, dy };
}
