import { useEffect, useMemo, useRef, type Dispatch } from 'react';
import type { LoadedFrame } from '../../data/frames';
import type { CullAction } from './cullState';

type Known = Pick<LoadedFrame, 'id'>;

/** The frame that came last among those that are shown: ids are given in the order in which frames come (ULID). Null: there is none. */
export function newestOf(length: number, frame: (i: number) => Known | undefined): string | null {
  let newest: string | null = null;
  for (let i = 0; i < length; i++) {
    const one = frame(i);
    if (one && (newest === null || one.id > newest)) newest = one.id;
  }
  return newest;
}

/**
 * While it is wanted, whoever stands at the newest frame goes on to each that comes after it; who has gone to another stays there, and goes on
 * following from the newest. Returns the newest one.
 */
export function useFollowNewest(
  on: boolean,
  shown: { length: number; frame: (i: number) => Known | undefined; version: unknown },
  current: string | null,
  dispatch: Dispatch<CullAction>,
): string | null {
  const { length, frame, version } = shown;
  // What is shown is another object whenever frames come or go.
  // eslint-disable-next-line react-hooks/exhaustive-deps
  const newest = useMemo(() => (on ? newestOf(length, frame) : null), [on, version]);
  /** the newest one that was gone to; null: following has just begun */
  const followed = useRef<string | null>(null);
  useEffect(() => {
    if (!on) followed.current = null;
    if (newest === null || newest === followed.current) return;
    const stood = followed.current === null || current === followed.current;
    followed.current = newest;
    if (stood && current !== newest) dispatch({ type: 'go', id: newest });
    // Only what comes moves one: going elsewhere by hand is no reason to be taken back.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [on, newest, dispatch]);
  return newest;
}
