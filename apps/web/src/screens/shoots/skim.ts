/** The frame under a pointer that is so far along a strip (0…1), of so many spread over it. */
export const frameAtX = (share: number, frames: number): number =>
  Math.max(0, Math.min(frames - 1, Math.floor(share * frames)));

/**
 * The frames that a strip of so many places shows around one of them: this one stands where the pointer is, and the others as they
 * were shot before and after it.
 */
export function windowOf(at: number, frames: number, places: number): number[] {
  const shown = Math.min(places, frames);
  const slot = Math.min(shown - 1, Math.floor((at / Math.max(1, frames)) * shown));
  const first = Math.max(0, Math.min(frames - shown, at - slot));
  return Array.from({ length: shown }, (_, i) => first + i);
}
