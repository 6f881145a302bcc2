import { repeats, type CullCommand } from './actions';
import { shownKey, type Bindings } from './bindings';

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
  /** the key that waits for the next press; null: none */
  prefix: string | null;
  /** words about a press that led nowhere; null: none */
  words: string | null;
}

/** What a press means; `prefix`: the key before it that waits for one, or none. */
export function resolve({ names, repeat }: Press, prefix: string | null, bindings: Bindings): Meaning {
  const nothing: Meaning = { mine: false, command: null, prefix: null, words: null };
  if (prefix !== null) {
    // The prefix stands until the next key, as it is shown.
    if (repeat) return { ...nothing, mine: true, prefix };
    const both = bindings.boundTo(names, prefix);
    if (both) return { ...nothing, mine: true, command: both.command };
    if (names.includes('escape')) return { ...nothing, mine: true };
    const digit = names.find((name) => /^\d$/.test(name));
    // A digit after the label's key never gives stars.
    if (digit !== undefined)
      return { ...nothing, mine: true, words: `${shownKey(`${prefix}>${digit}`)} does nothing` };
  }
  const entry = bindings.boundTo(names);
  if (entry)
    return { ...nothing, mine: true, command: !repeat || repeats(entry.command) ? entry.command : null };
  const waits = bindings.prefixAmong(names);
  return waits === null ? nothing : { ...nothing, mine: true, prefix: waits };
}
