import { useCallback, useEffect, useReducer, useState, type Dispatch, type SetStateAction } from 'react';

const PREFIX = 'arkiv.kept.';

/**
 * State that outlives a reload and a way back in the same window, under a name of its own; a value that JSON can hold.
 * `check` puts right what is not there any more.
 */
export function useKeptState<T>(
  name: string,
  initial: T | (() => T),
  check: (kept: T) => T = (kept) => kept,
): [T, Dispatch<SetStateAction<T>>] {
  const [value, setValue] = useState<T>(() => {
    const first = () => (initial instanceof Function ? initial() : initial);
    try {
      const text = sessionStorage.getItem(PREFIX + name);
      return text === null ? first() : check(JSON.parse(text) as T);
    } catch {
      return first();
    }
  });
  const set = useCallback<Dispatch<SetStateAction<T>>>(
    (next) =>
      setValue((before) => {
        const after = next instanceof Function ? next(before) : next;
        try {
          sessionStorage.setItem(PREFIX + name, JSON.stringify(after));
        } catch {
          // No room in the window's store: the value stands till the window is left.
        }
        return after;
      }),
    [name],
  );
  return [value, set];
}

/** A reducer's state that outlives a reload and a way back in the same window, under a name of its own. */
export function useKeptReducer<T, A>(
  name: string,
  reduce: (state: T, action: A) => T,
  first: () => T,
  check: (kept: T) => T,
): [T, Dispatch<A>] {
  const [state, dispatch] = useReducer(reduce, null, () => {
    try {
      const text = sessionStorage.getItem(PREFIX + name);
      return text === null ? first() : check(JSON.parse(text) as T);
    } catch {
      return first();
    }
  });
  useEffect(() => {
    try {
      sessionStorage.setItem(PREFIX + name, JSON.stringify(state));
    } catch {
      // No room in the window's store: it stands till the window is left.
    }
  }, [name, state]);
  return [state, dispatch];
}

/** Lets go of everything kept under names that begin so. */
export function forgetKept(start: string): void {
  const keys = Array.from({ length: sessionStorage.length }, (_, i) => sessionStorage.key(i) ?? '');
  for (const key of keys) if (key.startsWith(PREFIX + start)) sessionStorage.removeItem(key);
}
