import path from 'node:path';
import {
  Injectable,
  Logger,
  type BeforeApplicationShutdown,
  type OnApplicationBootstrap,
  type OnModuleInit,
} from '@nestjs/common';
import {
  ArkivError,
  baseOf,
  kindOf,
  seemsWhole,
  settledFiles,
  SHOOT_FOLDER,
  stampOf,
  TAIL_BYTES,
  type CardFile,
  type Unchanged,
} from '@arkiv/core';
import { AlbumsService } from '../albums/albums.service';
import { Disk, diskErrorCode } from '../disk/disk';
import { Happenings } from '../events/domainEvents';
import { IntakeService } from '../intake/intake.service';
import { JobsService } from '../jobs/jobs.service';
import { CHOSEN_ID, ReadersService } from '../readers/readers.service';
import { WatchedFolders } from '../disk/watchedFolders';
import { isWithin } from '../disk/volumePath';
import { Clock } from '../system/clock';
import { Ids } from '../system/ids';
import { Turns } from '../system/turns';
import { VolumesService } from '../volumes/volumes.service';
import { Cleaning } from './cleaning.service';
import {
  BATCH,
  isDone,
  readerOf,
  ruleOf,
  wholeFrames,
  WatchPlans,
  type WatchExample,
} from './watchPlans.service';
import type { LeftFile, WatchRule } from './watchRule.entity';
import { WatchStore } from './watchStore';

/** Milliseconds in which what happens in a folder is gathered. */
const QUIET = 150;
/** Milliseconds: where nothing can be watched (a share), what came is seen by the next look. */
const ROUND = 60_000;
/** Files that stay and are named: more than anybody reads. */
const MOST_LEFT = 200;

/** What somebody says of a folder that is to be watched. */
export type WatchWish = Omit<
  WatchRule,
  'id' | 'batch' | 'left' | 'trouble' | 'taken' | 'takenAt' | 'createdAt'
>;

/** Takes in by itself what comes into folders, by rules, and never asks. */
@Injectable()
export class WatchService implements OnModuleInit, OnApplicationBootstrap, BeforeApplicationShutdown {
  private readonly log = new Logger('watch');
  private readonly turns = new Turns((error) => this.log.error((error as Error).stack));
  /** by rule, files that are not taken in yet, and since when they are as they are */
  private readonly seen = new Map<string, Unchanged>();
  private readonly watched: WatchedFolders;
  private round: NodeJS.Timeout | null = null;

  constructor(
    private readonly disk: Disk,
    private readonly store: WatchStore,
    private readonly plans: WatchPlans,
    private readonly cleaning: Cleaning,
    private readonly readers: ReadersService,
    private readonly intakes: IntakeService,
    private readonly jobs: JobsService,
    private readonly albums: AlbumsService,
    private readonly volumes: VolumesService,
    private readonly clock: Clock,
    private readonly ids: Ids,
    private readonly happenings: Happenings,
  ) {
    this.watched = new WatchedFolders(disk);
  }

  onModuleInit(): void {
    this.readers.chosen = async (id) => {
      const rule = id.startsWith(CHOSEN_ID) ? await this.store.find(ruleOf(id)) : null;
      return rule && { name: rule.name, root: rule.root, paths: rule.batch ?? [] };
    };
    this.happenings.on('job', ({ kind, state }) => {
      if (kind === 'intake' && state !== 'running' && state !== 'queued') this.allSoon();
    });
    // Drives and folders that come back.
    this.happenings.on('volumes', () => {
      this.watched.clear();
      this.allSoon();
    });
  }

  onApplicationBootstrap(): void {
    this.allSoon();
    this.round = setInterval(() => this.allSoon(), ROUND);
    this.round.unref();
  }

  async beforeApplicationShutdown(): Promise<void> {
    if (this.round) clearInterval(this.round);
    this.watched.end();
    await this.turns.stop();
  }

  rules(): Promise<WatchRule[]> {
    return this.store.all();
  }

  async save(id: string | null, wish: WatchWish): Promise<WatchRule> {
    if (id !== null) await this.store.get(id);
    const root = await this.placeOf(wish.root, id);
    const fresh = { ...NOTHING_YET, createdAt: this.clock.now() };
    let rule: WatchRule = { ...fresh, ...wish, root, id: id ?? this.ids.newId() };
    // What is looked at now is looked at by the rule as it was, and what it begins is kept with the new one.
    await this.turns.take(rule.id, async () => {
      rule = { ...rule, ...(id === null ? null : await this.store.find(id)), ...wish, root };
      await this.store.save(rule);
    });
    this.seen.delete(rule.id);
    this.soon(rule.id);
    return rule;
  }

  /** What lies in the folder stays; what is being taken in goes on. */
  async remove(id: string): Promise<void> {
    const { root } = await this.store.get(id);
    await this.turns.take(id, async () => {
      this.unwatch(root);
      await this.store.remove(id);
    });
  }

  /** Files that could not be taken in are tried once more. */
  async again(id: string): Promise<void> {
    await this.store.get(id);
    await this.turns.take(id, () => this.store.change(id, { left: [] }));
    this.soon(id);
  }

  /** What a rule would do now; `id`: the one that is changed by it. */
  async example(id: string | null, wish: WatchWish): Promise<WatchExample> {
    const before = id === null ? null : await this.store.get(id);
    const root = await this.placeOf(wish.root, id);
    return this.plans.example({ ...NOTHING_YET, createdAt: 0, ...before, ...wish, root, id: id ?? '' });
  }

  /** The folder's real place. Throws `watch.folder` for one that is none, is watched already, or is the archive's own. */
  private async placeOf(given: string, id: string | null): Promise<string> {
    const refuse = (reason: string): never => {
      throw new ArkivError('watch.folder', { path: given, reason });
    };
    if (!path.isAbsolute(given)) refuse('it is not a full path');
    if ((await this.disk.facts(given))?.kind !== 'folder') refuse('there is no such folder');
    const root = await this.disk.realPath(given);
    for (const rule of await this.store.all())
      if (rule.id !== id && (isWithin(root, rule.root) || isWithin(rule.root, root)))
        refuse(`“${rule.name}” watches it, or one within it, already`);
    for (const volume of await this.volumes.all()) {
      if (!(await this.volumes.isOnline(volume))) continue;
      const drive = await this.disk.realPath(volume.root);
      // What lies there would be taken for new pictures, and the archive's own copies would be moved away.
      if (isWithin(drive, root)) refuse(`the drive “${volume.name}” lies in it`);
      if (isWithin(root, drive) && (await this.isArchive(root, drive)))
        refuse(`it is a folder of the archive on “${volume.name}”`);
    }
    return root;
  }

  /** Whether a folder on a drive belongs to a shoot, or holds one. */
  private async isArchive(folder: string, drive: string): Promise<boolean> {
    for (let at = folder; isWithin(at, drive) && at !== drive; at = path.dirname(at))
      if ((await this.disk.facts(path.join(at, SHOOT_FOLDER)))?.kind === 'folder') return true;
    return this.holdsShoot(folder, PLAN_DEPTH);
  }

  private async holdsShoot(folder: string, deep: number): Promise<boolean> {
    if ((await this.disk.facts(folder))?.kind !== 'folder') return false;
    const names = (await this.disk.names(folder)).map(String);
    if (names.includes(SHOOT_FOLDER)) return true;
    if (deep === 0) return false;
    for (const name of names) if (await this.holdsShoot(path.join(folder, name), deep - 1)) return true;
    return false;
  }

  private allSoon(): void {
    if (this.turns.isStopped) return;
    void this.store.all().then(
      (rules) => rules.forEach(({ id }) => this.soon(id)),
      (error: unknown) => this.log.error((error as Error).stack),
    );
  }

  private soon(id: string, wait = QUIET): void {
    this.turns.soon(id, wait, () => this.lookAt(id));
  }

  /** Looks into a folder, after whatever is done for it now. */
  look(id: string): Promise<void> {
    return this.turns.take(id, () => this.lookAt(id));
  }

  private async lookAt(id: string): Promise<void> {
    let rule = await this.store.find(id);
    if (!rule) return;
    if (rule.batch !== null) {
      if (!(await this.endBatch(rule))) return;
      rule = await this.store.get(id);
    }
    if (!rule.on) return;
    await this.watched.watchFor(rule.root, () => this.soon(id));
    if ((await this.disk.facts(rule.root).catch(() => null))?.kind !== 'folder')
      return this.trouble(rule, 'The folder is not there.');
    try {
      // A drive may have been added since that lies in it.
      await this.placeOf(rule.root, id);
      await this.watchFolders(rule);
      const { fresh, taken } = await this.plans.look(rule);
      const stay = rule.after === 'bin' && taken.length > 0 ? await this.clean(rule, taken) : [];
      const unchanged = this.seen.get(id) ?? new Map();
      this.seen.set(id, unchanged);
      const wait = rule.settleSeconds * 1000;
      const { settled, next } = settledFiles(fresh, unchanged, this.clock.now(), wait);
      if (next !== null) this.soon(id, next + 10);
      // What is taken in, or was taken away, is left no more; what cannot be read whole is tried when it has changed.
      const there = new Set([...fresh, ...taken].map(({ path: at }) => at));
      const still = rule.left.filter(({ path: at, stamp }) => !there.has(at) && stamp !== '');
      const { whole, broken } = await this.wholeOf(rule, settled, still);
      rule = await this.noteLeft(rule, [...still, ...broken, ...stay]);
      if (whole.length > 0) await this.begin(rule, whole);
      else await this.trouble(rule, null);
    } catch (error) {
      if (!(error instanceof ArkivError) && diskErrorCode(error) === null) throw error;
      const next = error instanceof ArkivError ? ` ${error.body().next}` : '';
      await this.trouble(rule, `${(error as Error).message}${next}`);
    }
  }

  private async trouble(rule: WatchRule, trouble: string | null): Promise<void> {
    if (rule.trouble !== trouble) await this.store.change(rule.id, { trouble });
  }

  /** What is proven goes into the folder's bin. */
  private async clean(rule: WatchRule, files: readonly CardFile[]): Promise<LeftFile[]> {
    const said = await this.store.takenOf(readerOf(rule), files);
    return this.cleaning.clean(rule, [...said.values()]);
  }

  private async noteLeft(rule: WatchRule, all: readonly LeftFile[]): Promise<WatchRule> {
    const left = all.slice(-MOST_LEFT);
    if (JSON.stringify(left) === JSON.stringify(rule.left)) return rule;
    await this.store.change(rule.id, { left });
    return { ...rule, left };
  }

  /** Pictures that are all there, as far as their formats say; those that are not keep the others of their frames waiting. */
  private async wholeOf(
    rule: WatchRule,
    files: readonly CardFile[],
    left: readonly LeftFile[],
  ): Promise<{ whole: CardFile[]; broken: LeftFile[] }> {
    const broken: LeftFile[] = [];
    for (const file of files) {
      const place = path.join(rule.root, file.path);
      const { format, raw } = kindOf(file.path);
      const head = await this.disk.readPart(place, 0, HEAD_BYTES);
      const tail = await this.disk.readPart(place, Math.max(0, file.size - TAIL_BYTES), TAIL_BYTES);
      if (!seemsWhole(raw ? 'raw' : format, head, tail, file.size))
        broken.push({
          ...{ path: file.path, stamp: stampOf(file) },
          reason: 'it seems not to be all there: its end is missing. It is taken in when it has changed.',
        });
    }
    const held = new Set([...broken, ...left].map(({ path: at }) => baseOf(at)));
    return { whole: files.filter(({ path: at }) => !held.has(baseOf(at))), broken };
  }

  /** Begins to take in what is of one day, or all where one shoot gets everything. */
  private async begin(rule: WatchRule, files: readonly CardFile[]): Promise<void> {
    const targets = await this.plans.targets();
    if (targets.length === 0) return this.trouble(rule, 'No drive is here that pictures could be copied to.');
    const some = wholeFrames(files, BATCH);
    const { frames } = await this.plans.scan(rule, some);
    const days = await this.plans.byDay(frames);
    const [day, first] = [...days][0] ?? ['', []];
    const own = rule.shootId === null ? first : frames;
    const batch = own.flatMap((frame) => frame.files.map((file) => file.path));
    if (batch.length === 0) return;
    await this.store.change(rule.id, { batch });
    try {
      const reader = readerOf(rule);
      const { fingerprint } = await this.readers.scan(reader);
      await this.intakes.start(await this.plans.request(rule, day, fingerprint));
      await this.trouble(rule, null);
    } catch (error) {
      await this.store.change(rule.id, { batch: null });
      throw error;
    }
  }

  /** What came of the files that were being taken in. False where they still are. */
  private async endBatch(rule: WatchRule): Promise<boolean> {
    const reader = readerOf(rule);
    const last = await this.store.lastArrival(reader);
    if (last && ['queued', 'running', 'paused'].includes(last.state ?? '')) return false;
    // Nobody is there to put another card in: what is proven is proven, the rest comes with the next look.
    if (last?.state === 'waiting') {
      await this.jobs.cancel(last.id);
      return false;
    }
    if (last && last.state !== null) await this.settle(rule, last.id);
    await this.store.change(rule.id, { batch: null });
    this.soon(rule.id);
    return true;
  }

  private async settle(rule: WatchRule, arrivalId: string): Promise<void> {
    const own = new Set(rule.batch);
    const files = (await this.store.arrived(arrivalId)).filter(({ from }) => own.has(from));
    const done = files.filter(({ fate }) => isDone(fate));
    const failed = files
      .filter(({ fate }) => fate === 'failed' || fate === 'partly')
      .map((file): LeftFile => ({
        ...{ path: file.from, stamp: stampOf(file) },
        reason: file.reason ?? 'it could not be copied to all drives',
      }));
    const frames = [...new Set(done.flatMap(({ frameId }) => frameId ?? []))];
    if (rule.album !== null && frames.length > 0)
      await this.albums.putIn(rule.album, frames).catch((error: unknown) => {
        if (!(error instanceof ArkivError)) throw error;
        failed.push({ path: '', stamp: '', reason: error.message });
      });
    const paths = new Set(files.map(({ from }) => from));
    const left = [...rule.left.filter(({ path: at }) => !paths.has(at)), ...failed].slice(-MOST_LEFT);
    const taken = rule.taken + done.length;
    await this.store.change(rule.id, {
      left,
      taken,
      ...(done.length > 0 ? { takenAt: this.clock.now() } : {}),
    });
  }

  private unwatch(root: string): void {
    this.watched.keep({ has: (folder) => !isWithin(folder, root) });
  }

  private async watchFolders(rule: WatchRule): Promise<void> {
    const watch = async (folder: string, deep: number): Promise<void> => {
      await this.watched.watch(folder, () => this.soon(rule.id));
      if (!rule.below || deep === 0) return;
      for (const name of await this.disk.names(folder)) {
        const below = path.join(folder, name.toString());
        if (name.toString().startsWith('.')) continue;
        if ((await this.disk.facts(below))?.kind === 'folder') await watch(below, deep - 1);
      }
    };
    await watch(rule.root, DEEPEST);
  }
}

/** As deep as cards are read. */
const DEEPEST = 16;

/** A picture's header, as far as it says whether the file is whole. */
const HEAD_BYTES = 64;

/** Folders of a plan above a shoot's own: more nobody looks through. */
const PLAN_DEPTH = 4;

/** A rule by which nothing was done yet. */
const NOTHING_YET = { batch: null, left: [], trouble: null, taken: 0, takenAt: null };
