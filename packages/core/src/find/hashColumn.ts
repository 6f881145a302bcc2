import { bitsSet } from '../vision/hashes';
import type { Bits } from './bits';

/** A picture's hash, see `dctHash`: its lower and its upper 32 bits. */
export type PictureHash = readonly [low: number, high: number];

/** What pictures are like, by the frame's number; both halves 0 where nobody has looked. */
export class HashColumn {
  private hashes = new Uint32Array(2048);

  set(n: number, [low, high]: PictureHash): void {
    if (2 * n + 1 >= this.hashes.length) {
      const more = new Uint32Array(Math.max(2 * n + 2, 2 * this.hashes.length));
      more.set(this.hashes);
      this.hashes = more;
    }
    [this.hashes[2 * n], this.hashes[2 * n + 1]] = [low, high];
  }

  /** Null: it is not known. */
  get(n: number): PictureHash | null {
    const [low, high] = [this.hashes[2 * n] ?? 0, this.hashes[2 * n + 1] ?? 0];
    return low === 0 && high === 0 ? null : [low, high];
  }

  /** How alike pictures are to one: numbers and bits that differ, the most alike first; at most so many, none that differs by more. */
  alike(hash: PictureHash, among: Bits, most: number, within: number): { n: number; bits: number }[] {
    const { hashes } = this;
    const byDistance: number[][] = Array.from({ length: within + 1 }, () => []);
    among.each((n) => {
      const [low, high] = [hashes[2 * n] ?? 0, hashes[2 * n + 1] ?? 0];
      if (low === 0 && high === 0) return;
      const bits = bitsSet(low ^ hash[0]) + bitsSet(high ^ hash[1]);
      if (bits <= within) byDistance[bits]!.push(n);
    });
    return byDistance.flatMap((list, bits) => list.map((n) => ({ n, bits }))).slice(0, most);
  }
}
