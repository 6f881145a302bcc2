import path from 'node:path';
import { Injectable } from '@nestjs/common';
import {
  baseOf,
  factsFromTags,
  folderChanges,
  groupCardFiles,
  isShot,
  kindOf,
  pictureOf,
  shootDay,
  shootOfFolder,
  sidecarNames,
  type CardFile,
  type CardFrame,
  type CardFrameFile,
  type KnownFile,
  type ShootOfFolder,
  type SidecarNames,
} from '@arkiv/core';
import type { EntityManager } from 'typeorm';
import { Strayed } from '../bin/strayed.service';
import { UnitOfWork } from '../db/unitOfWork';
import { Disk, diskErrorCode } from '../disk/disk';
import { Happenings } from '../events/domainEvents';
import { DueTexts } from '../frames/dueTexts.service';
import { FoundFrames, type FoundFile } from '../frames/foundFrames';
import { Frame } from '../frames/frame.entity';
import { CopyStore, type Found } from '../frames/copyStore';
import { OwnTextsService } from '../frames/ownTexts.service';
import { Contents } from '../metadata/contents.service';
import { SettingsService } from '../settings/settings.service';
import { ShootsService } from '../shoots/shoots.service';
import { Clock } from '../system/clock';
import { Ids } from '../system/ids';
import { localDay } from '../system/localDay';
import type { Volume } from '../volumes/volume.entity';
import { VolumesService } from '../volumes/volumes.service';
import type { Adopted } from './adopted.entity';
import { AdoptedAlbums } from './adoptedAlbums.service';
import { adoptedFrame, type ReadFrame } from './adoptedFrame';
import { below, homeOf, type AdoptedPlace } from './adoptedPlace';
import { AdoptedStore, type KnownInFolder } from './adoptedStore';
import type { TreeFolder } from './adoptedTree';
import { endsOf } from './ends';
import { FollowMoves } from './followMoves.service';
import { SaidBeside } from './saidBeside.service';

/** Milliseconds for which a file must not have changed: programs write a large picture in parts, with pauses under a second. */
export const SETTLED = 2000;
/** Files read at once: a disk gains nothing from more. */
const IN_FLIGHT = 4;
/** Frames written in one transaction: some milliseconds of the writer. */
const PART = 50;

const GONE = { reason: 'is not there any more.', as: 'missing' } as const;

/** What became of a folder that was looked at. */
export interface Indexed {
  /** frames that came */
  added: number;
  /** files that are not there any more, or not what they should be */
  damaged: number;
  /** what could not be read, in words */
  problems: string[];
}

/** How a folder differs from what is known of it, as far as nobody is writing just now. */
interface Compared {
  known: (KnownInFolder & KnownFile)[];
  groups: CardFrame[];
  fresh: CardFile[];
  changed: { was: KnownInFolder; is: CardFile }[];
  gone: KnownInFolder[];
}

/** The folder that is taken up. `tell`: whether previews of new frames are made without being asked for. */
interface Where extends AdoptedPlace {
  tell: boolean;
  sidecars: SidecarNames;
}

/** A file with its beginning. */
type ReadFile = FoundFile & { head: Buffer };

/** Brings what is known of a folder in step with what lies in it. Nothing in it is changed. */
@Injectable()
export class AdoptedFrames {
  /** milliseconds for which a file must not have changed */
  settles = SETTLED;

  constructor(
    private readonly disk: Disk,
    private readonly work: UnitOfWork,
    private readonly store: AdoptedStore,
    private readonly beside: SaidBeside,
    private readonly albums: AdoptedAlbums,
    private readonly contents: Contents,
    private readonly found: FoundFrames,
    private readonly moving: FollowMoves,
    private readonly strayed: Strayed,
    private readonly copyStore: CopyStore,
    private readonly texts: OwnTextsService,
    private readonly due: DueTexts,
    private readonly shoots: ShootsService,
    private readonly settings: SettingsService,
    private readonly volumes: VolumesService,
    private readonly happenings: Happenings,
    private readonly clock: Clock,
    private readonly ids: Ids,
  ) {}

  /** Whether anything in a folder is another than it is known, without reading it. */
  async differs(volume: Volume, there: TreeFolder): Promise<boolean> {
    const { fresh, changed, gone } = await this.compare(volume, there);
    return fresh.length > 0 || changed.length > 0 || gone.length > 0;
  }

  /**
   * `most`: frames that are taken in, where not all are wanted at once; `tell`: whether previews of new frames are made
   * without being asked for.
   */
  async index(
    adopted: Adopted,
    volume: Volume,
    there: TreeFolder,
    { most = Infinity, tell }: { most?: number; tell: boolean },
  ): Promise<Indexed> {
    const done: Indexed = { added: 0, damaged: 0, problems: [] };
    const compared = await this.compare(volume, there);
    for (const { was, is } of compared.changed) await this.changed(volume, there, was, is, done);
    for (const file of compared.gone) await this.damaged(volume, file, GONE, done);
    const sidecars = sidecarNames(there.names);
    await this.fresh({ adopted, volume, there, tell, sidecars }, compared, most, done);
    if (done.damaged > 0) this.happenings.tell('volumes', {});
    return done;
  }

  /** Files of a folder that nobody has written since a while, and whether others are being written. */
  settled(there: TreeFolder): { settled: CardFile[]; isWriting: boolean } {
    const writing = this.writing(there);
    return {
      settled: there.files.filter((file) => !writing.has(baseOf(file.path))),
      isWriting: writing.size > 0,
    };
  }

  /** Base names of frames of which a file has changed just now. */
  private writing({ files }: TreeFolder): Set<string> {
    const now = this.clock.now();
    return new Set(
      files
        .filter(({ mtimeMillis }) => Math.abs(now - mtimeMillis) < this.settles)
        .map((file) => baseOf(file.path)),
    );
  }

  private async compare(volume: Volume, there: TreeFolder): Promise<Compared> {
    const inside = `${there.path}/`;
    const known = (await this.store.known(volume.id, there.path))
      .filter(({ at }) => path.posix.dirname(at) === there.path)
      .map((file) => ({ ...file, path: file.at.slice(inside.length), mtimeMillis: file.mtime }));
    const away = await this.store.putAway(volume.id, there.path);
    // What is no part of a frame, as a voice note without its picture, is nobody's.
    const groups = groupCardFiles(there.files.filter((file) => !away.has(inside + file.path))).frames.map(
      (group) => ({ ...group, files: group.files.filter(({ role }) => role !== 'sidecar') }),
    );
    const changes = folderChanges(
      known,
      groups.flatMap(({ files }) => files),
    );
    const writing = this.writing(there);
    const isSettled = ({ path: name }: CardFile): boolean => !writing.has(baseOf(name));
    return {
      known,
      groups: groups.filter(({ files }) => files.every(isSettled)),
      fresh: changes.fresh.filter(isSettled),
      // What is damaged and still as it was found is nothing new.
      changed: changes.changed.filter(
        ({ was, is }) => isSettled(is) && !(was.damaged && this.isSeen(was, is)),
      ),
      gone: changes.gone.filter((file) => !file.damaged),
    };
  }

  /** Files that are not what they should be, as they were when they were looked at last. */
  private readonly seen = new Map<string, string>();
  private isSeen = (was: KnownInFolder, is: CardFile): boolean =>
    this.seen.get(was.assetId) === `${is.size} ${is.mtimeMillis}`;

  /** Another program has written a file, or has only given it another time. */
  private async changed(
    volume: Volume,
    there: TreeFolder,
    was: KnownInFolder,
    is: CardFile,
    done: Indexed,
  ): Promise<void> {
    const at = `${there.path}/${is.path}`;
    const file = await this.volumes.resolve(volume, at);
    const read = await endsOf(this.disk, file, is.size).catch(() => null);
    if (read === null) return;
    const { ends, head } = read;
    const kind = kindOf(is.path);
    const now: FoundFile = { ...kind, at, size: is.size, mtimeMillis: is.mtimeMillis, ends };
    const same = was.ends === null ? was.size === is.size : was.ends === ends;
    if (same) {
      await this.work.write((manager) => this.found.there(manager, was.assetId, volume.id, now));
      return;
    }
    if (was.elsewhere) {
      this.seen.set(was.assetId, `${is.size} ${is.mtimeMillis}`);
      const reason = 'was changed by another program; other drives hold it as it was.';
      await this.damaged(volume, was, { reason, as: 'changed' }, done);
      return;
    }
    const { facts } = await this.contents.facts(file, kind, head);
    await this.work.write(async (manager) => {
      await this.found.changed(manager, was.assetId, volume.id, now);
      // Of a frame of several files, the others tell the rest.
      const { width, height, orientation } = facts;
      if (isShot(kind) && width !== null)
        await this.found.setFacts(manager, was.frameId, { width, height, orientation });
      await this.tell(manager, was.frameId);
    });
  }

  private async damaged(
    volume: Volume,
    { assetId, frameId, at }: KnownInFolder,
    how: Pick<Found, 'reason' | 'as'>,
    done: Indexed,
  ): Promise<void> {
    done.damaged += 1;
    await this.work.write(async (manager) => {
      // Another folder, looked at in the same moment, may have found it under its new name.
      const [now]: { at: string }[] = await manager.query(
        `SELECT COALESCE(c.path, a."at") AS "at" FROM asset_at a
         LEFT JOIN copy c ON c."assetId" = a.id AND c."volumeId" = ? WHERE a.id = ?`,
        [volume.id, assetId],
      );
      if (now?.at !== at) return;
      const found = { found: null, ...how, at: this.clock.now() };
      await this.copyStore.damaged(manager, assetId, volume.id, found);
      await this.tell(manager, frameId);
    });
  }

  private async tell(manager: EntityManager, frameId: string): Promise<void> {
    const { shootId } = await manager.findOneByOrFail(Frame, { id: frameId });
    const revision = await this.shoots.touch(manager, shootId);
    this.happenings.after(manager, 'frames', { shootId, revision, ids: [frameId] });
  }

  private async fresh(
    where: Where,
    { known, groups, fresh }: Compared,
    most: number,
    done: Indexed,
  ): Promise<void> {
    const isFresh = new Set(fresh.map((file) => file.path));
    const frameOf = new Map(known.map((file) => [file.path, file.frameId]));
    const news: CardFrame[] = [];
    for (const group of groups) {
      const own = group.files.filter((file) => isFresh.has(file.path));
      if (own.length === 0) continue;
      const frameId = group.files.flatMap((file) => frameOf.get(file.path) ?? [])[0];
      if (frameId === undefined) news.push(group);
      else await this.join(where, frameId, own, done);
    }
    const some = news.slice(0, most);
    for (let from = 0; from < some.length; from += PART)
      await this.take(where, some.slice(from, from + PART), done);
  }

  /** Files beside a frame that is known: a JPEG that was exported beside its raw. */
  private async join(
    { volume, there }: Where,
    frameId: string,
    files: readonly CardFrameFile[],
    done: Indexed,
  ): Promise<void> {
    const place = await this.volumes.resolve(volume, there.path);
    for (const file of files) {
      const one = await this.read(place, there, file).catch(unreadable(done, file.path));
      if (!one) continue;
      await this.work.write(async (manager) => {
        await this.found.addFile(manager, volume.id, frameId, one);
        await this.tell(manager, frameId);
      });
    }
  }

  /** `place`: the folder on this machine, in which this name is a file's and no link. */
  private async read(place: string, there: TreeFolder, file: CardFrameFile): Promise<ReadFile> {
    const { path: name, size, mtimeMillis, role, format, raw } = file;
    const { ends, head } = await endsOf(this.disk, path.join(place, name), size);
    return { at: `${there.path}/${name}`, size, mtimeMillis, role, format, raw, ends, head };
  }

  /** Frames that were not known in this folder: new ones, or some that lay elsewhere. */
  private async take(where: Where, groups: readonly CardFrame[], done: Indexed): Promise<void> {
    const { adopted, volume, there, sidecars } = where;
    const { dayStartHour } = await this.settings.all();
    const place = await this.volumes.resolve(volume, there.path);
    const opened: { group: CardFrame; files: ReadFile[] }[] = [];
    await inLanes(groups, async (group) => {
      const files: ReadFile[] = [];
      for (const file of group.files) {
        const one = await this.read(place, there, file).catch(unreadable(done, file.path));
        if (one) files.push(one);
      }
      if (files.some(isShot)) opened.push({ group, files });
    });
    const shown = opened.map(({ files }) => pictureOf(files)!.ends);
    const alike = await this.store.alike(volume.id, shown);
    const forgotten = await this.strayed.alike(volume.id, shown);
    const read: ReadFrame[] = [];
    await inLanes(opened, async ({ group, files }) => {
      const { ends } = pictureOf(files)!;
      const likes = { known: alike.get(ends) ?? [], forgotten: forgotten.get(ends) ?? [] };
      if (await this.moving.follow(where, group, files, likes)) return;
      const main = pictureOf(group.files);
      const head = files.find(({ at }) => main && at === `${there.path}/${main.path}`)?.head ?? null;
      const { facts } = main
        ? await this.contents.facts(path.join(place, main.path), main, head)
        : { facts: factsFromTags({}) };
      const before = await this.beside.of(place, sidecars, group.base, group.files, { main, head });
      for (const { name, reason } of before.bad) done.problems.push(`${there.path}/${name}: ${reason}`);
      const written = localDay(group.files[0]!.mtimeMillis);
      const day = facts.capture ? shootDay(facts.capture, dayStartHour) : written;
      read.push({ group, files: files.map(({ head: _, ...file }) => file), facts, before, day });
    });
    const shoots = new Map<string, { its: ShootOfFolder; frames: ReadFrame[] }>();
    for (const frame of read) {
      const its = shootOfFolder(adopted.rule, below(adopted.path, there.path), frame.day);
      const shoot = shoots.get(its.key) ?? { its, frames: [] };
      shoot.frames.push(frame);
      shoots.set(its.key, shoot);
    }
    for (const { its, frames } of shoots.values()) await this.write(where, its, frames);
    done.added += read.length;
  }

  private async write(where: Where, its: ShootOfFolder, read: readonly ReadFrame[]): Promise<void> {
    const { adopted, volume, there, tell } = where;
    const settings = await this.settings.all();
    const home = homeOf(where, its, this.clock.now());
    const firstDay = read.map(({ day }) => day).sort()[0]!;
    const albums = await this.albums.of(read);
    await this.work.write(async (manager) => {
      const shoot = await this.store.shootFor(manager, adopted, its, { ...home, firstDay });
      const at = { shootId: shoot, folder: home.folder, place: there.path };
      const frames = read.map((one) =>
        adoptedFrame(one, { ...at, id: this.ids.newId(), name: one.group.base }, home.zoneMinutes, {
          settings,
          now: this.clock.now(),
        }),
      );
      this.albums.put(
        frames.map(({ frame }) => frame),
        read,
        albums,
      );
      await this.found.add(manager, volume.id, frames, tell);
      for (const { before } of read) {
        const place = (name: string) => `${there.path}/${name}`;
        if (before.sidecar) {
          const { name, text, foreign } = before.sidecar;
          await this.texts.noted(manager, volume.id, place(name), text, foreign.key);
        }
        for (const { name, text, model } of before.others)
          await this.texts.heard(manager, volume.id, place(name), text, model);
      }
      await this.store.extend(manager, shoot, [home.folder]);
      const revision = await this.shoots.touch(manager, shoot);
      await this.due.oweOfShoot(manager, 'shoot', shoot);
      const ids = frames.map(({ frame }) => frame.id);
      this.happenings.after(manager, 'frames', { shootId: shoot, revision, ids });
      this.happenings.after(manager, 'shoots', { shootId: shoot });
      if (albums.size > 0) this.happenings.after(manager, 'albums', {});
    });
  }
}

/** A few at once. */
async function inLanes<T>(list: readonly T[], work: (one: T) => Promise<void>): Promise<void> {
  const queue = list.values();
  const lane = async (): Promise<void> => {
    for (const one of queue) await work(one);
  };
  await Promise.all(Array.from({ length: IN_FLIGHT }, lane));
}

const unreadable =
  (done: Indexed, name: string) =>
  (error: unknown): null => {
    if (diskErrorCode(error) === null) throw error;
    done.problems.push(`${name} cannot be read (${(error as Error).message}).`);
    return null;
  };
