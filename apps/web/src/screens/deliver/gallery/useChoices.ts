import { lineValue, pileOfKind } from '@arkiv/core';
import { usePiles } from '../../../data/live';
import { useGet } from '../../../data/useGet';
import type { NamedLine } from '../useWhichKeepers';

/** What clients chose in galleries of a shoot, where that goes into a pile. */
export function useChoices(shootId: string): NamedLine[] {
  const { data: galleries } = useGet(`/shoots/${shootId}/galleries`);
  const { data: piles } = usePiles();
  return (galleries ?? []).flatMap(({ title, becomes, chosen }) => {
    const pile = piles?.find(({ id }) => id === pileOfKind(becomes?.kind ?? ''));
    return pile && chosen.length > 0
      ? [{ words: `what was chosen in “${title}”`, line: `pile=${lineValue(pile.name)}` }]
      : [];
  });
}
