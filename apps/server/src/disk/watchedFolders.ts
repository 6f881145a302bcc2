import type { Disk } from './disk';

/** Watched folders at most, for one purpose: systems begin to refuse at some eight thousand, and others want some too. */
export const MOST_WATCHED = 1000;

/** Folders on this machine that are watched for one purpose, each once. */
export class WatchedFolders {
  private readonly stops = new Map<string, () => void>();
  private ended = false;

  constructor(private readonly disk: Disk) {}

  /**
   * Watches a folder; `onName` hears of each name that changes in it, or null where the system does not say which. Returns whether it is
   * watched from now on: a place that cannot be (a share, or too many of them) has to be looked at otherwise.
   */
  watch(folder: string, onName: (name: string | null) => void): boolean {
    if (this.stops.has(folder)) return true;
    if (this.ended || this.stops.size >= MOST_WATCHED) return false;
    const stop = this.disk.watch(folder, onName);
    if (stop) this.stops.set(folder, stop);
    return stop !== null;
  }

  /** Watches others no more. */
  keep(folders: { has: (folder: string) => boolean }): void {
    for (const [folder, stop] of this.stops) {
      if (folders.has(folder)) continue;
      stop();
      this.stops.delete(folder);
    }
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
}
