import type { QueryFrame } from './fields';
import { matches, toSql, type Filter, type SqlFilter } from './filter';

/** The studio's rules: which frames go on to hand-off and delivery, and which are out. */
export interface KeeperRules {
  keeper: Filter;
  reject: Filter;
}

export const DEFAULT_RULES: KeeperRules = {
  keeper: { field: 'verdict', is: 'keep' },
  reject: { field: 'verdict', is: 'reject' },
};

/** What a frame is by the studio's rules. Each frame is one of these, so that what is left is never fewer than none. */
export type Standing = 'keeper' | 'reject' | 'left';

/** A frame that both rules mean is a keeper: what goes on to the client is never counted among what is out. */
export function standingOf(rules: KeeperRules, frame: QueryFrame): Standing {
  if (matches(rules.keeper, frame)) return 'keeper';
  return matches(rules.reject, frame) ? 'reject' : 'left';
}

/** The frames of one standing, as a filter. */
export function standingFilter(standing: Standing, { keeper, reject }: KeeperRules): Filter {
  if (standing === 'keeper') return keeper;
  return standing === 'reject'
    ? { all: [reject, { not: keeper }] }
    : { all: [{ not: keeper }, { not: reject }] };
}

/** {@link standingOf} as SQL conditions over a table of frames. */
export function standingSql(rules: KeeperRules, alias: string): { keeper: SqlFilter; reject: SqlFilter } {
  return {
    keeper: toSql(rules.keeper, alias),
    reject: toSql(standingFilter('reject', rules), alias),
  };
}
