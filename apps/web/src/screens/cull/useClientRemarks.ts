import { useMemo } from 'react';
import { isFound } from '../../data/frameSource';
import { useGet } from '../../data/useGet';

/** What clients said of frames of a shoot, by frame, in words; over what was found anywhere, nobody asks. */
export function useClientRemarks(shootId: string): ReadonlyMap<string, string> {
  const { data } = useGet(isFound(shootId) ? null : `/shoots/${shootId}/client-remarks`);
  return useMemo(() => {
    const by = new Map<string, string>();
    for (const { frameId, by: who, text } of data ?? [])
      by.set(frameId, [by.get(frameId), `${who}: ${text}`].filter((words) => words).join(' · '));
    return by;
  }, [data]);
}
