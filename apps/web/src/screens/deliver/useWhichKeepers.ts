import { lineValue, type Stage } from '@arkiv/core';
import { useState } from 'react';
import { useStages } from '../../data/stages';

/** Some of the keepers that can be chosen from a list: a line that finds them, and what that is called. */
export interface NamedLine {
  words: string;
  line: string;
}

/** Which of the keepers are meant, as it is chosen from a list; `own`: as a line that is typed; `line …`: as that line finds them. */
export type Which = 'all' | 'ready' | 'best' | 'own' | `line ${string}`;

/** The line that says which of the keepers go; empty: all of them. The last stage is where nothing is left to do. */
export function lineFor(which: Which, own: string, stages: readonly Pick<Stage, 'name'>[]): string {
  if (which.startsWith('line ')) return which.slice('line '.length);
  const done = `stage=${lineValue(stages.at(-1)?.name ?? '')}`;
  return { all: '', ready: done, best: `${done} ≥4★`, own: own.trim() }[which as 'own'];
}

/** Which of the keepers somebody means just now. */
export function useWhichKeepers() {
  const stages = useStages();
  const [{ which, own }, setChosen] = useState<{ which: Which; own: string }>({ which: 'all', own: '' });
  const choose = (change: { which?: Which; own?: string }) => setChosen((now) => ({ ...now, ...change }));
  return { which, own, choose, line: lineFor(which, own, stages) };
}
