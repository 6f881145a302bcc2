import path from 'node:path';
import { underLock } from '../db/fileLock';
import type { Disk } from '../disk/disk';
import { readOwn, replaceOwn, sha256Of } from '../disk/place';

/** An archive of this computer, as it was when its server started last. */
export interface ListedArchive {
  /** its data directory, in full */
  folder: string;
  id: string;
  name: string;
  /** where it answered then, so that its bookmarks go on leading to it */
  port: number;
  /** when it was opened last, milliseconds since 1970 UTC */
  opened: number;
}

/** What the list's text says; null where it is none of ours. Entries that are not whole are left out. */
export function readArchiveList(text: string): ListedArchive[] | null {
  try {
    const { archives } = JSON.parse(text) as { archives: ListedArchive[] };
    if (!Array.isArray(archives)) return null;
    return archives.filter(
      (one) =>
        typeof one?.folder === 'string' &&
        path.isAbsolute(one.folder) &&
        typeof one.id === 'string' &&
        typeof one.name === 'string' &&
        Number.isInteger(one.port) &&
        Number.isFinite(one.opened),
    );
  } catch {
    return null;
  }
}

/** Which archives this computer has: one file of whoever works on it, outside of all of them. */
export class ArchiveList {
  constructor(
    private readonly disk: Disk,
    /** empty: none is kept */
    private readonly file: string,
  ) {}

  get isKept(): boolean {
    return this.file !== '';
  }

  /** The one that was opened last is first. */
  async all(): Promise<ListedArchive[]> {
    const text = this.isKept ? await readOwn(this.disk, this.file) : null;
    return (text === null ? [] : (readArchiveList(text) ?? [])).sort((a, b) => b.opened - a.opened);
  }

  /** Puts an archive on the list, or says anew what it is. */
  put(archive: ListedArchive): Promise<void> {
    return this.change((list) => [...list.filter(({ folder }) => folder !== archive.folder), archive]);
  }

  /** Takes an archive off the list; nothing of the archive itself is touched. */
  drop(folder: string): Promise<void> {
    return this.change((list) => list.filter((one) => one.folder !== folder));
  }

  private async change(to: (list: ListedArchive[]) => ListedArchive[]): Promise<void> {
    if (!this.isKept) return;
    await this.disk.makeFolders(path.dirname(this.file));
    // Several servers may start in one moment.
    await underLock(`${this.file}.lock`, async () => {
      const text = await readOwn(this.disk, this.file);
      const list = text === null ? [] : readArchiveList(text);
      // What nobody can read is kept beside, and a new list begun: an archive is found by its folder, too.
      if (list === null)
        await this.disk.rename(this.file, `${this.file}.unreadable-${sha256Of(text!).slice(0, 8)}`);
      const changed = `${JSON.stringify({ schema: 1, archives: to(list ?? []) }, null, 2)}\n`;
      const seen = text === null || list === null ? null : sha256Of(text);
      if (changed !== text) await replaceOwn(this.disk, this.file, changed, seen, `${process.pid}`);
    });
  }
}
