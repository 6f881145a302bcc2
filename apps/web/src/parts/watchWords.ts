import { many, momentOf } from '../data/format';
import type { Api } from '../data/http';

type Rule = Pick<Api['WatchRuleDto'], 'on' | 'busy' | 'taken' | 'takenAt'>;

/** How a watched folder stands, in words. */
export function watchState({ on, busy, taken, takenAt }: Rule): string {
  const had =
    takenAt === null ? 'nothing came yet' : `${many(taken, 'file')} taken in, last on ${momentOf(takenAt)}`;
  return on ? (busy ? `taking in now · ${had}` : had) : `not watched at the moment · ${had}`;
}
