import { useState } from 'react';
import type { ShootState } from '../../data/shootStore';
import { NONE_WORDS, valuesOf, type Value } from './facetValues';

type Marked = Pick<ShootState, 'frames' | 'order' | 'version' | 'changedSince'>;
/** Facts whose values come by marks, or are found out of frames that are here already. */
export type Changing = 'keywords' | 'persons' | 'advice';
interface Named {
  value: Value;
  words: string;
}

/**
 * Values of a fact that changes: found in one pass when frames come, then only where something changed. One that no frame has any
 * more stays in the list until frames come.
 */
export class ChangingValues {
  private seen: Pick<Marked, 'order' | 'version'> | null = null;
  private known = new Set<Value>();
  private values: readonly Named[] = [];

  constructor(private readonly fact: Changing) {}

  of({ frames, order, version, changedSince }: Marked): readonly Named[] {
    const changed = this.seen?.order === order ? changedSince(this.seen.version) : null;
    this.seen = { order, version };
    if (changed?.length === 0) return this.values;
    if (changed === null) this.known = new Set();
    const before = this.known.size;
    for (const frame of changed ? changed.map((place) => frames[place]!) : frames)
      for (const value of valuesOf(this.fact, frame)) this.known.add(value);
    if (changed === null || this.known.size !== before) this.values = named([...this.known], this.fact);
    return this.values;
  }
}

function named(values: readonly Value[], fact: Changing): Named[] {
  const words = values.flatMap((value) => (value === null ? [] : String(value)));
  words.sort((a, b) => a.localeCompare(b));
  const all: Named[] = words.map((word) => ({ value: word, words: word }));
  return values.includes(null) ? [...all, { value: null, words: NONE_WORDS[fact] ?? 'unknown' }] : all;
}

export function useChangingValues(shoot: Marked, fact: Changing): readonly Named[] {
  const [values] = useState(() => new ChangingValues(fact));
  return values.of(shoot);
}
