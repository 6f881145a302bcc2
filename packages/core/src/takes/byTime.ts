/** What is needed of a frame to tell which take it belongs to. */
export interface TimedFrame {
  id: string;
  /** tells one camera from another; null where the file does not say */
  body: string | null;
  /** milliseconds since 1970 UTC, corrected; null where the camera wrote no time */
  instant: number | null;
}

/** Frames of the same moment. */
export interface TimeTake {
  /** id of its first frame */
  key: string;
  /** ids in order of time */
  ids: readonly string[];
}

/**
 * Milliseconds between two presses of the shutter within one take. Cameras shoot bursts and brackets at three frames
 * a second and more; a person who presses anew needs more than a second. Common practice, no source.
 */
export const TAKE_GAP = 1000;

/**
 * Parts frames into takes by time alone: frames of one body that follow each other within `TAKE_GAP`. Two bodies at
 * the same moment make two takes. A frame without a time, or with no neighbour near enough, is a take of its own.
 * `frames` in order of time; takes come in the order of their first frames.
 */
export function takesByTime(frames: readonly TimedFrame[], gap = TAKE_GAP): TimeTake[] {
  const takes: { key: string; ids: string[] }[] = [];
  const open = new Map<string, { take: { ids: string[] }; last: number }>();
  for (const { id, body, instant } of frames) {
    const key = body ?? '';
    const running = open.get(key);
    if (instant !== null && running && Math.abs(instant - running.last) <= gap) {
      running.take.ids.push(id);
      running.last = instant;
      continue;
    }
    const take = { key: id, ids: [id] };
    takes.push(take);
    if (instant !== null) open.set(key, { take, last: instant });
  }
  return takes;
}
