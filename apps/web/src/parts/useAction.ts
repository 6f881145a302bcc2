import { useCallback, useEffect, useRef, useState } from 'react';

/** Something that a control asks the server for. */
export interface Action<A extends unknown[]> {
  run: (...asked: A) => void;
  /** it is under way */
  busy: boolean;
  /** why the last one failed; null: it did not, or is under way again */
  error: unknown;
  /** does what failed once more, with what the screen says by now */
  again: () => void;
}

/** Presses of keys and of the pointer in this window. */
let presses = 0;
for (const kind of ['keydown', 'pointerdown'])
  window.addEventListener(kind, () => void (presses += 1), { capture: true, passive: true });

/** One action of a screen: busy while it is under way, its failure to be shown, and the way to try it again. */
export function useAction<A extends unknown[]>(work: (...asked: A) => Promise<unknown>): Action<A> {
  const [under, setUnder] = useState(0);
  const [error, setError] = useState<unknown>(null);
  const latest = useRef(work);
  useEffect(() => {
    latest.current = work;
  });
  const last = useRef<A | null>(null);
  const from = useRef<{ element: Element | null; presses: number } | null>(null);
  const run = useCallback((...asked: A) => {
    last.current = asked;
    from.current ??= { element: document.activeElement, presses };
    setError(null);
    setUnder((n) => n + 1);
    void latest
      .current(...asked)
      .catch(setError)
      .finally(() => setUnder((n) => n - 1));
  }, []);
  // What is disabled while it works loses the focus: it has it back, unless the hands have gone on meanwhile.
  useEffect(() => {
    if (under > 0 || from.current === null) return;
    const { element, presses: before } = from.current;
    from.current = null;
    if (presses !== before || document.activeElement !== document.body) return;
    if (element instanceof HTMLElement && element.isConnected) element.focus({ preventScroll: true });
  }, [under]);
  const again = useCallback(() => {
    if (last.current) run(...last.current);
  }, [run]);
  return { run, busy: under > 0, error, again };
}
