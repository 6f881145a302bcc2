import { useCallback, useEffect, useMemo, useState } from 'react';

/**
 * What was chosen last of some things, and how another one is chosen: it goes along from shoot to shoot, and is there tomorrow.
 * Null: nothing was, or it is not there any more. `key`: what it is kept under.
 */
export function useLast<C extends { id: string }>(
  key: string,
  choices: readonly C[],
): [C | null, (choice: C) => void] {
  const [id, setId] = useState(() => localStorage.getItem(key));
  /** made just now: the list of them may not know it yet */
  const [made, setMade] = useState<C | null>(null);
  const choose = useCallback(
    (choice: C) => {
      localStorage.setItem(key, choice.id);
      setId(choice.id);
      setMade(choice);
    },
    [key],
  );
  const listed = useMemo(() => choices.find((one) => one.id === id) ?? null, [choices, id]);
  useEffect(() => {
    if (listed) setMade(null);
  }, [listed]);
  return [listed ?? made, choose];
}
