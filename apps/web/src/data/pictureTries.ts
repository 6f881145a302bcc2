import { serverState } from './serverState';
import { listen } from './stream';

let tries = 0;
const listeners = new Set<() => void>();
const again = (): void => {
  tries += 1;
  listeners.forEach((listener) => listener());
};
let heard = false;

/**
 * Counts what may have brought a picture back that could not be shown: a drive or a card that came, the server that is
 * there again. A picture that failed is asked for again with each.
 */
export const pictureTries = {
  subscribe(listener: () => void): () => void {
    if (!heard) {
      heard = true;
      for (const type of ['volumes', 'readers', 'reset'] as const) listen(type, again);
      serverState.subscribe(() => serverState.awaySince() === null && again());
    }
    listeners.add(listener);
    return () => listeners.delete(listener);
  },
  snapshot: (): number => tries,
};
