/** A file of a frame, as far as it says whether another frame could stand for it. */
export interface HeldFile {
  /** null: never read whole, so equal to nothing */
  sha256: string | null;
  /** copies of it that were read back and are sound */
  copies: number;
}

/**
 * Whether a frame's files are all held by another one as well, each by as many sound copies: only then nothing is lost when that
 * other one alone stays. A frame without files is held by none.
 */
export function isWithin(own: readonly HeldFile[], other: readonly HeldFile[]): boolean {
  return (
    own.length > 0 &&
    own.every(({ sha256, copies }) => {
      if (sha256 === null) return false;
      return other.some((its) => its.sha256 === sha256 && its.copies > 0 && its.copies >= copies);
    })
  );
}
