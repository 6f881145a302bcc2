import { lineValue, type Stage } from '@arkiv/core';
import { useState } from 'react';
import { useStages } from '../../data/stages';

/** What a client chose in a gallery, as a line that finds it. */
export interface ClientChoice {
  /** of its gallery */
  title: string;
  line: string;
}

/** Which of the keepers are meant, as it is chosen from a list; `own`: as a line that is typed; a number: that client's choice. */
export type Which = 'all' | 'ready' | 'best' | 'own' | number;

/** The line that says which of the keepers go; empty: all of them. The last stage is where nothing is left to do. */
export function lineFor(
  which: Which,
  own: string,
  stages: readonly Pick<Stage, 'name'>[],
  choices: readonly ClientChoice[] = [],
): string {
  if (typeof which === 'number') return choices[which]?.line ?? '';
  const done = `stage=${lineValue(stages.at(-1)?.name ?? '')}`;
  return { all: '', ready: done, best: `${done} ≥4★`, own: own.trim() }[which];
}

/** Which of the keepers somebody means just now. */
export function useWhichKeepers(choices: readonly ClientChoice[] = []) {
  const stages = useStages();
  const [{ which, own }, setChosen] = useState<{ which: Which; own: string }>({ which: 'all', own: '' });
  const choose = (change: { which?: Which; own?: string }) => setChosen((now) => ({ ...now, ...change }));
  return { which, own, choose, line: lineFor(which, own, stages, choices) };
}
