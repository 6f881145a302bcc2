import type { Systeminformation } from 'systeminformation';

/** A file system that is mounted somewhere on this machine, as far as the system's own tables tell: nothing is read of it. */
export interface Mount {
  /** the same whenever this file system is mounted, where it has an id of its own; otherwise its place */
  id: string;
  /** where it is mounted */
  point: string;
  /** what a person calls it: its label or the last part of its place */
  name: string;
  kind: 'disk' | 'network' | 'cable';
  readOnly: boolean;
  /** physical disks it lies on; null: unknown */
  disks: readonly string[] | null;
  /** goes up when what is mounted there is another thing than before, though all else is the same */
  generation: string;
  /** simulated devices say so */
  simulated?: boolean;
  /** the reader it is in, where that is a place of its own */
  reader?: ReaderSlot;
}

/** A place that cards are put into, which is there whether one is in it or not. */
export interface ReaderSlot {
  id: string;
  name: string;
}

/** A camera or phone on a cable that the system sees and has not mounted. */
export interface CableDevice {
  id: string;
  name: string;
}

/** Knows what is mounted. One class for each operating system, and one for the stand-ins of the demo. */
export abstract class MountSource {
  /** What is mounted now, without the system's own file systems. Must not touch what it lists: that may hang. */
  abstract list(): Promise<Mount[]>;
  /** Physical disks below a full path without links; null: unknown. */
  abstract disksOf(path: string): Promise<readonly string[] | null>;
  /** Readers that are there though nothing is in them. */
  slots(): readonly ReaderSlot[] {
    return [];
  }
  /** Cameras and phones that are seen on a cable but not mounted. */
  async cables(): Promise<CableDevice[]> {
    return [];
  }
  /** Writes what is pending and takes it off the system. Null when it may be pulled out, otherwise why not. */
  abstract eject(mount: Mount): Promise<string | null>;
}

/** The mount that holds a path: the one with the longest place above it, the later one where two are alike. */
export function mountAt<M extends { point: string }>(mounts: readonly M[], path: string): M | null {
  let found: M | null = null;
  for (const mount of mounts)
    if (isBelow(mount.point, path) && (found === null || mount.point.length >= found.point.length))
      found = mount;
  return found;
}

/** What systems without a list of mounts of their own say of their disks. */
export const attached = async (): Promise<Systeminformation.BlockDevicesData[]> =>
  (await import('systeminformation')).blockDevices();

export const isBelow = (folder: string, path: string): boolean =>
  path === folder || folder === '/' || path.startsWith(`${folder}/`);
