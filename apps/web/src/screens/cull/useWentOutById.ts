import { useMemo } from 'react';
import type { Api } from '../../data/http';
import { useWentOut } from '../../data/ledger';
import { isFound } from '../../data/frameSource';

/** When frames of a shoot went out, by frame; over what was found anywhere, nobody asks. */
export function useWentOutById(shootId: string): ReadonlyMap<string, Api['WentOutDto']> {
  const { data } = useWentOut(isFound(shootId) ? null : shootId);
  return useMemo(() => new Map(data?.map((one) => [one.frameId, one])), [data]);
}
