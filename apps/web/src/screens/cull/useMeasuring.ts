import type { FrameOrdering } from '@arkiv/core';
import { useEffect, useMemo } from 'react';
import { isFound } from '../../data/frameSource';
import { post } from '../../data/http';
import type { ShootState } from '../../data/shootStore';
import type { CullFilter } from './cullFilter';
import { useAction, type Action } from '../../parts/useAction';

export interface Measuring {
  /** frames that were not measured yet: by sharpness they stand last; 0 where nobody asks for it */
  waiting: number;
  action: Action<[]>;
}

/**
 * An order by sharpness and a filter by advice have what they go by measured, once: frames that came before there were measures, and those whose
 * preview nobody has made yet. The measures come as the server has them.
 */
export function useMeasuring(
  shootId: string,
  shoot: ShootState,
  { by }: FrameOrdering,
  { chosen }: CullFilter,
): Measuring {
  const action = useAction(() => post(`/features/shoots/${shootId}`));
  const { run } = action;
  // Of found frames those are known that were measured in their own shoots.
  const asked =
    (by === 'sharpness' || (chosen?.advice?.length ?? 0) > 0) && shoot.loaded && !isFound(shootId);
  useEffect(() => {
    if (asked) run();
  }, [asked, run]);
  const { frames } = shoot;
  const waiting = useMemo(
    () =>
      asked
        ? frames.filter(({ measures, picture, away }) => measures === null && picture !== null && !away)
            .length
        : 0,
    [asked, frames],
  );
  return { waiting, action };
}
