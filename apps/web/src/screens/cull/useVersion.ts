import { useMemo } from 'react';
import type { LoadedFrame } from '../../data/frames';
import { useGet } from '../../data/useGet';
import { asVersion, editsAddress, finishedVersions, versionsOf } from './versions';

/** The current frame as the version of it looks that is chosen, with what that is; empty words: it has no edit. */
export function useVersion(
  frame: LoadedFrame | null,
  version: number,
): { pictured: LoadedFrame | null; words: string } {
  const { data } = useGet(frame?.edited ? editsAddress(frame.id) : null);
  return useMemo(() => {
    const all = frame && data ? versionsOf(frame, data) : frame ? finishedVersions(frame) : [];
    const chosen = all[version];
    // The first one is the frame as it is shown everywhere.
    return {
      pictured: frame && (version === 0 ? frame : asVersion(frame, chosen)),
      words: chosen?.words ?? '',
    };
  }, [frame, data, version]);
}
