import { useEffect, useState, type Dispatch } from 'react';
import { previewUrl, type LoadedFrame } from '../../data/frames';
import type { CullAction, CullState } from './cullState';
import { pictures } from './pictures';
import type { Shown } from './shown';

/** Whether a frame can be looked at: its picture is there, or will not come. */
const isThere = (frame: LoadedFrame): boolean => {
  if (!frame.picture) return true;
  const url = previewUrl(frame.picture, 'screen');
  return pictures.ready(url) !== null || pictures.failed(url);
};

/** The run-through: each frame stays for some seconds, counted from when its picture is there. Whether one is waited for. */
export function useRunThrough(
  { view, run }: CullState,
  current: LoadedFrame | null,
  shown: Shown,
  at: number,
  dispatch: Dispatch<CullAction>,
): boolean {
  const [waits, setWaits] = useState(false);
  const going = view === 'run' && !run.paused && current !== null;
  const next = shown.id(at + (run.back ? -1 : 1));
  useEffect(() => {
    if (!going || !current) return setWaits(false);
    let timer: ReturnType<typeof setTimeout> | null = null;
    const look = () => {
      const there = isThere(current);
      setWaits(!there);
      if (!there || timer) return;
      timer = setTimeout(
        () =>
          dispatch(next === undefined ? { type: 'run', change: { paused: true } } : { type: 'go', id: next }),
        run.seconds * 1000,
      );
    };
    look();
    const stop = pictures.subscribe(look);
    return () => {
      stop();
      if (timer) clearTimeout(timer);
    };
  }, [going, current, next, run.seconds, dispatch]);
  return waits;
}
