import { correctedLocal, instantMillis, shootDay, type CaptureTime } from '../time/captureTime';

/** What splitting needs to know of a frame. */
export interface SplitFrame {
  key: string;
  capture: CaptureTime | null;
}

/** How frames are parted: all together, by the shoot's day, at pauses, or before frames chosen by hand. */
export type SplitRule =
  { by: 'none' } | { by: 'day' } | { by: 'gap'; minutes: number } | { by: 'hand'; before: readonly string[] };

/** A run of frames that becomes one shoot. */
export interface SplitPart {
  keys: string[];
  /** YYYY-MM-DD, the day its first frame belongs to; null where no frame has a time */
  day: string | null;
  /** wall clock HH:mm of its first and last frame */
  from: string | null;
  to: string | null;
}

/**
 * Parts frames that stand in order of time. Frames without a time belong to the part before them: a clip that follows
 * its pictures stays with them.
 */
export function splitFrames(
  frames: readonly SplitFrame[],
  rule: SplitRule,
  zoneMinutes: number,
  dayStartHour: number,
): SplitPart[] {
  const before = rule.by === 'hand' ? new Set(rule.before) : null;
  const parts: SplitFrame[][] = [];
  let last: CaptureTime | null = null;
  for (const frame of frames) {
    const { capture, key } = frame;
    const cut =
      before !== null
        ? before.has(key)
        : last !== null && capture !== null && isCut(rule, last, capture, zoneMinutes, dayStartHour);
    if (parts.length === 0 || cut) parts.push([frame]);
    else parts.at(-1)!.push(frame);
    last = capture ?? last;
  }
  return parts.map((part) => {
    const timed = part.flatMap(({ capture }) => capture ?? []);
    const clock = (time: CaptureTime | undefined) => (time ? correctedLocal(time).slice(11, 16) : null);
    return {
      keys: part.map(({ key }) => key),
      day: timed[0] ? shootDay(timed[0], dayStartHour) : null,
      from: clock(timed[0]),
      to: clock(timed.at(-1)),
    };
  });
}

function isCut(
  rule: SplitRule,
  last: CaptureTime,
  next: CaptureTime,
  zoneMinutes: number,
  dayStartHour: number,
): boolean {
  if (rule.by === 'day') return shootDay(last, dayStartHour) !== shootDay(next, dayStartHour);
  if (rule.by !== 'gap') return false;
  return instantMillis(next, zoneMinutes) - instantMillis(last, zoneMinutes) > rule.minutes * 60_000;
}
