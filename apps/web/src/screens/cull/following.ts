import { isSure, detailFrom, detailIn, type Similarity } from '@arkiv/core';

/** A frame as it was laid over the first of those it stands beside. */
export interface Laid {
  /** null: it could not be */
  similarity: Similarity | null;
  /** of the pictures that were compared */
  width: number;
  height: number;
}

type Share = { x: number; y: number };

/** Where a detail of one frame lies in another that shows the same subject: through the first, which all were laid over. */
export class Following {
  private readonly laid = new Map<string, Laid>();

  constructor(private readonly first: string) {}

  set(id: string, laid: Laid): void {
    this.laid.set(id, laid);
  }

  /** Whether a frame follows the first; null: it is not known yet. */
  follows(id: string): boolean | null {
    if (id === this.first) return true;
    const laid = this.laid.get(id);
    return laid ? laid.similarity !== null && isSure(laid.similarity) : null;
  }

  /** Null: one of them does not follow, and equal places are all that there is. */
  place(from: string, to: string, at: Share): Share | null {
    const there = this.inFirst(from, at);
    if (there === null) return null;
    if (to === this.first) return there;
    const laid = this.laid.get(to);
    return this.follows(to) === true && laid?.similarity ? detailIn(laid.similarity, laid, there) : null;
  }

  private inFirst(id: string, at: Share): Share | null {
    if (id === this.first) return at;
    const laid = this.laid.get(id);
    return this.follows(id) === true && laid?.similarity ? detailFrom(laid.similarity, laid, at) : null;
  }
}
