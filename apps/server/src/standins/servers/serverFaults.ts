/** How a simulated server fails; what is left as it is in {@link SERVER_WELL} works. */
export interface ServerFaults {
  /** null: as fast as it can */
  bytesPerSecond: number | null;
  /** it hangs up after taking in so many more bytes; null: never */
  cutAfterBytes: number | null;
  /** it is full after so many more bytes; null: never */
  bytesUntilFull: number | null;
  /** it turns everybody away */
  refuses: boolean;
  /** of the next file that it takes in, it changes one byte on the way */
  changesNext: boolean;
}

export const SERVER_WELL: Readonly<ServerFaults> = {
  ...{ bytesPerSecond: null, cutAfterBytes: null, bytesUntilFull: null },
  ...{ refuses: false, changesNext: false },
};

/** What a server does with bytes that come in: thrown for by its faults. */
export class FaultyIntake {
  faults: ServerFaults = { ...SERVER_WELL };

  /** Takes bytes in: waits as a slow line does, and gives them as they are written. */
  async take(bytes: Buffer): Promise<Buffer> {
    const { faults } = this;
    if (faults.bytesPerSecond !== null)
      await new Promise((resolve) => setTimeout(resolve, (1000 * bytes.length) / faults.bytesPerSecond!));
    if (faults.cutAfterBytes !== null) {
      faults.cutAfterBytes -= bytes.length;
      if (faults.cutAfterBytes < 0) {
        faults.cutAfterBytes = null;
        throw new Cut();
      }
    }
    if (faults.bytesUntilFull !== null) {
      if (bytes.length > faults.bytesUntilFull) throw new Full();
      faults.bytesUntilFull -= bytes.length;
    }
    if (!faults.changesNext || bytes.length === 0) return bytes;
    faults.changesNext = false;
    const changed = Buffer.from(bytes);
    changed[changed.length >> 1]! ^= 1;
    return changed;
  }
}

/** The line is gone. */
export class Cut extends Error {}
/** There is no room. */
export class Full extends Error {}

/** Who may come in. */
export const STAND_IN_USER = 'studio';
export const STAND_IN_PASSWORD = 'stand-in';
