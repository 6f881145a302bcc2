import { Worker } from 'node:worker_threads';
import {
  Injectable,
  Logger,
  type BeforeApplicationShutdown,
  type OnApplicationBootstrap,
} from '@nestjs/common';
import {
  ArkivError,
  type Facets,
  type FoundFolders,
  type FramesADay,
  type Hash,
  type Suggestion,
} from '@arkiv/core';
import { wrap, type Remote } from 'comlink';
import nodeEndpoint from 'comlink/dist/umd/node-adapter';
import { ArkivConfig } from '../config/config';
import { databaseFile } from '../db/sources';
import { Reading } from '../db/unitOfWork';
import { Happenings } from '../events/domainEvents';
import { Frame } from '../frames/frame.entity';
import { FramesService } from '../frames/frames.service';
import { AlbumStore } from '../marks/albumStore';
import { Pile } from '../marks/pile.entity';
import { SettingsService } from '../settings/settings.service';
import { Clock } from '../system/clock';
import { VolumesService } from '../volumes/volumes.service';
import type { HeldAlbum } from './foundAlbums';
import type { FindApi } from './find.worker';
import type { FindAsked, FindContext } from './finder';
import type { PicturedFrame } from './findRows';

/** What is asked by a window. */
export interface Asked extends Omit<FindAsked, 'like' | 'likeHash'> {
  /** id of a frame whose like is looked for, or `~` and what a picture is like in hexadecimal digits; null: none */
  like: string | null;
}

/**
 * Milliseconds after the start until all frames are read: the first screen comes first. Whoever looks for something before begins
 * it then.
 */
const BEGINS = 5000;
/** Milliseconds in which changes are gathered before they are read; a question reads them before it is asked. */
const GATHERED = 300;
/** Frames of the first page: what a large window shows of small thumbnails. */
const FIRST_PAGE = 200;

interface Running {
  worker: Worker;
  api: Remote<FindApi>;
  /** that shoots and frames can be asked for, not that all are read */
  ready: Promise<void>;
}

/** Finds frames anywhere in the archive. A thread of its own holds what they are found by, and is told what changes. */
@Injectable()
export class FindService implements OnApplicationBootstrap, BeforeApplicationShutdown {
  private readonly log = new Logger('find');
  private running: Running | null = null;
  private timer: NodeJS.Timeout | null = null;
  private begins: NodeJS.Timeout | null = null;
  private stopped = false;
  private questions = 0;
  private changesRead: Promise<void> = Promise.resolve();
  private readonly changed = {
    frames: new Set<string>(),
    shoots: new Set<string>(),
    assets: new Set<string>(),
    deliveries: new Set<string>(),
  };
  private readonly looked = new Set<string>();
  /** shoots whose frames were compared with each other: their takes may be others */
  private readonly regrouped = new Set<string>();
  private also = new Set<'shoots' | 'vocabulary' | 'volumes'>();
  private contextNow: Promise<FindContext> | null = null;

  constructor(
    private readonly config: ArkivConfig,
    private readonly reading: Reading,
    private readonly settings: SettingsService,
    private readonly volumes: VolumesService,
    private readonly frameService: FramesService,
    private readonly albums: AlbumStore,
    private readonly clock: Clock,
    happenings: Happenings,
  ) {
    happenings.on('frames', ({ shootId, ids }) => {
      if (ids === null) this.changed.shoots.add(shootId);
      else for (const id of ids) this.changed.frames.add(id);
      this.soon();
    });
    happenings.on('marks', ({ operations }) => {
      for (const { subject } of operations) this.changed.frames.add(subject);
      this.soon();
    });
    happenings.on('measured', ({ measures }) => {
      for (const [id] of measures) this.changed.frames.add(id);
      this.soon();
    });
    happenings.on('copied', ({ assetId }) => {
      this.changed.assets.add(assetId);
      this.soon();
    });
    happenings.on('compared', ({ shootId }) => {
      this.regrouped.add(shootId);
      this.soon();
    });
    happenings.on('looked', ({ picture }) => {
      this.looked.add(picture);
      this.soon();
    });
    happenings.on('job', ({ id, kind, state }) => {
      if (kind !== 'delivery' || state !== 'done') return;
      this.changed.deliveries.add(id);
      this.soon();
    });
    happenings.on('posted', ({ shootId }) => {
      this.changed.shoots.add(shootId);
      this.soon();
    });
    for (const what of ['settings', 'piles', 'albums', 'volumes'] as const)
      happenings.on(what, () => (this.contextNow = null));
    for (const what of ['shoots', 'vocabulary', 'volumes'] as const)
      happenings.on(what, () => {
        this.also.add(what);
        this.soon();
      });
  }

  onApplicationBootstrap(): void {
    this.begins = setTimeout(() => void this.thread(), BEGINS).unref();
  }

  async beforeApplicationShutdown(): Promise<void> {
    this.stopped = true;
    if (this.begins) clearTimeout(this.begins);
    if (this.timer) clearTimeout(this.timer);
    await this.running?.worker.terminate();
  }

  /** What a line finds, with its first page, as JSON. `onOvertaken` gets what says that nobody waits any more. Null: nobody did. */
  async find(asked: Asked, onOvertaken: (overtake: () => void) => void): Promise<string | null> {
    const { api } = await this.current();
    const question = ++this.questions;
    onOvertaken(() => void api.overtake(question));
    const likeHash = asked.like?.startsWith('~') ? hashIn(asked.like) : null;
    const like = asked.like === null || likeHash ? null : await this.keyOf(asked.like);
    return api.find(question, { ...asked, like, likeHash }, await this.context(), FIRST_PAGE);
  }

  /** What each album holds: those alone that were counted before nobody waited any more. */
  async held(): Promise<HeldAlbum[]> {
    const { api } = await this.current();
    return api.held(++this.questions, await this.context());
  }

  /** A page of a result as JSON of columns. Throws `find.gone` where it is not kept any more. */
  async page(token: string, from: number, count: number): Promise<string> {
    return there(await (await this.current()).api.page(token, from, count));
  }

  /** Frames by their ids, as JSON of columns. */
  async frames(ids: readonly string[]): Promise<string> {
    return (await this.current()).api.frames(ids);
  }

  /** Of some frames the ids of those whose pictures lie on drives that are away. */
  away(ids: readonly string[]): Promise<string[]> {
    return this.frameService.awayOf(ids);
  }

  async ids(token: string, most: number): Promise<string[]> {
    return there(await (await this.current()).api.ids(token, most));
  }

  async facets(token: string): Promise<Facets> {
    return there(await (await this.current()).api.facets(token));
  }

  /** The frames whose pictures are most like one, with the keys of these pictures. */
  async nearest(hash: Hash, most: number, within: number): Promise<{ id: string; picture: string }[]> {
    return (await this.current()).api.nearest(hash, most, within);
  }

  /** Frames with the keys of their pictures, those that came last first, before a frame's key (null: from the first); and how many there are in all. */
  async pictures(before: number | null, most: number): Promise<{ frames: PicturedFrame[]; of: number }> {
    return (await this.current()).api.pictures(before, most);
  }

  /** Frames that came to the archive right before and after one, and that one. */
  async around(id: string, most: number): Promise<PicturedFrame[]> {
    return (await this.pictures((await this.keyOf(id)) + Math.ceil(most / 2), most)).frames;
  }

  async days(year: number): Promise<FramesADay> {
    return (await this.current()).api.days(year);
  }

  async folders(path: string): Promise<FoundFolders> {
    return (await this.current()).api.folders(path);
  }

  async suggestions(line: string): Promise<Suggestion[]> {
    return (await this.current()).api.suggestions(line);
  }

  private async keyOf(id: string): Promise<number> {
    const frame = await this.reading.manager.findOneBy(Frame, { id });
    if (!frame) throw new ArkivError('not-found', { what: 'frame', id });
    return frame.key;
  }

  /** By what lines are read now: kept until one of it changes, as each letter that is typed is a question. */
  context(): Promise<FindContext> {
    const context = (this.contextNow ??= this.readContext());
    context.catch(() => {
      if (this.contextNow === context) this.contextNow = null;
    });
    return context;
  }

  private async readContext(): Promise<FindContext> {
    const { rules, labels, labelWords, stages } = await this.settings.all();
    const names = Object.fromEntries(
      Object.entries(labelWords).map(([label, { name }]) => [
        label,
        name === '' ? labels[label as keyof typeof labels] : name,
      ]),
    );
    const piles = await this.reading.manager.findBy(Pile, { removed: false });
    const named = ({ id, name }: { id: string; name: string }) => ({ id, name });
    return {
      ...{
        rules,
        stages,
        labels: names,
        piles: piles.map(named),
        drives: (await this.volumes.all()).map(named),
      },
      albums: (await this.albums.tree()).albums,
    };
  }

  /** The thread, with everything read that had changed by now. */
  private async current(): Promise<Running> {
    const running = await this.thread();
    await this.read();
    return running;
  }

  private async thread(): Promise<Running> {
    this.running ??= this.start();
    await this.running.ready;
    return this.running;
  }

  private start(): Running {
    if (this.begins) clearTimeout(this.begins);
    const worker = new Worker(require.resolve('@arkiv/server/dist/find/find.worker.js'), {
      workerData: { file: databaseFile(this.config.dataDir) },
    });
    // It holds up no end of the server.
    worker.unref();
    const ends = (reason: string) => {
      if (this.running?.worker !== worker) return;
      this.running = null;
      if (!this.stopped) this.log.error(`the thread that finds frames ended: ${reason}`);
    };
    worker.on('error', (error) => ends((error as Error).stack ?? String(error)));
    worker.on('exit', (code) => ends(`exit ${code}`));
    const api = wrap<FindApi>(nodeEndpoint(worker));
    const ready = this.online().then((ids) => api.setOnline(ids));
    const began = this.clock.now();
    void api.load().then(
      () => this.log.log(`all frames are read, in ${this.clock.now() - began} ms`),
      (error: unknown) => this.log.error(`frames could not be read: ${(error as Error).message}`),
    );
    return { worker, api, ready };
  }

  private async online(): Promise<string[]> {
    return (await this.volumes.list()).flatMap(({ volume, online }) => (online ? volume.id : []));
  }

  private soon(): void {
    // What is not read yet is read as it is then.
    if (!this.running || this.stopped) return;
    this.timer ??= setTimeout(() => void this.read(), GATHERED).unref();
  }

  /** Has the thread read what changed; one reading after the other. */
  private read(): Promise<void> {
    if (this.timer) clearTimeout(this.timer);
    this.timer = null;
    this.changesRead = this.changesRead
      .then(() => this.readChanged())
      .catch((error: unknown) => this.log.error(`changes could not be read: ${(error as Error).message}`));
    return this.changesRead;
  }

  private async readChanged(): Promise<void> {
    const { running, also } = this;
    if (!running) return;
    const changed = Object.fromEntries(
      Object.entries(this.changed).map(([what, ids]) => [what, [...ids]]),
    ) as Record<keyof typeof this.changed, string[]>;
    for (const ids of Object.values(this.changed)) ids.clear();
    this.also = new Set();
    const regrouped = [...this.regrouped];
    this.regrouped.clear();
    if (regrouped.length > 0) await running.api.forgetTakes(regrouped);
    const looked = [...this.looked];
    this.looked.clear();
    if (looked.length > 0) await running.api.setLooked(looked);
    if (also.has('shoots')) await running.api.readShoots();
    if (also.has('vocabulary')) await running.api.readVocabulary();
    if (also.has('volumes')) await running.api.setOnline(await this.online());
    if (Object.values(changed).some((ids) => ids.length > 0)) await running.api.refresh(changed);
  }
}

const hashIn = (text: string): Hash => [
  Number.parseInt(text.slice(9), 16),
  Number.parseInt(text.slice(1, 9), 16),
];

function there<T>(found: T | null): T {
  if (found === null) throw new ArkivError('find.gone', {});
  return found;
}
