import { standingOf, type KeeperRules } from '@arkiv/core';
import type { LoadedFrame } from '../../../data/frames';

/** Bars of decisions over time: as many as stand apart in a dialog's width. */
const BARS = 24;
/** Milliseconds of a bar at least: of less, each key would be a bar of its own. */
const SHORTEST = 10_000;

/** How many decisions fell into each stretch of the pass; the stretches are equally long. */
export function decisionsOverTime(times: readonly number[]): { stretchMillis: number; counts: number[] } {
  if (times.length === 0) return { stretchMillis: SHORTEST, counts: [] };
  const first = Math.min(...times);
  const whole = Math.max(...times) - first;
  const stretchMillis = Math.max(SHORTEST, Math.ceil((whole + 1) / BARS));
  const counts = new Array<number>(Math.floor(whole / stretchMillis) + 1).fill(0);
  for (const at of times) counts[Math.floor((at - first) / stretchMillis)]! += 1;
  return { stretchMillis, counts };
}

export interface Share {
  words: string;
  kept: number;
  frames: number;
}

/** How many frames were kept, of all that have the same: their hour, or their body. */
export function keptShares(
  frames: readonly LoadedFrame[],
  rules: KeeperRules,
  of: (frame: LoadedFrame) => string,
): Share[] {
  const shares = new Map<string, Share>();
  for (const frame of frames) {
    const words = of(frame);
    const share = shares.get(words) ?? { words, kept: 0, frames: 0 };
    share.frames += 1;
    if (standingOf(rules, frame) === 'keeper') share.kept += 1;
    shares.set(words, share);
  }
  return [...shares.values()].sort((a, b) => (a.words < b.words ? -1 : 1));
}
