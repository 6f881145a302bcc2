import { bytes, many } from '../../data/format';
import type { Api } from '../../data/http';

type Plan = Pick<Api['CopyPlanDto'], 'files' | 'bytes' | 'previews'>;
export const isNothing = ({ files, previews }: Plan): boolean => files === 0 && previews === 0;

/**
 * What would go to a drive, before it goes. `keepers`: how many there are, where these alone are wanted; null: all of it is. `previews`:
 * whether those of the others are wanted.
 */
export function goesWords(
  plan: Plan,
  drive: string,
  { keepers, previews }: { keepers: number | null; previews: boolean },
): string {
  if (keepers === 0 && !previews) return 'No frame of it is kept yet: keep some first, or copy all of it.';
  if (isNothing(plan)) {
    const all =
      keepers === null
        ? 'all of it'
        : previews
          ? 'all keepers, and the others or their previews,'
          : 'all keepers';
    return `“${drive}” holds ${all} already.`;
  }
  const parts = [];
  if (plan.files > 0)
    parts.push(
      plan.files === 1
        ? `1 file, ${bytes(plan.bytes)}, with its sidecar; it is read back.`
        : `${many(plan.files, 'file')}, ${bytes(plan.bytes)}, with their sidecars; each is read back.`,
    );
  if (plan.previews > 0) parts.push(`Previews of ${many(plan.previews, 'frame')}.`);
  return [...parts, 'Nothing is taken from elsewhere.'].join(' ');
}
