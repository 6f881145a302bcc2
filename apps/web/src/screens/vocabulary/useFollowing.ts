import type { TermChange } from '@arkiv/core';
import { useEffect, useState } from 'react';
import { many } from '../../data/format';
import { post, type Api } from '../../data/http';

/** Milliseconds of quiet before it is asked what a change would do. */
const QUIET = 250;

/** As the server takes a change. */
export const asSent = (change: TermChange): Api['TermChangeDto'] =>
  ('synonyms' in change
    ? { ...change, synonyms: [...change.synonyms] }
    : 'entries' in change
      ? { ...change, entries: [...change.entries] }
      : 'words' in change
        ? { ...change, words: [...change.words] }
        : change) as Api['TermChangeDto'];

/** What a change would do to frames, asked as it is put together; null: not known yet, or nothing is asked. */
export function useFollowing(change: TermChange | null): { words: string; can: boolean } {
  const key = change && JSON.stringify(change);
  const [answer, setAnswer] = useState<{ key: string; words: string; can: boolean } | null>(null);
  useEffect(() => {
    if (key === null) return;
    let over = false;
    const timer = setTimeout(() => {
      post('/vocabulary/preview', asSent(JSON.parse(key) as TermChange)).then(
        ({ frames, shoots }) => {
          const words =
            frames === 0
              ? 'No frame has it: only the tree changes.'
              : `${many(frames, 'frame')} in ${many(shoots, 'shoot')} follow.`;
          if (!over) setAnswer({ key, words, can: true });
        },
        (error: unknown) => over || setAnswer({ key, words: (error as Error).message, can: false }),
      );
    }, QUIET);
    return () => {
      over = true;
      clearTimeout(timer);
    };
  }, [key]);
  return answer && answer.key === key ? answer : { words: '', can: false };
}
