import { sidecarOf } from '../intake/plan';
import { collisionKey } from '../naming/legalName';
import { freeName } from '../naming/pattern';
import { endingAfter, type MoveFile, type PlannedMove } from './plan';

/** At the root of each drive: what was binned lies here until the bin is emptied, one folder for each time. */
export const BIN_FOLDER = '.arkiv-bin';

/** Letters of an id that tell two times on one day apart: 32⁶ of them are enough for the hand that looks there. */
const ID_LETTERS = 6;

/** What a person who looks into the bin by hand finds: the day it was binned, the shoot's folder, and which time. */
export function binFolderOf(day: string, shootFolder: string, id: string): string {
  return `${day}_${shootFolder.slice(shootFolder.lastIndexOf('/') + 1)}_${id.slice(-ID_LETTERS)}`;
}

/** Where a file of a drive lies in its bin: below the folder of that time it keeps its whole path. */
export const inBin = (folder: string, path: string): string => `${BIN_FOLDER}/${folder}/${path}`;

/** A frame that is in the bin, as it lay before. */
export interface BinnedFrame {
  id: string;
  name: string;
  folder: string;
  place: string;
  files: readonly Pick<MoveFile, 'assetId' | 'path'>[];
  /** where it comes to instead: its shoot lies elsewhere by now. Missing: where it lay */
  home?: { folder: string; place: string };
}

/**
 * Brings frames back to where they lay, each file to its own folder, or to where their shoot lies by now; where one of their names was taken meanwhile, all
 * files of the frame get another. Pure. `exists` tells whether a place is taken. `from` of each file is where it lay
 * before, not its place in the bin.
 */
export function planReturn(frames: readonly BinnedFrame[], exists: (to: string) => boolean): PlannedMove[] {
  const claimed = new Set<string>();
  const isTaken = (to: string) => claimed.has(collisionKey(to)) || exists(to);
  return frames.map(({ id, name, folder, place, files, home }) => {
    const filesAs = (base: string) =>
      files.map(({ assetId, path }) => ({
        ...{ assetId, from: path },
        to:
          base === name && !home
            ? path
            : `${home?.place ?? path.slice(0, path.lastIndexOf('/'))}/${base}${endingAfter(path, name)}`,
      }));
    const at = home ?? { folder, place };
    const placesOf = (base: string) => [...filesAs(base).map(({ to }) => to), sidecarOf(at.place, base)];
    const base = freeName(name, (tried) => placesOf(tried).some(isTaken));
    for (const to of placesOf(base)) claimed.add(collisionKey(to));
    return { id, from: { name, folder, place }, to: { name: base, ...at }, files: filesAs(base) };
  });
}
