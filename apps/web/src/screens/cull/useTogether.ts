import { useEffect, useRef, type Dispatch } from 'react';
import type { CullAction } from './cullState';

/** What windows of one browser tell each other: the frame that one has gone to. */
interface Told {
  frame: string;
}

/** Where it is wanted, all windows of this browser that show a shoot stand at the same frame: one for each screen. */
export function useTogether(
  shootId: string,
  on: boolean,
  current: string | null,
  has: (id: string) => boolean,
  dispatch: Dispatch<CullAction>,
): void {
  /** the frame that another window was at last: it is not told back */
  const heard = useRef<string | null>(null);
  const channel = useRef<BroadcastChannel | null>(null);
  const latest = useRef({ current, has });
  useEffect(() => {
    latest.current = { current, has };
  });
  useEffect(() => {
    if (!on || typeof BroadcastChannel === 'undefined') return;
    const made = new BroadcastChannel(`arkiv.cull.${shootId}`);
    channel.current = made;
    made.onmessage = ({ data }: MessageEvent<Told>) => {
      heard.current = data.frame;
      const { current: here, has: isHere } = latest.current;
      if (data.frame !== here && isHere(data.frame)) dispatch({ type: 'go', id: data.frame });
    };
    return () => {
      channel.current = null;
      made.close();
    };
  }, [shootId, on, dispatch]);
  useEffect(() => {
    if (!on || current === null || current === heard.current) return;
    heard.current = null;
    channel.current?.postMessage({ frame: current } satisfies Told);
  }, [on, current]);
}
