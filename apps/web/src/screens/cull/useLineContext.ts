import {
  namedAlbums,
  keywordKey,
  keywordsIn,
  Meanings,
  type KeeperRules,
  type LineContext,
  type OfShoot,
  type QueryField,
} from '@arkiv/core';
import { useMemo } from 'react';
import { useAlbums } from '../../data/albums';
import { useStages } from '../../data/stages';
import { useGet } from '../../data/useGet';
import type { ShootState } from '../../data/shootStore';
import { termsOf } from '../../data/vocabulary';

interface Known {
  rules: KeeperRules;
  labels: Readonly<Record<string, string>>;
  piles: readonly { id: string; name: string }[];
  /** the one that all frames are of; null: they are of several, which their rows name, or it is not known yet */
  of: OfShoot | null;
}

/** What no frame has with it where it is loaded. */
const OF_ARCHIVE: readonly QueryField[] = ['delivered', 'drives'];

/**
 * What a line of words and facts is read with in Cull. The vocabulary comes with the first letter of a line: without one nobody
 * needs it.
 */
export function useLineContext(
  shoot: ShootState,
  text: string,
  { rules, labels, piles, of }: Known,
): LineContext {
  const { data } = useGet(text.trim() === '' ? null : '/vocabulary');
  const { tree } = useAlbums();
  const stages = useStages();
  const [title, client, place] = [of?.title, of?.client ?? '', of?.place ?? ''];
  const meanings = useMemo(() => (data ? new Meanings(termsOf(data).vocabulary) : null), [data]);
  return useMemo(() => {
    const context: LineContext = { rules, stages, labels, piles, unknown: OF_ARCHIVE };
    if (title !== undefined) context.shoot = { title, client, place };
    const withAlbums = (its: LineContext): LineContext => ({ ...its, albums: namedAlbums(tree, its) });
    if (!meanings) return withAlbums(context);
    return withAlbums({
      ...context,
      meant: (condition, word) => {
        const written = new Map<string, string[]>();
        for (const one of new Set(shoot.frames.map(({ keywords }) => keywords)))
          for (const its of keywordsIn(one)) {
            const key = keywordKey(its);
            const known = written.get(key);
            if (!known) written.set(key, [its]);
            else if (!known.includes(its)) known.push(its);
          }
        return meanings.of(condition, word, (its) => written.get(keywordKey(its)) ?? []);
      },
    });
    // Which keywords there are is asked again when frames come, not with each mark.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [rules, stages, labels, piles, title, client, place, meanings, tree, shoot.order]);
}
