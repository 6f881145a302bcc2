import { useCallback, useMemo, useState } from 'react';
import type { Api } from '../../../data/http';
import type { PileChoice } from '../cullFilter';

/** The pile that was put into last goes along from shoot to shoot, and is there tomorrow. */
const KEY = 'arkiv.cull.pile';

/** The pile that frames go into, and how another one is chosen; null: none, or it is not there any more. */
export function useCurrentPile(piles: readonly Api['PileDto'][]): [PileChoice | null, (id: string) => void] {
  const [id, setId] = useState(() => localStorage.getItem(KEY));
  const choose = useCallback((next: string) => {
    localStorage.setItem(KEY, next);
    setId(next);
  }, []);
  const pile = useMemo(() => piles.find((one) => one.id === id) ?? null, [piles, id]);
  return [pile, choose];
}
