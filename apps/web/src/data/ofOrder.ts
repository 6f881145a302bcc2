import { useState } from 'react';
import type { FrameOrder } from './frameOrder';
import type { LoadedFrame } from './frames';

interface Ordered {
  frames: readonly LoadedFrame[];
  order: FrameOrder;
}

/** What is made of a shoot's frames as they stand: made again only when frames came, went or moved, never by a mark. */
export class OfOrder<T> {
  private made: { order: FrameOrder; value: T } | null = null;

  of({ frames, order }: Ordered, make: (frames: readonly LoadedFrame[]) => T): T {
    if (this.made?.order !== order) this.made = { order, value: make(frames) };
    return this.made.value;
  }
}

export function useOfOrder<T>(shoot: Ordered, make: (frames: readonly LoadedFrame[]) => T): T {
  const [kept] = useState(() => new OfOrder<T>());
  return kept.of(shoot, make);
}
