import path from 'node:path';
import { Injectable } from '@nestjs/common';
import { ArkivError, type PlannedMove } from '@arkiv/core';
import { Disk, diskErrorCode } from '../disk/disk';
import { settle } from '../disk/place';
import { hashFile } from '../disk/verifiedCopy';
import { FramesService } from '../frames/frames.service';
import { WaitForOutside } from '../jobs/jobHandler';
import { volumeError, VolumesService } from '../volumes/volumes.service';
import type { Volume } from '../volumes/volume.entity';

/** One file from one place to another on one volume. */
export interface Way {
  volume: Volume;
  from: string;
  to: string;
  /** what it must hold; null for texts, which have no fixed content */
  sha256: string | null;
}

/** A file's place without its ending: where its frame's sidecars begin. */
export const frameNameOf = (file: string): string =>
  file.slice(0, file.length - path.posix.extname(file).length);

/** How the sidecars of a frame with these files may end, after its name: ours, and those of programs that add theirs. */
export const sidecarEndings = (files: readonly string[]): Set<string> =>
  new Set(['.xmp', ...files.map((file) => `.${file.split('.').at(-1)}.xmp`)]);

/**
 * Files of one frame from place to place, on all drives or on none: each gets its new name by a link before the old one
 * goes, never over another file. Each step can be repeated after a kill.
 */
@Injectable()
export class FileWays {
  constructor(
    private readonly disk: Disk,
    private readonly archive: FramesService,
    private readonly volumes: VolumesService,
  ) {}

  /** Goes all ways and then does `note`; where anything fails, goes back what was gone and throws. */
  async go(ways: readonly Way[], note: () => Promise<void>): Promise<void> {
    const done: Way[] = [];
    try {
      for (const way of ways)
        if (await this.isTaken(way)) throw new ArkivError('file.exists', { file: way.to });
      for (const way of ways) {
        await this.step(way);
        done.push(way);
      }
      await note();
    } catch (error) {
      for (const way of done.reverse())
        await this.step({ ...way, from: way.to, to: way.from }).catch(() => undefined);
      throw error;
    }
  }

  /**
   * Every file of the frame on every volume that has it, its sidecar beside it. Drives that are away are waited for, or
   * left out.
   */
  async of(data: PlannedMove, away: 'waited' | 'left'): Promise<Way[]> {
    const ways: Way[] = [];
    /** by drive, where the frame's sidecars begin there */
    const sidecars = new Map<string, { volume: Volume; before: string }>();
    const { from: old } = data;
    const named = `${old.place}/${old.name}`;
    for (const file of data.files) {
      const asset = await this.archive.asset(file.assetId);
      for (const { copy, volume } of await this.archive.copiesOf(file.assetId)) {
        if (away === 'waited') await this.present(volume);
        else if (!(await this.volumes.isOnline(volume))) continue;
        // It lies there under that name already, by another archive's hand, and its sidecars beside it; the old place may be another's.
        if (copy.own && copy.at === file.to) continue;
        if (!sidecars.has(volume.id))
          sidecars.set(volume.id, { volume, before: copy.own ? frameNameOf(copy.at) : named });
        // A run that was killed after it was written down finds it at its new place already.
        const from = copy.at === file.to ? file.from : copy.at;
        if (from !== file.to) ways.push({ volume, from, to: file.to, sha256: asset?.sha256 ?? null });
      }
      // What lies in the place of a damaged copy goes along with the note of it, whatever it holds.
      for (const damage of await this.archive.damages(file.assetId)) {
        const volume = await this.volumes.get(damage.volumeId);
        const way = { volume, from: file.from, to: file.to, sha256: null };
        if (file.from === file.to || damage.place !== file.from || !(await this.volumes.isOnline(volume)))
          continue;
        if ((await this.there(way, 'from')) || (await this.there(way, 'to'))) ways.push(way);
      }
    }
    if (data.id === null) return ways;
    const after = `${data.to.place}/${data.to.name}`;
    if (named === after) return ways;
    const endings = sidecarEndings(data.files.map((file) => file.from));
    const known = new Set(data.files.map((file) => file.from));
    for (const { volume, before } of sidecars.values())
      for (const way of await this.sidecars(volume, before, after, endings))
        if (!known.has(way.from)) ways.push(way);
    return ways;
  }

  /** The sidecars that go along with one file, where its frame's name is all that is known of it: beside both its ends. */
  async beside({ volume, from, to }: Way): Promise<Way[]> {
    const found = await this.sidecars(volume, frameNameOf(from), frameNameOf(to), sidecarEndings([from]));
    // A sidecar that came on the card is a file of its own.
    return found.filter((way) => way.from !== from);
  }

  /** The sidecars of a frame on one volume, from beside its files to beside them: those that are there. */
  async sidecars(
    volume: Volume,
    before: string,
    after: string,
    endings: ReadonlySet<string>,
  ): Promise<Way[]> {
    const ways: Way[] = [];
    for (const ending of endings) {
      const way = { volume, from: before + ending, to: after + ending, sha256: null };
      if ((await this.there(way, 'from')) || (await this.there(way, 'to'))) ways.push(way);
    }
    return ways;
  }

  /** Whether something else stands at the new place. What stands there because of us is the same file or the same bytes. */
  async isTaken(way: Way): Promise<boolean> {
    if (!(await this.there(way, 'to'))) {
      if (await this.there(way, 'from')) return false;
      throw new ArkivError('not-found', { what: `file on “${way.volume.name}”`, id: way.from });
    }
    return !(await this.isOurs(way));
  }

  private async isOurs(way: Way): Promise<boolean> {
    const to = await this.volumes.resolve(way.volume, way.to);
    if (way.sha256 !== null) return (await hashFile(this.disk, to)).sha256 === way.sha256;
    // A text that a killed run has moved already: its old place is empty, or holds the same.
    if (!(await this.there(way, 'from'))) return true;
    const from = await this.volumes.resolve(way.volume, way.from);
    return (await hashFile(this.disk, from)).sha256 === (await hashFile(this.disk, to)).sha256;
  }

  /** Repeatable: link, then take the old name away, then both folders are made durable. */
  private async step(way: Way): Promise<void> {
    const from = await this.volumes.resolve(way.volume, way.from);
    const to = await this.volumes.resolve(way.volume, way.to);
    await this.disk.makeFolders(path.dirname(to));
    if (!(await this.disk.facts(to))) await settle(this.disk, from, to);
    else {
      // What stands there may have come a moment ago: the old name goes only when the new one holds the same.
      if (!(await this.isOurs(way))) throw new ArkivError('file.exists', { file: way.to });
      // The new name must be durable before the old one may go.
      await this.disk.syncFolder(path.dirname(to));
      if (await this.disk.facts(from)) await this.disk.unlink(from);
    }
    await this.disk.syncFolder(path.dirname(from));
  }

  /** Whether anything stands at one of its ends. */
  async there(way: Way, end: 'from' | 'to'): Promise<boolean> {
    return (await this.disk.facts(await this.volumes.resolve(way.volume, way[end]))) !== null;
  }

  /** Throws {@link WaitForOutside} where the drive is away. */
  async present(volume: Volume): Promise<void> {
    if (!(await this.volumes.isOnline(volume)))
      throw new WaitForOutside(
        `“${volume.name}” is not there. Plug it in: moving carries on where it stopped.`,
      );
  }

  /**
   * What stopped a frame’s files, in words for the report. What is no trouble of a disk is thrown again, as is what a
   * drive has to come back for.
   */
  async troubleOf(error: unknown, path: string, assetIds: readonly string[]): Promise<string> {
    if (error instanceof WaitForOutside) throw error;
    if (error instanceof ArkivError) return `${path}: ${error.message} ${error.body().next}`;
    if (diskErrorCode(error) === null) throw error;
    const [copy] = await this.archive.copiesOf(assetIds[0] ?? '');
    const shown = copy ? volumeError(error, copy.volume, path, 0, 0) : null;
    return `${path}: ${shown?.message ?? (error as Error).message} ${shown?.body().next ?? ''}`.trim();
  }
}
