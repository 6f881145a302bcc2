import type { FindIndex } from './findIndex';

/** A folder in which frames lie, or that holds such folders. */
export interface FoundFolder {
  /** below each drive */
  path: string;
  name: string;
  /** frames in it and below it */
  frames: number;
}

/** What lies in a folder of the archive, as it lies on its drives. */
export interface FoundFolders {
  /** frames in it and below it */
  frames: number;
  /** frames in it, not below it */
  own: number;
  /** folders in it, by their names */
  folders: FoundFolder[];
}

/** The folders of all frames that are here, below one: the empty path holds all. */
export function foldersOf(index: FindIndex, path: string): FoundFolders {
  const { codes, values } = index.coded.lies;
  const counts = new Uint32Array(values.length);
  index.all().each((n) => (counts[codes[n]!]! += 1));
  const below = new Map<string, number>();
  const found: FoundFolders = { frames: 0, own: 0, folders: [] };
  const begins = path === '' ? '' : `${path}/`;
  values.forEach((value, code) => {
    const frames = counts[code]!;
    if (value === null || frames === 0) return;
    const place = String(value);
    if (place === path) found.own += frames;
    else if (!place.startsWith(begins)) return;
    else {
      const name = place.slice(begins.length).split('/')[0]!;
      below.set(name, (below.get(name) ?? 0) + frames);
    }
    found.frames += frames;
  });
  found.folders = [...below]
    .map(([name, frames]) => ({ path: begins + name, name, frames }))
    .sort((a, b) => a.name.localeCompare(b.name, 'en', { numeric: true }));
  return found;
}
