import path from 'node:path';
import { Injectable } from '@nestjs/common';
import {
  ArkivError,
  factsFromTags,
  folderChanges,
  groupCardFiles,
  isShot,
  joinedKeywords,
  keptTexts,
  kindOf,
  marksOf,
  pictureOf,
  shootDay,
  shootOfFolder,
  sidecarOf,
  textsOf,
  type CardFile,
  type CardFrame,
  type CardFrameFile,
  type FrameFacts,
  type ShootOfFolder,
} from '@arkiv/core';
import type { EntityManager } from 'typeorm';
import { UnitOfWork } from '../db/unitOfWork';
import { Disk, diskErrorCode } from '../disk/disk';
import { Happenings } from '../events/domainEvents';
import { DueTexts } from '../frames/dueTexts.service';
import { FoundFrames, type FoundFile, type FoundFrame } from '../frames/foundFrames';
import { Frame } from '../frames/frame.entity';
import { FrameStore } from '../frames/frameStore';
import { marksFrom, newFrame } from '../frames/newFrame';
import { OwnTextsService } from '../frames/ownTexts.service';
import { Contents } from '../metadata/contents.service';
import { labelFor } from '../settings/labelFor';
import { SettingsService, type StudioSettings } from '../settings/settings.service';
import { ShootsService } from '../shoots/shoots.service';
import { Clock } from '../system/clock';
import { Ids } from '../system/ids';
import { localDay } from '../system/localDay';
import type { Volume } from '../volumes/volume.entity';
import { VolumesService } from '../volumes/volumes.service';
import type { Adopted } from './adopted.entity';
import { AdoptedStore, type KnownInFolder } from './adoptedStore';
import type { TreeFolder } from './adoptedTree';
import { endsOf } from './ends';
import { SaidBeside, type SaidBefore } from './saidBeside.service';

/** Milliseconds for which a file must not have changed: programs write a large picture in parts, with pauses under a second. */
export const SETTLED = 2000;
/** Files read at once: a disk gains nothing from more. */
const IN_FLIGHT = 4;
/** Frames written in one transaction: some milliseconds of the writer. */
const PART = 50;

/** What became of a folder that was looked at. */
export interface Indexed {
  added: number;
  changed: number;
  moved: number;
  gone: number;
  /** shoots of frames that came */
  shoots: Set<string>;
  /** what could not be read, in words */
  problems: string[];
}

/** A file with its beginning. */
type ReadFile = FoundFile & { head: Buffer };

/** A frame that is new, with all that was read of it. */
interface ReadFrame {
  group: CardFrame;
  files: FoundFile[];
  facts: FrameFacts;
  before: SaidBefore;
  day: string;
}

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
    private readonly contents: Contents,
    private readonly found: FoundFrames,
    private readonly frames: FrameStore,
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
    const { changes } = await this.compare(volume, there);
    const { fresh, changed, gone } = changes;
    const writing = this.writing(there);
    const settled = (file: CardFile): boolean => !writing.has(baseName(file.path));
    return fresh.some(settled) || changed.some(({ is }) => settled(is)) || gone.some((file) => !file.damaged);
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
    const done: Indexed = {
      ...{ added: 0, changed: 0, moved: 0, gone: 0, shoots: new Set<string>(), problems: [] },
    };
    const { changes, present } = await this.compare(volume, there);
    const writing = this.writing(there);
    const settled = (file: CardFile): boolean => !writing.has(baseName(file.path));
    for (const { was, is } of changes.changed)
      if (settled(is)) await this.changed(volume, there, was, is, done);
    for (const file of changes.gone) if (!file.damaged) await this.gone(volume, file, done);
    await this.fresh(adopted, volume, there, present.filter(settled), changes.fresh.filter(settled), done, {
      most,
      tell,
    });
    return done;
  }

  /** Files of a folder that nobody has written since a while, and whether others are being written. */
  settled(there: TreeFolder): { settled: CardFile[]; isWriting: boolean } {
    const writing = this.writing(there);
    return {
      settled: there.files.filter((file) => !writing.has(baseName(file.path))),
      isWriting: writing.size > 0,
    };
  }

  /** Base names of frames of which a file has changed just now. */
  private writing({ files }: TreeFolder): Set<string> {
    const now = this.clock.now();
    return new Set(
      files
        .filter(({ mtimeMillis }) => Math.abs(now - mtimeMillis) < this.settles)
        .map((file) => baseName(file.path)),
    );
  }

  private async compare(volume: Volume, there: TreeFolder) {
    const inside = `${there.path}/`;
    const known = (await this.store.known(volume.id, there.path))
      .filter(({ at }) => path.posix.dirname(at) === there.path)
      .map((file) => ({ ...file, path: file.at.slice(inside.length), mtimeMillis: file.mtime }));
    const away = await this.store.putAway(volume.id, there.path);
    const present = there.files.filter((file) => !/\.xmp$/i.test(file.path) && !away.has(inside + file.path));
    const changes = folderChanges(known, present);
    // What is damaged and still as it was found is nothing new.
    const changed = changes.changed.filter(({ was, is }) => !was.damaged || !this.isSeen(was, is));
    return { changes: { ...changes, changed }, present };
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
    done.changed += 1;
    if (was.elsewhere) {
      this.seen.set(was.assetId, `${is.size} ${is.mtimeMillis}`);
      const reason = 'was changed by another program; other drives hold it as it was.';
      await this.damaged(volume, was, reason);
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

  private async gone(volume: Volume, file: KnownInFolder, done: Indexed): Promise<void> {
    done.gone += 1;
    await this.damaged(volume, file, 'is not there any more.');
  }

  private async damaged(
    volume: Volume,
    { assetId, frameId, at }: KnownInFolder,
    reason: string,
  ): Promise<void> {
    await this.work.write(async (manager) => {
      // Another folder, looked at in the same moment, may have found it under its new name.
      const [now]: { at: string }[] = await manager.query(
        `SELECT COALESCE(c.path, a."at") AS "at" FROM asset_at a
         LEFT JOIN copy c ON c."assetId" = a.id AND c."volumeId" = ? WHERE a.id = ?`,
        [volume.id, assetId],
      );
      if (now?.at !== at) return;
      await this.frames.damaged(manager, assetId, volume.id, { found: null, reason, at: this.clock.now() });
      await this.tell(manager, frameId);
    });
    this.happenings.tell('volumes', {});
  }

  private async tell(manager: EntityManager, frameId: string): Promise<void> {
    const { shootId } = await manager.findOneByOrFail(Frame, { id: frameId });
    const revision = await this.shoots.touch(manager, shootId);
    this.happenings.after(manager, 'frames', { shootId, revision, ids: [frameId] });
  }

  private async fresh(
    adopted: Adopted,
    volume: Volume,
    there: TreeFolder,
    present: readonly CardFile[],
    fresh: readonly CardFile[],
    done: Indexed,
    { most, tell }: { most: number; tell: boolean },
  ): Promise<void> {
    if (fresh.length === 0) return;
    const isFresh = new Set(fresh.map((file) => file.path));
    const known = new Map(
      (await this.store.known(volume.id, there.path)).map((file) => [file.at, file.frameId]),
    );
    const news: CardFrame[] = [];
    for (const group of groupCardFiles(present).frames) {
      const own = group.files.filter(({ role }) => role !== 'sidecar');
      if (!own.some((file) => isFresh.has(file.path))) continue;
      const frameId = own
        .map((file) => known.get(`${there.path}/${file.path}`))
        .find((id) => id !== undefined);
      if (frameId === undefined) news.push({ ...group, files: own });
      else
        await this.join(
          volume,
          there,
          frameId,
          own.filter((file) => isFresh.has(file.path)),
          done,
        );
    }
    const some = news.slice(0, most);
    for (let from = 0; from < some.length; from += PART)
      await this.take(adopted, volume, there, some.slice(from, from + PART), done, tell);
  }

  /** Files beside a frame that is known: a JPEG that was exported beside its raw. */
  private async join(
    volume: Volume,
    there: TreeFolder,
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
      done.changed += 1;
    }
  }

  /** `place`: the folder on this machine, in which this name is a file's and no link. */
  private async read(place: string, there: TreeFolder, file: CardFrameFile): Promise<ReadFile> {
    const { path: name, size, mtimeMillis, role, format, raw } = file;
    const { ends, head } = await endsOf(this.disk, path.join(place, name), size);
    return { at: `${there.path}/${name}`, size, mtimeMillis, role, format, raw, ends, head };
  }

  /** Frames that were not known in this folder: new ones, or some that lay elsewhere. */
  private async take(
    adopted: Adopted,
    volume: Volume,
    there: TreeFolder,
    groups: readonly CardFrame[],
    done: Indexed,
    tell: boolean,
  ): Promise<void> {
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
    const alike = await this.store.alike(
      volume.id,
      opened.map(({ files }) => pictureOf(files)!.ends),
    );
    const read: ReadFrame[] = [];
    await inLanes(opened, async ({ group, files }) => {
      const likes = alike.get(pictureOf(files)!.ends) ?? [];
      if (await this.moved(adopted, volume, there, group, files, likes, done)) return;
      const main = pictureOf(group.files);
      const head = files.find(({ at }) => main && at === `${there.path}/${main.path}`)?.head ?? null;
      const { facts } = main
        ? await this.contents.facts(path.join(place, main.path), main, head)
        : { facts: factsFromTags({}) };
      const before = await this.beside.of(place, there.names, group.base, group.files, { main, head });
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
    for (const { its, frames } of shoots.values())
      await this.write(adopted, volume, there, its, frames, tell, done);
  }

  private async write(
    adopted: Adopted,
    volume: Volume,
    there: TreeFolder,
    its: ShootOfFolder,
    read: readonly ReadFrame[],
    tell: boolean,
    done: Indexed,
  ): Promise<void> {
    const settings = await this.settings.all();
    const zoneMinutes = -new Date(this.clock.now()).getTimezoneOffset();
    const folder = its.folder === '' ? adopted.path : joined(adopted.path, its.folder);
    const firstDay = read.map(({ day }) => day).sort()[0]!;
    const root = path.posix.basename(adopted.path) || volume.name;
    const shootId = await this.work.write(async (manager) => {
      const shoot = await this.store.shootFor(manager, adopted, its, { root, firstDay, zoneMinutes });
      const frames = read.map((one) => this.frameOf(one, shoot, folder, there.path, zoneMinutes, settings));
      await this.found.add(manager, volume.id, frames, tell);
      for (const { before } of read)
        if (before.sidecar)
          await this.texts.noted(
            manager,
            volume.id,
            `${there.path}/${before.sidecar.name}`,
            before.sidecar.text,
            before.sidecar.foreign.key,
          );
      await this.store.extend(manager, shoot, [folder]);
      const revision = await this.shoots.touch(manager, shoot);
      await this.due.oweOfShoot(manager, 'shoot', shoot);
      const ids = frames.map(({ frame }) => frame.id);
      this.happenings.after(manager, 'frames', { shootId: shoot, revision, ids });
      this.happenings.after(manager, 'shoots', { shootId: shoot });
      return shoot;
    });
    done.added += read.length;
    done.shoots.add(shootId);
  }

  private frameOf(
    { group, files, facts, before }: ReadFrame,
    shootId: string,
    folder: string,
    place: string,
    zoneMinutes: number,
    settings: StudioSettings,
  ): FoundFrame {
    const { said, sidecar } = before;
    const id = this.ids.newId();
    const { capture } = facts;
    const corrected =
      capture && said.clockCorrection ? { ...capture, correctionMillis: said.clockCorrection } : capture;
    const at = { id, shootId, name: group.base, folder, place };
    const begins = newFrame(
      at,
      { base: group.base, files: group.files, facts: { ...facts, capture: corrected } },
      zoneMinutes,
    );
    const camera = marksFrom(facts, null, settings);
    const marks = marksOf(said, (text) => labelFor(text, settings));
    // What a camera wrote into the picture counts where nothing beside it says otherwise.
    const chosen = before.beside ? marks : { ...marks, ...firstMarks(marks, camera) };
    const isMarked =
      before.beside || chosen.verdict !== 'undecided' || chosen.stars > 0 || chosen.label !== null;
    const dated = said.metadataDate === null ? NaN : Date.parse(said.metadataDate);
    const { aperture, exposure } = facts;
    const frame = Object.assign(begins, chosen, {
      original: said.preservedFileName?.replace(/\.[^.]*$/, '') ?? group.base,
      keywords: joinedKeywords(said.keywords),
      persons: joinedKeywords(said.persons),
      texts: keptTexts(textsOf(said)),
      finish: said.finish ?? '',
      markedAt: isMarked ? (Number.isNaN(dated) ? this.clock.now() : dated) : 0,
    });
    return {
      frame,
      text: {
        frameId: id,
        ...{ apertureText: aperture?.text ?? null, exposureText: exposure?.text ?? null },
        sidecarBase: sidecar?.model ?? null,
        foreign: sidecar && sidecar.foreign.key !== '' ? sidecar.foreign : null,
      },
      files,
    };
  }

  /** Whether these files are a frame's that is known and lies there no more: it was given another name or folder. */
  private async moved(
    adopted: Adopted,
    volume: Volume,
    there: TreeFolder,
    group: CardFrame,
    files: readonly FoundFile[],
    likes: readonly KnownInFolder[],
    done: Indexed,
  ): Promise<boolean> {
    for (const like of likes) {
      if (await this.isThere(volume, like.at)) continue;
      const own = await this.store.filesOf(volume.id, like.frameId);
      const pairs = own.map((was) => ({
        was,
        is: files.find(({ size, ends }) => size === was.size && ends === was.ends) ?? null,
      }));
      // A frame of which something stayed behind did not move: what came is a copy of a part of it.
      const stayed = await Promise.all(
        pairs.map(({ was, is }) => is === null && this.isThere(volume, was.at)),
      );
      if (stayed.some(Boolean)) continue;
      await this.settle(
        adopted,
        volume,
        there,
        group,
        like,
        pairs.flatMap(({ was, is }) => (is ? [{ was, is }] : [])),
      );
      done.moved += 1;
      return true;
    }
    return false;
  }

  private async settle(
    adopted: Adopted,
    volume: Volume,
    there: TreeFolder,
    group: CardFrame,
    { frameId }: KnownInFolder,
    pairs: readonly { was: KnownInFolder; is: FoundFile }[],
  ): Promise<void> {
    await this.work.write(async (manager) => {
      const frame = await manager.findOneByOrFail(Frame, { id: frameId });
      const its = shootOfFolder(adopted.rule, below(adopted.path, there.path), dayOf(frame.local) ?? '');
      // By days a frame stays in its day's shoot wherever it lies.
      const zoneMinutes = -new Date(this.clock.now()).getTimezoneOffset();
      const root = path.posix.basename(adopted.path) || volume.name;
      const firstDay = dayOf(frame.local) ?? localDay(pairs[0]!.is.mtimeMillis);
      const shootId =
        adopted.rule === 'day'
          ? frame.shootId
          : await this.store.shootFor(manager, adopted, its, { root, firstDay, zoneMinutes });
      const folder = its.folder === '' ? adopted.path : joined(adopted.path, its.folder);
      await this.found.moved(
        manager,
        frameId,
        volume.id,
        { shootId, folder, place: there.path, name: group.base },
        pairs.map(({ was, is }) => ({
          ...{ assetId: was.assetId, from: was.at, at: is.at, size: is.size, mtimeMillis: is.mtimeMillis },
        })),
      );
      await this.texts.renamed(
        manager,
        sidecarOf(frame.place, frame.name),
        sidecarOf(there.path, group.base),
        volume.id,
      );
      await this.store.extend(manager, shootId, [folder]);
      for (const id of new Set([frame.shootId, shootId])) {
        const revision = await this.shoots.touch(manager, id);
        await this.due.oweOfShoot(manager, 'shoot', id);
        this.happenings.after(manager, 'frames', { shootId: id, revision, ids: [frameId] });
        this.happenings.after(manager, 'shoots', { shootId: id });
      }
    });
  }

  private async isThere(volume: Volume, at: string): Promise<boolean> {
    try {
      return (await this.disk.facts(await this.volumes.resolve(volume, at))) !== null;
    } catch (error) {
      if (error instanceof ArkivError) return false;
      if (diskErrorCode(error) === null) throw error;
      // What cannot be looked at is not known to be gone.
      return true;
    }
  }
}

function firstMarks<M extends { verdict: string; stars: number; label: unknown }>(
  a: M,
  b: Partial<M>,
): Partial<M> {
  return {
    ...(a.verdict === 'undecided' ? { verdict: b.verdict } : {}),
    ...(a.stars === 0 ? { stars: b.stars } : {}),
    ...(a.label === null ? { label: b.label } : {}),
  } as Partial<M>;
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

const baseName = (name: string): string => name.replace(/\.[^.]*$/, '').toLowerCase();
export const below = (root: string, folder: string): string =>
  root === '' ? folder : folder === root ? '' : folder.slice(root.length + 1);
export const joined = (root: string, folder: string): string => (root === '' ? folder : `${root}/${folder}`);
const dayOf = (local: string | null): string | null => local?.slice(0, 10) ?? null;
