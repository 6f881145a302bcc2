import { bodyKey } from '../metadata/facts';
import type { PlanFrame } from './types';

/** How wrong a body's clock was. */
export interface ClockCorrection {
  /** the body, as `bodyKey` tells it */
  body: string;
  /** added to the body's times, milliseconds */
  millis: number;
}

/** A clock that was never set stands at the camera's first year; none in use is older than this. */
export const MAX_CORRECTION = 50 * 366 * 86_400_000;

/** The frames with their bodies' corrections beside the cameras' own times, which stay as they are. */
export function withCorrections(
  frames: readonly PlanFrame[],
  corrections: readonly ClockCorrection[],
): PlanFrame[] {
  const millis = new Map(corrections.map((c) => [c.body, c.millis]));
  return frames.map((frame) => {
    const { capture } = frame.facts;
    const correctionMillis = millis.get(bodyKey(frame.facts));
    if (!capture || correctionMillis === undefined) return frame;
    return { ...frame, facts: { ...frame.facts, capture: { ...capture, correctionMillis } } };
  });
}

/**
 * `+0:03:27.1`, `-2:00:00`, `3:27` or seconds alone → milliseconds; null for anything else. Parts are hours, minutes
 * and seconds from the right; each but the first stays below 60.
 */
export function parseClockShift(text: string): number | null {
  const match = /^([+\-−]?)(?:(?:(\d{1,6}):)?(\d{1,6}):)?(\d{1,9})(?:[.,](\d{1,3}))?$/.exec(text.trim());
  if (!match) return null;
  const [, sign, hours, minutes, seconds, part] = match;
  if (minutes !== undefined && Number(seconds) > 59) return null;
  if (hours !== undefined && Number(minutes) > 59) return null;
  const whole = Number(hours ?? 0) * 3600 + Number(minutes ?? 0) * 60 + Number(seconds);
  const millis = whole * 1000 + Number((part ?? '').padEnd(3, '0') || 0);
  if (millis > MAX_CORRECTION) return null;
  return sign === '-' || sign === '−' ? 0 - millis : millis;
}

/** Milliseconds as `+0:03:27.100`, without the last part where it is zero. */
export function formatClockShift(millis: number): string {
  const all = Math.abs(millis);
  const two = (n: number) => String(n).padStart(2, '0');
  const rest = all % 1000;
  const seconds = Math.floor(all / 1000);
  return `${millis < 0 ? '−' : '+'}${Math.floor(seconds / 3600)}:${two(Math.floor(seconds / 60) % 60)}:${two(seconds % 60)}${
    rest > 0 ? `.${String(rest).padStart(3, '0')}` : ''
  }`;
}
