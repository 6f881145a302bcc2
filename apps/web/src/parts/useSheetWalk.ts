import { useCallback, useRef, useState } from 'react';
import { useScreenKeys } from '../keys/useScreenKeys';
import type { SheetLayout } from './ContactSheet';

/** What a key on a sheet does with the entry that is stood at; `names` as `pressNames` gives them. */
export type SheetKey = (at: number, event: KeyboardEvent) => void;

/** Stepping through a sheet's entries by arrows, Home, End and the page keys, and what other keys do there. */
export function useSheetWalk(
  count: number,
  keys: Readonly<Record<string, SheetKey>>,
  start = 0,
): { at: number; go: (at: number) => void; onLayout: (layout: SheetLayout) => void } {
  const [wanted, setWanted] = useState(start);
  const layout = useRef<SheetLayout>({ across: 1, rows: 1 });
  const at = Math.max(0, Math.min(count - 1, wanted));
  useScreenKeys((names, event) => {
    if (count === 0) return false;
    const own = names.flatMap((name) => keys[name] ?? [])[0];
    if (own) {
      if (!event.repeat) own(at, event);
      return true;
    }
    const { across, rows } = layout.current;
    const page = across * rows;
    const by: Record<string, number> = {
      arrowright: 1,
      arrowleft: -1,
      arrowdown: across,
      arrowup: -across,
      pagedown: page,
      pageup: -page,
      home: -count,
      end: count,
    };
    const step = names.flatMap((name) => by[name] ?? [])[0];
    if (step === undefined) return false;
    setWanted(Math.max(0, Math.min(count - 1, at + step)));
    return true;
  });
  return {
    at,
    go: setWanted,
    onLayout: useCallback((next: SheetLayout) => {
      layout.current = next;
    }, []),
  };
}
