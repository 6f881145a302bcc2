import path from 'node:path';
import { Injectable } from '@nestjs/common';
import {
  ArkivError,
  groupCardFiles,
  kindOf,
  pictureOf,
  shootDay,
  shootOfFolder,
  titleOfFolder,
  type AdoptRule,
} from '@arkiv/core';
import { Disk } from '../disk/disk';
import { isWithin } from '../disk/volumePath';
import { Contents } from '../metadata/contents.service';
import { MountsService } from '../mounts/mounts.service';
import { SettingsService } from '../settings/settings.service';
import { localDay } from '../system/localDay';
import type { Volume } from '../volumes/volume.entity';
import { VolumesService } from '../volumes/volumes.service';
import { below } from './adoptedPlace';
import { AdoptedStore } from './adoptedStore';
import { AdoptedTree, noneOut, type LeftOut } from './adoptedTree';

/** Shoots named of what a folder would become, and pictures whose day is read for that. */
const SHOWN = 200;
const DAYS_READ = 300;

/** One shoot that a folder would become. */
export interface WouldBecome {
  title: string;
  /** null: its first picture says it, which nobody has read */
  date: string | null;
  /** below the adopted folder */
  folder: string;
  frames: number;
}

export interface AdoptExample {
  /** name of the drive that it lies on */
  drive: string;
  /** full path of a folder that becomes a drive of the archive first; null: it is one */
  newDrive: string | null;
  shoots: WouldBecome[];
  /** shoots beyond those that are named */
  moreShoots: number;
  frames: number;
  files: number;
  bytes: number;
  /** sidecars beside its pictures */
  sidecars: number;
  /** frames whose day was not read */
  daysUnread: number;
  out: Record<LeftOut, number>;
}

/** Where a folder lies: its drive, known or still to be added, and the place below that. */
export interface Where {
  volume: Volume | null;
  root: string;
  name: string;
  path: string;
}

/** Where a folder lies that somebody wants to adopt, and what it would become. */
@Injectable()
export class AdoptPlaces {
  constructor(
    private readonly disk: Disk,
    private readonly store: AdoptedStore,
    private readonly tree: AdoptedTree,
    private readonly contents: Contents,
    private readonly settings: SettingsService,
    private readonly volumes: VolumesService,
    private readonly mounts: MountsService,
  ) {}

  /** Throws `adopt.folder` for what is no folder, is adopted already, or is the archive's own. */
  async of(given: string): Promise<Where> {
    const refuse = (reason: string): never => {
      throw new ArkivError('adopt.folder', { path: given, reason });
    };
    if (!path.isAbsolute(given)) refuse('it is not a full path');
    if ((await this.disk.facts(given))?.kind !== 'folder') refuse('there is no such folder');
    const at = await this.disk.realPath(given);
    for (const volume of await this.volumes.all()) {
      if (!(await this.volumes.isOnline(volume))) continue;
      const root = await this.disk.realPath(volume.root);
      if (!isWithin(at, root)) {
        if (isWithin(root, at)) refuse(`the drive “${volume.name}” lies in it`);
        continue;
      }
      if (volume.role === 'edit') refuse(`“${volume.name}” is for editing: what lies there is a copy`);
      const place = at === root ? '' : at.slice(root.length + 1);
      for (const other of await this.store.all())
        if (other.volumeId === volume.id && (isWithin(place, other.path) || isWithin(other.path, place)))
          refuse('it, or a folder in it or above it, is adopted already');
      const there = await this.tree.folder(volume, place);
      if (there?.closed === 'archive') refuse(`it belongs to a shoot on “${volume.name}”`);
      if (there?.closed === 'unreadable') refuse('it may not be read');
      return { volume, root, name: volume.name, path: place };
    }
    const root = await this.rootFor(at);
    return {
      volume: null,
      root,
      name: path.basename(root) || root,
      path: at === root ? '' : at.slice(root.length + 1),
    };
  }

  /** The folder that becomes a drive, so that a folder on it can be adopted: where its disk is mounted, or else the folder above. */
  private async rootFor(at: string): Promise<string> {
    const points = (await this.mounts.now()).map(({ mount }) => mount.point);
    const mount = points.filter((point) => point !== '/' && isWithin(at, point));
    const [longest] = mount.sort((a, b) => b.length - a.length);
    return longest ?? path.dirname(at);
  }

  /** What a folder would become. Nothing is changed. */
  async example(given: string, rule: AdoptRule): Promise<AdoptExample> {
    const where = await this.of(given);
    const { dayStartHour } = await this.settings.all();
    // A drive that is still to be added is walked as what it will be.
    const volume = where.volume ?? ({ id: '', root: where.root, name: where.name } as Volume);
    const root = path.posix.basename(where.path) || where.name;
    const out = noneOut();
    const shoots = new Map<string, WouldBecome>();
    const sum = { frames: 0, files: 0, bytes: 0, sidecars: 0, daysUnread: 0 };
    for await (const there of this.tree.walk(volume, where.path)) {
      for (const why of Object.keys(out) as LeftOut[]) out[why] += there.out[why];
      const { frames } = groupCardFiles(there.files);
      for (const frame of frames) {
        const main = pictureOf(frame.files);
        let day = '';
        if (rule === 'day' && sum.frames < DAYS_READ && main) {
          const file = path.join(await this.volumes.resolve(volume, there.path), main.path);
          const { capture } = (await this.contents.facts(file, main)).facts;
          day = capture ? shootDay(capture, dayStartHour) : localDay(main.mtimeMillis);
        } else if (rule === 'day') sum.daysUnread += 1;
        sum.frames += 1;
        if (rule === 'day' && day === '') continue;
        const its = shootOfFolder(rule, below(where.path, there.path), day);
        const shoot = shoots.get(its.key) ?? {
          ...{ title: titleOfFolder(its, rule, root), date: its.date, frames: 0 },
          folder: rule === 'day' ? '' : its.folder,
        };
        shoot.frames += 1;
        shoots.set(its.key, shoot);
      }
      const sidecars = there.files.filter((file) => kindOf(file.path).role === 'sidecar').length;
      sum.files += there.files.length - sidecars;
      sum.sidecars += sidecars;
      for (const { path: name, size } of there.files) if (kindOf(name).role !== 'sidecar') sum.bytes += size;
    }
    return {
      ...{ drive: where.name, newDrive: where.volume ? null : where.root, ...sum, out },
      shoots: [...shoots.values()].slice(0, SHOWN),
      moreShoots: Math.max(0, shoots.size - SHOWN),
    };
  }
}
