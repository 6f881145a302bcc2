/**
 * The physical disks that something lies on, each by a name that stays the same from one mounting to the next. Null:
 * nobody knows; that counts as the same as anything else, since a copy that may lie on the same disk proves nothing.
 */
export type Disks = readonly string[] | null;

/** What stands in the place of a device's name where nobody knows it. */
export const UNKNOWN_DEVICE = '?';

/** Whether two things may share a physical disk. */
export function mayShare(a: Disks, b: Disks): boolean {
  return a === null || b === null || a.some((disk) => b.includes(disk));
}

/** Disks that the owner named: his word stands for what could not be found out, or was found out wrongly. */
export const statedDisks = (word: string): string[] => [`stated ${word}`];

/**
 * One device's name for each of `volumes`: those that share a disk, directly or by way of others (a mirror over two
 * disks and a plain partition on one of them), get the same name, so that distinct names are surely distinct disks.
 * UNKNOWN_DEVICE where the disks are unknown.
 */
export function deviceNames(volumes: readonly Disks[]): string[] {
  const parent = new Map<string, string>();
  const top = (disk: string): string => {
    const above = parent.get(disk) ?? disk;
    return above === disk ? disk : top(above);
  };
  for (const disks of volumes) {
    const [first, ...others] = disks ?? [];
    for (const other of others) {
      const [a, b] = [top(first!), top(other)];
      // The first in the alphabet names the group, whatever the order in which volumes are looked at.
      if (a < b) parent.set(b, a);
      else if (b < a) parent.set(a, b);
    }
  }
  return volumes.map((disks) => (disks === null || disks.length === 0 ? UNKNOWN_DEVICE : top(disks[0]!)));
}

/** How many distinct devices these names stand for. Copies of which nobody knows where count as one at the most. */
export function countDevices(names: Iterable<string>): number {
  const known = new Set(names);
  const unknown = known.delete(UNKNOWN_DEVICE);
  return Math.max(known.size, unknown ? 1 : 0);
}
