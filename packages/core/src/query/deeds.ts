import { applyMark, type MarkField, type MarkValue } from '../marks/marks';
import type { QueryFrame } from './fields';
import type { Filter } from './filter';
import { standingOf, type KeeperRules, type Standing } from './keeperRule';

/** What a photographer decides at one key. What it writes is what the studio's rules read. */
export type Deed = 'keep' | 'reject' | 'undecide';

export interface MarkChange {
  field: MarkField;
  to: MarkValue;
}

const STANDS: Readonly<Record<Deed, Standing>> = { keep: 'keeper', reject: 'reject', undecide: 'left' };
/** Stars of a keeper, where stars say which frames those are: the most, so that a later, finer pass can take some off. */
const KEPT_STARS = 5;

/**
 * The changes that make a frame a keeper, a reject or neither by the studio's rules: `keep` where the verdict says so, 5★
 * where stars do, the label where a label does. None where it stands so already; of what stood in the way, as few marks
 * as can be are taken off. A rule that no single mark can meet is answered by the verdict.
 */
export function deedOf(rules: KeeperRules, deed: Deed, frame: QueryFrame): MarkChange[] {
  const wanted = STANDS[deed];
  if (standingOf(rules, frame) === wanted) return [];
  const set =
    deed === 'undecide' ? [] : [setting(deed === 'keep' ? rules.keeper : rules.reject, deed)].flat();
  const away = [...clearing(rules.keeper), ...clearing(rules.reject)];
  for (const changes of subsets(away).map((some) => [
    ...some.filter(({ field }) => !set.some((s) => s.field === field)),
    ...set,
  ]))
    if (standingOf(rules, after(frame, changes)) === wanted)
      return changes.filter(({ field, to }) => frame[field] !== to);
  // No mark brings it there: what is decided is written down all the same.
  return set.filter(({ field, to }) => frame[field] !== to);
}

const after = (frame: QueryFrame, changes: readonly MarkChange[]): QueryFrame =>
  changes.reduce<QueryFrame>(
    (now, { field, to }) => ({ ...now, ...applyMark(now, { kind: field, to }) }),
    frame,
  );

/** The mark that a rule reads. */
function setting(rule: Filter, deed: 'keep' | 'reject'): MarkChange | [] {
  if ('field' in rule) {
    if (rule.field === 'stars') {
      if ('atLeast' in rule) return { field: 'stars', to: Math.max(KEPT_STARS, rule.atLeast) };
      if ('is' in rule) return { field: 'stars', to: rule.is as MarkValue };
      if ('atMost' in rule) return { field: 'stars', to: rule.atMost };
    }
    if ((rule.field === 'label' || rule.field === 'verdict') && 'is' in rule)
      return { field: rule.field, to: rule.is as MarkValue };
  }
  // All that are no keepers are out: nothing more is to be written.
  if ('not' in rule) return [];
  return { field: 'verdict', to: deed };
}

/** What takes off the mark that a rule reads. */
function clearing(rule: Filter): MarkChange[] {
  if (!('field' in rule)) return 'not' in rule ? clearing(rule.not) : [{ field: 'verdict', to: 'undecided' }];
  if (rule.field === 'stars') return [{ field: 'stars', to: 0 }];
  if (rule.field === 'label') return [{ field: 'label', to: null }];
  return [{ field: 'verdict', to: 'undecided' }];
}

/** All choices of some of these, the smallest first. */
function subsets<T>(of: readonly T[]): T[][] {
  const all = of.reduce<T[][]>((sets, one) => [...sets, ...sets.map((set) => [...set, one])], [[]]);
  return all.sort((a, b) => a.length - b.length);
}
