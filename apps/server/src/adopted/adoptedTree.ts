import path from 'node:path';
import { Injectable } from '@nestjs/common';
import { isOfFrame, staysOut, type CardFile } from '@arkiv/core';
import { Disk, diskErrorCode } from '../disk/disk';
import { ShootsService } from '../shoots/shoots.service';
import type { Volume } from '../volumes/volume.entity';
import { VolumesService } from '../volumes/volumes.service';

/** Deeper than anybody files pictures. */
const DEEPEST = 32;
/** Names looked up together: the folder lies in memory after the first, and the rest only waits for threads. */
const LOOKED_UP = 32;

/** Why something in a tree stays out. `unnamed`: its name is no text, or none that a place may have; `root`: a picture at a drive's root. */
export const LEFT_OUT = ['hidden', 'archive', 'link', 'unnamed', 'root', 'other'] as const;
export type LeftOut = (typeof LEFT_OUT)[number];

/** What lies in one folder. */
export interface TreeFolder {
  /** below the drive; empty: the drive itself */
  path: string;
  /** parts of frames, by their names */
  files: CardFile[];
  /** names of all files */
  names: string[];
  /** folders in it that are not left out */
  folders: string[];
  /** nothing is said of what lies in it: it is an archive's, or may not be read */
  closed: 'archive' | 'unreadable' | null;
  out: Record<LeftOut, number>;
}

/** Reads trees of folders that are not the archive's own. Nothing is changed, and no link is followed. */
@Injectable()
export class AdoptedTree {
  constructor(
    private readonly disk: Disk,
    private readonly volumes: VolumesService,
    private readonly shoots: ShootsService,
  ) {}

  /** What lies in a folder; null: there is no such folder. */
  async folder(volume: Volume, folder: string): Promise<TreeFolder | null> {
    const place = await this.place(volume, folder);
    const found = this.empty(folder);
    try {
      if (place === null || (await this.disk.facts(place))?.kind !== 'folder') return null;
      const raw = await this.disk.names(place);
      const names = raw.map((name) => name.toString('utf8'));
      const isArchives = staysOut(path.posix.basename(folder), folder === '' ? null : names) === 'archive';
      // What goes out of a shoot, and comes back, is no picture of the tree.
      if (isArchives || (folder !== '' && (await this.shoots.isForWork(folder))))
        return { ...found, closed: 'archive', out: { ...found.out, archive: 1 } };
      for (let from = 0; from < names.length; from += LOOKED_UP) {
        const some = names.slice(from, from + LOOKED_UP);
        const facts = await Promise.all(
          some.map((name, i) =>
            isName(name, raw[from + i]!) ? this.disk.facts(path.join(place, name)) : null,
          ),
        );
        for (const [i, name] of some.entries())
          this.sort(found, name, facts[i] ?? null, isName(name, raw[from + i]!));
      }
      found.files.sort((a, b) => (a.path < b.path ? -1 : 1));
      found.folders.sort();
      return found;
    } catch (error) {
      if (diskErrorCode(error) === null) throw error;
      return { ...this.empty(folder), closed: 'unreadable' };
    }
  }

  /** A folder in which nothing lies. */
  empty(folder: string): TreeFolder {
    return { path: folder, files: [], names: [], folders: [], closed: null, out: noneOut() };
  }

  private sort(
    found: TreeFolder,
    name: string,
    facts: { kind: string; size: number; mtimeMillis: number } | null,
    isText: boolean,
  ): void {
    const out = (why: LeftOut) => void (found.out[why] += 1);
    if (!isText) return out('unnamed');
    const why = staysOut(name, null);
    if (why !== null) return out(why);
    if (facts?.kind === 'folder') return void found.folders.push(name);
    if (facts?.kind === 'link') return out('link');
    if (facts?.kind !== 'file') return;
    found.names.push(name);
    if (!isOfFrame(name)) return out('other');
    // Every place has a folder: what lies at a drive's root has none.
    if (found.path === '') return out('root');
    found.files.push({ path: name, size: facts.size, mtimeMillis: Math.round(facts.mtimeMillis) });
  }

  /** All folders of a tree, a folder before what lies in it. `before`: done before a folder is read. */
  async *walk(
    volume: Volume,
    folder: string,
    before: (folder: string) => Promise<void> = () => Promise.resolve(),
    depth = 0,
  ): AsyncGenerator<TreeFolder> {
    await before(folder);
    const found = await this.folder(volume, folder);
    if (!found) return;
    yield found;
    if (depth >= DEEPEST) return;
    for (const name of found.folders)
      yield* this.walk(volume, folder === '' ? name : `${folder}/${name}`, before, depth + 1);
  }

  /** The place on this machine; null for what no place of a drive may be. */
  async place(volume: Volume, folder: string): Promise<string | null> {
    return folder === '' ? volume.root : this.volumes.resolve(volume, folder).catch(() => null);
  }
}

export const noneOut = (): Record<LeftOut, number> =>
  Object.fromEntries(LEFT_OUT.map((why) => [why, 0])) as Record<LeftOut, number>;

/** Whether a name is text, and one that a place below a drive may have. */
const isName = (name: string, raw: Buffer): boolean =>
  Buffer.from(name, 'utf8').equals(raw) && !name.includes('\\');
