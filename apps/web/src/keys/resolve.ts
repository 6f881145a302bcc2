import { boundTo, CULL_KEYS, LABEL_PREFIX, repeats, type CullCommand, type KeyEntry } from './cullKeys';

/** A key press as the screen hears it. */
export interface Press {
  /** as `pressNames` names it, the likeliest first */
  names: readonly string[];
  /** the key is held down */
  repeat: boolean;
}

/** What a press means. */
export interface Meaning {
  /** whether it means anything here; else it is the browser's */
  mine: boolean;
  command: CullCommand | null;
  /** whether the next press chooses a label */
  prefix: boolean;
  /** words about a press that led nowhere; null: none */
  words: string | null;
}

/** What a press means where `prefix` says whether the one before was the label's key. */
export function resolve(
  { names, repeat }: Press,
  prefix: boolean,
  bindings: readonly KeyEntry[] = CULL_KEYS,
): Meaning {
  const nothing: Meaning = { mine: false, command: null, prefix: false, words: null };
  if (prefix) {
    // The prefix stands until the next key, as it is shown.
    if (repeat) return { ...nothing, mine: true, prefix: true };
    const labelled = boundTo(names, `${LABEL_PREFIX}>`, bindings);
    if (labelled) return { ...nothing, mine: true, command: labelled.command };
    if (names.includes('escape')) return { ...nothing, mine: true };
    const digit = names.find((name) => /^\d$/.test(name));
    // A digit after L never gives stars.
    if (digit !== undefined) return { ...nothing, mine: true, words: `There is no label ${digit}` };
  }
  if (names.includes(LABEL_PREFIX)) return { ...nothing, mine: true, prefix: true };
  const entry = boundTo(names, '', bindings);
  if (!entry) return nothing;
  return { ...nothing, mine: true, command: !repeat || repeats(entry.command) ? entry.command : null };
}
