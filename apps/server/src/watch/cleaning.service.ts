import path from 'node:path';
import { Injectable } from '@nestjs/common';
import { ArkivError, BIN_FOLDER, isoTime, stampOf } from '@arkiv/core';
import { Disk, diskErrorCode } from '../disk/disk';
import { placeNew, settle } from '../disk/place';
import { SettingsService } from '../settings/settings.service';
import { Clock } from '../system/clock';
import { Ids } from '../system/ids';
import { VolumesService } from '../volumes/volumes.service';
import type { LeftFile, WatchRule } from './watchRule.entity';
import { WatchStore, type TakenFile } from './watchStore';

/**
 * Puts what was taken in out of a watched folder into the bin within it, file by file, once it is proven. A file is moved only: it
 * must be as it was when it was read, as many devices as the studio asks for must hold proven copies of its content, and none of these may
 * be the file itself.
 */
@Injectable()
export class Cleaning {
  constructor(
    private readonly disk: Disk,
    private readonly store: WatchStore,
    private readonly volumes: VolumesService,
    private readonly settings: SettingsService,
    private readonly clock: Clock,
    private readonly ids: Ids,
  ) {}

  /** Returns what stays although it was taken in, with the reason. */
  async clean(rule: WatchRule, files: readonly TakenFile[]): Promise<LeftFile[]> {
    const { requiredCopies } = await this.settings.all();
    const day = isoTime(this.clock.now()).slice(0, 10);
    // What is moved in one go lies together.
    const folder = `${BIN_FOLDER}/${day}_${this.ids.newId().slice(-6).toLowerCase()}`;
    const moved: { path: string; sha256: string; size: number }[] = [];
    const stay: LeftFile[] = [];
    for (const file of files) {
      if (file.sha256 === null) continue;
      const why = await this.move(rule, folder, file, requiredCopies);
      if (why === 'gone') continue;
      if (why === null) moved.push({ path: file.from, sha256: file.sha256, size: file.size });
      else stay.push({ path: file.from, stamp: stampOf(file), reason: why });
    }
    if (moved.length > 0) await this.tell(rule, folder, moved);
    return stay;
  }

  private async move(
    rule: WatchRule,
    folder: string,
    { from, size, mtimeMillis, sha256 }: TakenFile,
    required: number,
  ): Promise<'gone' | string | null> {
    const file = path.join(rule.root, from);
    const facts = await this.disk.facts(file);
    if (!facts) return 'gone';
    if (facts.kind !== 'file' || stampOf(facts) !== stampOf({ size, mtimeMillis }))
      return 'it has changed since it was taken in';
    const { devices, copies } = await this.store.copiesOf(sha256!);
    if (devices < required)
      return `${devices} of ${required} proven copies are there: it is moved when there are enough`;
    for (const { volumeId, at } of copies) {
      const volume = await this.volumes.get(volumeId);
      if (!(await this.volumes.isOnline(volume))) continue;
      const copy = await this.disk.facts(await this.volumes.resolve(volume, at));
      if (copy?.device === facts.device && copy.inode === facts.inode)
        return `it is the archive’s own copy on “${volume.name}”`;
    }
    const to = path.join(rule.root, folder, from);
    try {
      await this.disk.makeFolders(path.dirname(to));
      await settle(this.disk, file, to);
      await this.disk.syncFolder(path.dirname(to));
      await this.disk.syncFolder(path.dirname(file));
      return null;
    } catch (error) {
      if (!(error instanceof ArkivError) && diskErrorCode(error) === null) throw error;
      return `it could not be moved into the bin (${(error as Error).message})`;
    }
  }

  /** What lies there, for whoever looks: it was taken in, and this is what it is. */
  private async tell(rule: WatchRule, folder: string, files: readonly object[]): Promise<void> {
    const text = `${JSON.stringify({ schema: 1, deed: 'taken-in', at: this.clock.now(), files }, null, 1)}\n`;
    const place = path.join(rule.root, folder, 'bin.json');
    await placeNew(this.disk, place, Buffer.from(text), rule.id);
  }
}
