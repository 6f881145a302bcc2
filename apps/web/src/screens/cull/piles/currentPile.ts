import type { Api } from '../../../data/http';
import type { PileChoice } from '../cullFilter';
import { useLast } from '../useLast';

/** The pile that frames go into, and how another one is chosen; null: none, or it is not there any more. */
export const useCurrentPile = (
  piles: readonly Api['PileDto'][],
): [PileChoice | null, (pile: PileChoice) => void] => useLast<PileChoice>('arkiv.cull.pile', piles);
