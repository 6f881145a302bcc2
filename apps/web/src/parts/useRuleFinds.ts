import { useEffect, useState } from 'react';
import { post } from '../data/http';
import { useSettled } from './useSettled';

/** Milliseconds after the last letter before it is asked what a line finds. */
const QUIET = 250;

/** What a line finds in the archive: how many frames, or what of it cannot be asked. Null: nothing is known yet. */
export function useRuleFinds(line: string): { count: number; problem: string | null } | null {
  const settled = useSettled(line.trim(), QUIET);
  const [finds, setFinds] = useState<{ line: string; count: number; problem: string | null } | null>(null);
  useEffect(() => {
    if (settled === '') return;
    let wanted = true;
    post('/find', { line: settled }).then(
      ({ count, parts }) =>
        wanted &&
        setFinds({ line: settled, count, problem: parts.find(({ problem }) => problem)?.problem ?? null }),
      () => undefined,
    );
    return () => {
      wanted = false;
    };
  }, [settled]);
  return finds?.line === line.trim() ? finds : null;
}
