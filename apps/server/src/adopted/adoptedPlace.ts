import path from 'node:path';
import type { ShootOfFolder } from '@arkiv/core';
import type { Volume } from '../volumes/volume.entity';
import type { Adopted } from './adopted.entity';
import type { TreeFolder } from './adoptedTree';

/** A folder of an adopted tree, as it lies there now. */
export interface AdoptedPlace {
  adopted: Adopted;
  volume: Volume;
  there: TreeFolder;
}

/** A folder of a drive as one below an adopted folder; empty: that folder itself. */
export const below = (root: string, folder: string): string =>
  root === '' ? folder : folder === root ? '' : folder.slice(root.length + 1);

/** What a shoot has of its adopted folder: its own folder below the drive, what the tree is called, and the zone of cameras that name none. */
export function homeOf(
  { adopted, volume }: AdoptedPlace,
  { folder }: ShootOfFolder,
  now: number,
): { folder: string; root: string; zoneMinutes: number } {
  return {
    folder: [adopted.path, folder].filter((part) => part !== '').join('/'),
    root: path.posix.basename(adopted.path) || volume.name,
    zoneMinutes: -new Date(now).getTimezoneOffset(),
  };
}
