import { DEFAULT_STAGES, type Stage } from '@arkiv/core';
import { useSettings } from './live';

/** The studio's stages, in their order. */
export function useStages(): readonly Stage[] {
  const { data } = useSettings();
  return (data?.stages as readonly Stage[] | undefined) ?? DEFAULT_STAGES;
}

/** How many keepers are where, in the studio's words: `39 to edit · 57 ready`. Empty: none has left the first stage. */
export function stagesWords(counts: readonly number[], stages: readonly Pick<Stage, 'name'>[]): string {
  if (counts.slice(1).every((frames) => frames === 0)) return '';
  return stages
    .flatMap(({ name }, i) => ((counts[i] ?? 0) > 0 ? [`${counts[i]!.toLocaleString()} ${name}`] : []))
    .join(' · ');
}
