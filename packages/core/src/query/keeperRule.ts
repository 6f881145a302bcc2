import type { Filter } from './filter';

/** The studio's rules: which frames go on to hand-off and delivery, and which are out. */
export interface KeeperRules {
  keeper: Filter;
  reject: Filter;
}

export const DEFAULT_RULES: KeeperRules = {
  keeper: { field: 'verdict', is: 'keep' },
  reject: { field: 'verdict', is: 'reject' },
};
