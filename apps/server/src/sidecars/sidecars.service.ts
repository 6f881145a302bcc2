import { posix } from 'node:path';
import {
  Injectable,
  Logger,
  type BeforeApplicationShutdown,
  type OnApplicationBootstrap,
} from '@nestjs/common';
import { ArkivError, sidecarOf, type SidecarModel } from '@arkiv/core';
import { MoreThan } from 'typeorm';
import { Reading, UnitOfWork } from '../db/unitOfWork';
import { diskErrorCode } from '../disk/disk';
import { Happenings } from '../events/domainEvents';
import { Frame } from '../frames/frame.entity';
import { DueTexts } from '../frames/dueTexts.service';
import { FrameStore } from '../frames/frameStore';
import { FrameText } from '../frames/frameText.entity';
import { FramesService } from '../frames/frames.service';
import { OwnTextsService } from '../frames/ownTexts.service';
import { SettingsService, type StudioSettings } from '../settings/settings.service';
import { Shoot } from '../shoots/shoot.entity';
import { Clock } from '../system/clock';
import type { Volume } from '../volumes/volume.entity';
import { volumeError, VolumesService } from '../volumes/volumes.service';
import { SidecarWords, type Holding } from './sidecarWords.service';

/** Milliseconds of quiet before sidecars are written: several keys on one frame become one writing. */
const QUIET = 400;
/** Longest wait for quiet: while frames arrive several a second there is none. */
const MOST_WAIT = 2000;
/**
 * Milliseconds after a mark in which no further sidecar is begun, and how long one round waits so in all: a selection of thousands that
 * is described comes in as many parts as it has, and each of these would wait for sidecars of the one before. Such parts follow each
 * other in under 100 ms, and 5,000 frames with twenty keywords each took 13 s.
 */
const [BREATH, MOST_BREATH] = [150, 15_000];
/** What a sidecar needs on a drive: one block of most file systems. */
const SIDECAR_BYTES = 4096;
/** Frames whose sidecars are written at once: while one is flushed, others are read and parsed. Two wrote 54 a second, four 69, eight 72. */
const IN_FLIGHT = 4;
/** Frames written in one go, so that marks and shutdown get their turn. */
const BATCH = 100;

/** Sidecars that a drive has not got yet, and why. */
export interface WaitingSidecars {
  volumeId: string;
  volume: string;
  frames: number;
  reason: string;
}

/** Keeps each frame's sidecar, on every volume that holds the frame, in step with its marks. */
@Injectable()
export class SidecarsService implements OnApplicationBootstrap, BeforeApplicationShutdown {
  private readonly log = new Logger('sidecars');
  private timer: NodeJS.Timeout | null = null;
  /** since when something waits for quiet; null: nothing does */
  private waitsSince: number | null = null;
  private writing: Promise<void> = Promise.resolve();
  private stopping = false;
  /** when somebody marked last, by a clock that nobody sets */
  private markedAt = -Infinity;
  /** who waits for what is due to be written */
  private waiters = 0;
  /** by drive: the frames whose sidecar was refused there, and what was said last; what is due after a start is tried then */
  private readonly refused = new Map<string, { frames: Set<string>; reason: string }>();

  /** what keepers say to other programs, as it was when their sidecars were due for it last */
  private said: string | null = null;
  private saying: Promise<void> = Promise.resolve();

  /** what waits has changed in this round */
  private toTell = false;

  constructor(
    private readonly reading: Reading,
    private readonly work: UnitOfWork,
    private readonly frames: FramesService,
    private readonly store: FrameStore,
    private readonly due: DueTexts,
    private readonly texts: OwnTextsService,
    private readonly volumes: VolumesService,
    private readonly settings: SettingsService,
    private readonly happenings: Happenings,
    private readonly clock: Clock,
    private readonly words: SidecarWords,
  ) {
    due.register('sidecar', (volume, frameId) => this.catchUp(volume, frameId));
    happenings.on('volumes', () => this.soon());
    happenings.on('frames', () => this.soon());
    happenings.on('due', () => this.soon());
    happenings.on('settings', () => void this.sayAnew());
    happenings.on('marks', () => (this.markedAt = performance.now()));
  }

  async onApplicationBootstrap(): Promise<void> {
    this.said = saidBy(await this.settings.all());
    this.soon();
  }

  /** What keepers say to other programs is another by now: their sidecars are due, a part at a time. */
  private sayAnew(): Promise<void> {
    this.saying = this.saying
      .then(async () => {
        const now = saidBy(await this.settings.all());
        if (this.said === now) return;
        for (let after = ''; !this.stopping;) {
          const keepers = await this.reading.manager.find(Frame, {
            where: { verdict: 'keep', state: 'here', id: MoreThan(after) },
            select: { id: true },
            order: { id: 'ASC' },
            take: BATCH,
          });
          if (keepers.length === 0) break;
          const ids = keepers.map(({ id }) => id);
          await this.work.write((manager) => this.store.due(manager, ids));
          after = ids.at(-1)!;
        }
        this.said = now;
      })
      .catch((error: unknown) => this.log.error((error as Error).stack));
    return this.saying;
  }

  async beforeApplicationShutdown(): Promise<void> {
    this.stopping = true;
    if (this.timer) clearTimeout(this.timer);
    await this.saying;
    await this.flush();
  }

  soon(): void {
    if (this.stopping) return;
    const now = this.clock.now();
    this.waitsSince ??= now;
    if (this.timer) clearTimeout(this.timer);
    const wait = Math.max(0, Math.min(QUIET, this.waitsSince + MOST_WAIT - now));
    this.timer = setTimeout(() => void this.write(), wait);
  }

  /** Writes everything that is due now, and what drives that were away owe. What cannot be written stays due. */
  async flush(): Promise<void> {
    this.waiters += 1;
    try {
      await this.write();
    } finally {
      this.waiters -= 1;
    }
  }

  private async write(): Promise<void> {
    await this.saying;
    this.waitsSince = null;
    this.writing = this.writing
      .then(() => this.writeDue())
      .then(() => this.tell())
      .catch((error: unknown) => this.log.error((error as Error).stack));
    await this.writing;
    await this.due.flush('sidecar');
  }

  /** Runs `work` while no sidecar is being written; those that are due wait until it is done. */
  without<T>(work: () => Promise<T>): Promise<T> {
    this.waiters += 1;
    const run = this.writing
      .finally(() => {
        this.waiters -= 1;
      })
      .then(work);
    this.writing = run.then(
      () => undefined,
      () => undefined,
    );
    return run;
  }

  /** What waits for each drive: refused by one that is here, or owed to one that is away. */
  async waiting(): Promise<WaitingSidecars[]> {
    const owed = await this.due.counts('sidecar');
    const waiting: WaitingSidecars[] = [];
    for (const { id: volumeId, name: volume, heldBy } of await this.volumes.all()) {
      const refused = this.refused.get(volumeId);
      const away = owed.get(volumeId) ?? 0;
      if (refused && refused.frames.size > 0)
        waiting.push({ volumeId, volume, frames: refused.frames.size, reason: refused.reason });
      else if (away > 0)
        waiting.push({
          ...{ volumeId, volume, frames: away },
          reason:
            heldBy === null
              ? 'They are written when it is connected.'
              : `They are written once it is said what becomes of what “${heldBy.name}” left there.`,
        });
    }
    return waiting;
  }

  private note(volume: Volume, frameId: string, reason: string | null): void {
    const refused = this.refused.get(volume.id) ?? { frames: new Set<string>(), reason: '' };
    if (reason === null) {
      if (refused.frames.delete(frameId)) this.toTell = true;
      return;
    }
    refused.frames.add(frameId);
    refused.reason = reason;
    this.refused.set(volume.id, refused);
    this.toTell = true;
  }

  /** Once a round: what waits has changed. */
  private tell(): void {
    if (!this.toTell) return;
    this.toTell = false;
    this.happenings.tell('sidecars', {});
  }

  /** Lets marks that come one after the other go first, until `last`; not where somebody waits for the sidecars. */
  private async letMarksGoFirst(last: number): Promise<void> {
    for (;;) {
      const now = performance.now();
      if (this.waiters > 0 || this.stopping || now >= last || now - this.markedAt >= BREATH) return;
      await new Promise((resolve) => setTimeout(resolve, BREATH / 5));
    }
  }

  private async writeDue(): Promise<void> {
    const last = performance.now() + MOST_BREATH;
    let after = '';
    for (;;) {
      await this.letMarksGoFirst(last);
      const due = await this.reading.manager.find(Frame, {
        where: { sidecarDue: MoreThan(0), state: 'here', id: MoreThan(after) },
        order: { id: 'ASC' },
        take: BATCH,
      });
      if (due.length === 0) return;
      // Asked for after how often they are due: what the studio decides meanwhile makes them due once more.
      const settings = await this.settings.all();
      const frames = due.values();
      const lane = async (): Promise<void> => {
        for (const frame of frames) {
          await this.letMarksGoFirst(last);
          await this.tryFrame(frame, () => this.writeFrame(frame, settings));
        }
      };
      await Promise.all(Array.from({ length: IN_FLIGHT }, lane));
      after = due.at(-1)!.id;
    }
  }

  /** One frame's failure is its own: the others are written all the same. */
  private async tryFrame(frame: Frame, write: () => Promise<void>): Promise<void> {
    try {
      await write();
    } catch (error) {
      this.log.error(`the sidecar of ${frame.id}: ${(error as Error).stack}`);
      const message = `Its sidecar could not be written: ${(error as Error).message}`;
      this.happenings.tell('sidecar', { frameId: frame.id, name: frame.name, message });
    }
  }

  /** Brings one drive's sidecar of a frame up to date, in turn with the others. */
  private catchUp(volume: Volume, frameId: string): Promise<void> {
    return this.without(async () => {
      const frame = await this.reading.manager.findOneBy(Frame, { id: frameId });
      // What is due anyway is written on all drives in the round that follows.
      // A failure is the caller's: what it was to bring up to date stays due then.
      if (frame && frame.sidecarDue === 0) await this.writeFrame(frame, await this.settings.all(), volume.id);
      this.tell();
    });
  }

  /** Writes a frame's sidecar on every drive that is here, or on one alone; drives that are away owe it from then on. */
  private async writeFrame(frame: Frame, settings: StudioSettings, only?: string): Promise<void> {
    if (!(await this.writesBeside(frame))) return this.takeIn(frame, settings);
    const places = (await this.places(frame)).filter(
      ({ volume }) => only === undefined || volume.id === only,
    );
    const away: string[] = [];
    const written: string[] = [];
    const text = await this.reading.manager.findOneBy(FrameText, { frameId: frame.id });
    let { model, foreign } = await this.words.holding(frame, text, settings);
    let complete = places.length > 0;
    for (const { volume, path } of places) {
      // What another archive left on it is taken in first.
      if (volume.heldBy !== null || !(await this.volumes.isOnline(volume))) {
        away.push(volume.id);
        // It refuses nothing any more: it owes.
        this.note(volume, frame.id, null);
        this.toTell = true;
        continue;
      }
      try {
        ({ model, foreign } = await this.writeOne(frame, text, volume, path, { model, foreign }));
        written.push(volume.id);
        this.note(volume, frame.id, null);
      } catch (error) {
        complete = false;
        const free = (await this.volumes.status(volume)).space?.free ?? 0;
        const shown =
          diskErrorCode(error) === null ? error : volumeError(error, volume, path, SIDECAR_BYTES, free);
        const message =
          shown instanceof ArkivError ? `${shown.message} ${shown.body().next}` : (shown as Error).message;
        this.note(volume, frame.id, message);
        this.happenings.tell('sidecar', {
          frameId: frame.id,
          name: frame.name,
          volume: volume.name,
          message,
        });
        this.log.warn(
          `a sidecar on “${volume.name}” could not be written: ${error instanceof ArkivError ? error.code : (error as Error).message}`,
        );
      }
    }
    await this.work.write(async (manager) => {
      // A mark made meanwhile has counted up: then the frame stays due.
      const now = await manager.findOneBy(Frame, { id: frame.id });
      if (!now) return;
      for (const volumeId of written) await this.due.settle(manager, volumeId, 'sidecar', frame.id);
      await this.due.owe(manager, away, 'sidecar', frame.id);
      const rest = complete && now.sidecarDue === frame.sidecarDue ? 0 : Math.max(1, now.sidecarDue);
      const said = complete ? { sidecarBase: model } : null;
      await this.store.sidecarsWritten(manager, frame.id, rest, said);
      // Drives that came before the one on which it was found are written once more.
      if (foreign !== null && foreign.key !== text?.foreign?.key)
        await this.store.foreignFound(manager, frame.id, foreign);
    });
  }

  private async writesBeside({ shootId }: Frame): Promise<boolean> {
    return (await this.reading.manager.findOneByOrFail(Shoot, { id: shootId })).sidecars;
  }

  /** Takes in what others wrote into a frame's sidecars, which are not ours to write: what lies there is what both knew last. */
  private async takeIn(frame: Frame, settings: StudioSettings): Promise<void> {
    let said: SidecarModel | null = null;
    for (const { volume, path } of await this.places(frame)) {
      if (volume.heldBy !== null || !(await this.volumes.isOnline(volume))) continue;
      const text = await this.reading.manager.findOneBy(FrameText, { frameId: frame.id });
      const found = await this.texts.read(volume, path);
      if (found.text === null || !found.changedOutside) continue;
      const holding = await this.words.holding(frame, text, settings);
      await this.words.written(frame, text, holding, found, path);
      said = await this.words.saidIn(found.text);
      const key = await this.words.foreignIn(found.text);
      await this.work.write(async (manager) => {
        await this.texts.noted(manager, volume.id, path, found.text!, key);
        if (said) await this.store.sidecarRead(manager, frame.id, said);
      });
    }
    await this.work.write(async (manager) => {
      const now = await manager.findOneBy(Frame, { id: frame.id });
      // What was decided or seen to have changed meanwhile is looked at once more.
      if (now?.sidecarDue === frame.sidecarDue) await this.store.sidecarsWritten(manager, frame.id, 0, null);
    });
  }

  /** Writes one sidecar; where another program changed it since, merges first. Returns what now holds. */
  private async writeOne(
    frame: Frame,
    text: FrameText | null,
    volume: Volume,
    path: string,
    holding: Holding,
  ): Promise<Holding> {
    // Twice: the file may change between looking and writing; a third change in a second is somebody's fight.
    for (let attempt = 0; attempt < 3; attempt++) {
      const found = await this.texts.read(volume, path);
      const written = await this.words.written(frame, text, holding, found, path);
      const key = written.foreign?.key ?? null;
      if (await this.texts.replace(volume, path, written.text, found.text, 'sidecar', key)) return written;
    }
    throw new ArkivError('file.exists', { file: path });
  }

  /** Where the frame's sidecar belongs: beside its originals, on each volume that holds one of them. */
  private async places(frame: Frame): Promise<{ volume: Volume; path: string }[]> {
    const usual = sidecarOf(frame.place, frame.name);
    const places = new Map<string, { volume: Volume; path: string }>();
    for (const asset of await this.frames.originals([frame.id])) {
      for (const { volume, copy } of await this.frames.copiesOf(asset.id))
        if (!places.has(volume.id))
          places.set(volume.id, { volume, path: copy.own ? besideCopy(copy.at) : usual });
    }
    return [...places.values()];
  }
}

/** The sidecar of a copy that lies in a place of its own on its drive. */
const besideCopy = (at: string): string => sidecarOf(posix.dirname(at), posix.parse(at).name);

/** What decides what is said of keepers to other programs, to tell whether it has changed. */
const saidBy = ({ keeperStars, keeperLabel, labels }: StudioSettings): string =>
  `${keeperStars} ${keeperLabel === null ? '' : labels[keeperLabel]}`;
