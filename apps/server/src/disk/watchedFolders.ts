import path from 'node:path';
import type { Disk } from './disk';

/** Watched folders at most, for one purpose: systems begin to refuse at some eight thousand, and others want some too. */
export const MOST_WATCHED = 1000;

type OnName = (name: string | null) => void;

interface Watched {
  /** its number on its device, which tells it from another that comes into its place; null: it may be gone, and its number another's */
  key: string | null;
  stop: () => void;
  /** null: it is watched for what comes into it alone */
  onName: OnName | null;
}

/** Folders on this machine that are watched for one purpose, each once. */
export class WatchedFolders {
  private readonly watched = new Map<string, Watched>();
  /** by folder that may go and come again, who wants to know */
  private readonly comings = new Map<string, () => void>();
  private ended = false;

  constructor(
    private readonly disk: Disk,
    private readonly most = MOST_WATCHED,
  ) {}

  /**
   * Watches a folder; `onName` hears of each name that changes in it, or null where the system does not say which. Returns whether it is
   * watched from now on: a place that cannot be (a share, or too many of them) has to be looked at otherwise. Asked for again, it finds
   * the folder that somebody has put in the place of the one that was watched, of which nothing would be heard.
   */
  async watch(folder: string, onName: OnName): Promise<boolean> {
    return this.see(folder, onName);
  }

  /** Watches for a folder itself: one that goes, and comes again, is told of by the folder that it lies in. */
  async watchFor(folder: string, onComing: () => void): Promise<boolean> {
    if (!this.ended) this.comings.set(folder, onComing);
    return this.see(path.dirname(folder), null);
  }

  /** Watches others no more. */
  keep(folders: { has: (folder: string) => boolean }): void {
    for (const [folder, watched] of this.watched) if (!folders.has(folder)) this.drop(folder, watched);
    for (const folder of this.comings.keys()) if (!folders.has(folder)) this.comings.delete(folder);
  }

  /** Watches none: what watched a drive that went hears nothing of the one that came back in its place. */
  clear(): void {
    this.keep(new Set());
  }

  /** Watches none, and none from now on. */
  end(): void {
    this.ended = true;
    this.clear();
  }

  private async see(folder: string, onName: OnName | null): Promise<boolean> {
    const facts = await this.disk.facts(folder).catch(() => null);
    const key = facts?.kind === 'folder' ? `${facts.device} ${facts.inode}` : null;
    const known = this.watched.get(folder);
    if (known && key !== null && known.key === key) {
      if (onName) known.onName = onName;
      return true;
    }
    if (known) this.drop(folder, known);
    if (key === null || this.ended || this.watched.size >= this.most) return false;
    const stop = this.disk.watch(folder, (name) => this.told(folder, name));
    if (stop) this.watched.set(folder, { key, stop, onName: onName ?? known?.onName ?? null });
    return stop !== null;
  }

  private told(folder: string, name: string | null): void {
    const watched = this.watched.get(folder);
    // Its own name: it was taken away, or holds something that is called as it is.
    if (watched && name === path.basename(folder)) watched.key = null;
    watched?.onName?.(name);
    for (const [coming, onComing] of this.comings)
      if (path.dirname(coming) === folder && (name === null || path.basename(coming) === name)) onComing();
  }

  private drop(folder: string, { stop }: Watched): void {
    stop();
    this.watched.delete(folder);
  }
}
