import { execFileSync } from 'node:child_process';
import {
  copyFileSync,
  cpSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  statSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import type { NestExpressApplication } from '@nestjs/platform-express';
import { Test } from '@nestjs/testing';
import { ulid } from 'ulid';
import { AppModule } from '../src/app.module';
import { CONFIG_DEFAULTS, type ArkivConfig } from '../src/config/config';
import { DatabaseCopies } from '../src/db/databaseCopies';
import { databaseFile, openWriteSource } from '../src/db/sources';
import { Disk } from '../src/disk/disk';
import { NodeDisk } from '../src/disk/nodeDisk';
import { ENTITIES } from '../src/entities';
import { Copying } from '../src/events/copying';
import { MetadataTool } from '../src/metadata/metadataTool';
import { Parser } from '../src/metadata/parser';
import { KeptSpace } from '../src/space/keptSpace.service';
import { SharedContents } from '../src/duplicates/sharedContents.service';
import { Recounts } from '../src/frames/recounts.service';
import { PictureMaker } from '../src/pictures/pictureMaker';
import { setUp } from '../src/setup';
import { Clock } from '../src/system/clock';

/** A copy of the database is made when it is asked for: one at each start was a tenth of what starting took. */
class CopiesWhenAsked extends DatabaseCopies {
  override onApplicationBootstrap(): void {}
}
const ends: (() => unknown)[] = [];
/**
 * Threads and processes that look at drives, parse, make pictures and read what makers wrote are those of all servers of a test file:
 * starting a thread was a tenth of what a small test did, starting a process that makes pictures took as long as starting the server.
 * `end`: what a server calls when it stops, and the file does instead when it is through.
 */
function shared<K extends string, T extends Record<K, () => unknown>>(one: T, end: K): T {
  ends.push(one[end].bind(one));
  one[end] = (() => Promise.resolve()) as T[K];
  return one;
}
const parser = shared(new Parser(), 'onApplicationShutdown');
const pictures = shared(new PictureMaker(), 'onApplicationShutdown');
const tool = shared(new MetadataTool(), 'onApplicationShutdown');
const real = shared(new NodeDisk(), 'close');
afterAll(() => Promise.all(ends.map((end) => end())));

export const ROOT = path.resolve(__dirname, '../../..');
export const TEST_SIDE = 240;
const CARDS = path.join(ROOT, 'node_modules', '.arkiv', 'test-cards');

/** The demo card at a small size: real JPEGs and DNGs with full Exif; made once, before all tests, and kept. */
export function testCard(side = TEST_SIDE): string {
  const card = path.join(CARDS, `press-night-${side}`);
  if (!existsSync(card)) {
    mkdirSync(CARDS, { recursive: true });
    execFileSync(process.execPath, [
      path.join(ROOT, 'tools/demo/make-card.mjs'),
      '--out',
      card,
      '--side',
      String(side),
    ]);
  }
  return card;
}

export function temporaryFolder(): string {
  return mkdtempSync(path.join(os.tmpdir(), 'arkiv-test-'));
}

/**
 * A data directory with a copy of the card on the table and in the first slot. `until` leaves out what has a
 * higher number, for tests that need no whole evening.
 */
export function dataWithCard({
  side,
  until,
  data = temporaryFolder(),
}: { side?: number; until?: string; data?: string } = {}): string {
  const card = path.join(data, 'stand-ins/cards/card-a');
  const wanted = (file: string) =>
    until === undefined ||
    !/\.(JPG|DNG|WAV)$/.test(file) ||
    (file.includes('100OCKHM') && path.basename(file) < `${until}~`);
  cpSync(testCard(side), card, { recursive: true, preserveTimestamps: true, filter: wanted });
  mkdirSync(path.join(data, 'stand-ins/reader'), { recursive: true });
  symlinkSync(card, path.join(data, 'stand-ins/reader/slot-1'));
  return data;
}

export const cardOf = (data: string): string => path.join(data, 'stand-ins/cards/card-a');
export const volumeOf = (data: string, name: 'working' | 'backup' | 'edit'): string =>
  path.join(data, 'stand-ins/volumes', name);

/** Every file below a folder, relative, sorted. */
export function filesBelow(folder: string, below = ''): string[] {
  if (!existsSync(path.join(folder, below))) return [];
  return readdirSync(path.join(folder, below))
    .flatMap((name) => {
      const relative = path.join(below, name);
      // What was moved away just now is there no more.
      const facts = statSync(path.join(folder, relative), { throwIfNoEntry: false });
      if (!facts) return [];
      return facts.isDirectory() ? filesBelow(folder, relative) : [relative];
    })
    .sort();
}

/** A temporary file that an ended job should have taken away; sidecars may be being written at any moment. */
export const isLeftOver = (file: string): boolean => file.endsWith('.part') && !file.includes('.xmp.');

/** SHA-256 of every file below a folder, made by openssl: the outside manifest that results are held against. */
export function outsideManifest(folder: string): Map<string, string> {
  const files = filesBelow(folder);
  if (files.length === 0) return new Map();
  const text = execFileSync('openssl', ['dgst', '-sha256', '-r', ...files], {
    cwd: folder,
    encoding: 'utf8',
    maxBuffer: 1e8,
  });
  return new Map(
    text
      .trim()
      .split('\n')
      .map((line) => [line.slice(66), line.slice(0, 64)]),
  );
}

/** Waits for what comes by itself: a loaded machine may take long, none takes a minute. */
export async function until(come: () => Promise<boolean> | boolean): Promise<void> {
  for (let n = 0; n < 2400; n++) {
    if (await come()) return;
    await new Promise((resolve) => setTimeout(resolve, 25));
  }
  throw new Error('it did not come');
}

export interface Answer<T> {
  status: number;
  body: T;
}

/** Speaks to a server as its own pages do. */
export class Client {
  constructor(readonly base: string) {}

  async ask<T>(
    method: string,
    where: string,
    body?: unknown,
    headers: Record<string, string> = {},
  ): Promise<Answer<T>> {
    const response = await fetch(`${this.base}/api${where}`, {
      method,
      headers: { 'content-type': 'application/json', 'x-arkiv': '1', ...headers },
      body: body === undefined ? undefined : JSON.stringify(body),
    });
    const text = await response.text();
    return { status: response.status, body: (text ? JSON.parse(text) : null) as T };
  }

  async get<T>(where: string): Promise<T> {
    const { status, body } = await this.ask<T>('GET', where);
    if (status !== 200) throw new Error(`${where}: ${status} ${JSON.stringify(body)}`);
    return body;
  }

  async post<T>(where: string, sent: unknown = {}): Promise<T> {
    const { status, body } = await this.ask<T>('POST', where, sent);
    if (status >= 300) throw new Error(`${where}: ${status} ${JSON.stringify(body)}`);
    return body;
  }

  /** Takes in the card in the first slot, as the interface would by default. */
  async takeIn(change: Record<string, unknown> = {}): Promise<{ jobId: string; shootId: string }> {
    return this.post('/intakes', await this.intakeRequest(change));
  }

  async intakeRequest(change: Record<string, unknown> = {}): Promise<Record<string, unknown>> {
    const card = await this.get<{ fingerprint: string }>('/readers/slot-1/card');
    const volumes = await this.get<{ id: string; role: string }[]>('/volumes');
    const settings = await this.get<{ pattern: string; folders: object }>('/settings');
    return {
      readerId: 'slot-1',
      fingerprint: card.fingerprint,
      title: 'Press night',
      date: '2026-10-16',
      client: 'Lantern Row',
      place: 'Mill Stage',
      pattern: settings.pattern,
      folders: settings.folders,
      seqStart: 1,
      zoneMinutes: 120,
      targets: volumes.filter((v) => v.role !== 'edit').map((v) => v.id),
      ...change,
    };
  }

  /** Gives marks as the interface does: one operation a frame, all in one group. */
  async mark(kind: string, from: unknown, to: unknown, ...frames: string[]): Promise<void> {
    const group = ulid();
    const operations = frames.map((subject) => ({
      ...{ id: ulid(), subject, kind, from, to, at: Date.now(), group, window: 'w' },
    }));
    await this.post('/marks', { operations });
  }

  async volumeId(role: string): Promise<string> {
    return (await this.get<{ id: string; role: string }[]>('/volumes')).find((v) => v.role === role)!.id;
  }

  /** Waits until a job has come to rest and returns its report. */
  async rest(jobId: string): Promise<JobReport> {
    for (let i = 0; i < 1200; i++) {
      const report = await this.get<JobReport>(`/jobs/${jobId}`);
      if (!['queued', 'running'].includes(report.job.state)) return report;
      await new Promise((resolve) => setTimeout(resolve, 50));
    }
    throw new Error(`job ${jobId} did not come to rest`);
  }

  /** A shoot's frames, each column as its values. */
  async columns(shootId: string): Promise<Record<string, (string | number | null)[]>> {
    const { columns } = await this.get<{ columns: Record<string, (string | number | null)[]> }>(
      `/shoots/${shootId}/frames`,
    );
    return columns;
  }

  async frames(shootId: string): Promise<{
    id: string[];
    name: string[];
    verdict: string[];
    stars: number[];
    picture: string[];
    count: number;
  }> {
    const columns = await this.columns(shootId);
    return { ...columns, count: columns.id!.length } as never;
  }
}

export interface JobReport {
  job: {
    id: string;
    state: string;
    reason: string | null;
    filesDone: number;
    filesFailed: number;
    filesTotal: number;
    shootId: string;
  };
  failures: { file: string; reason: string }[];
}

export interface TestArkiv extends Client {
  app: NestExpressApplication;
  data: string;
  stop(): Promise<void>;
}

/**
 * A new archive's database as the migrations make it, which each process that runs tests does once: that was a quarter of what starting
 * took. Where the migrations themselves are tried (archive.test.ts), they run.
 */
async function putEmptyArchive(data: string): Promise<void> {
  const file = databaseFile(data);
  if (existsSync(file)) return;
  const made = databaseFile(path.join(process.env.ARKIV_TEST_RUN!, `${process.env.JEST_WORKER_ID ?? 0}-new`));
  if (!existsSync(made)) await (await openWriteSource(made, new NodeDisk(), new Clock(), ENTITIES)).destroy();
  mkdirSync(data, { recursive: true });
  copyFileSync(made, file);
}

/**
 * The whole application on a real temporary database and real folders; `disk` may play faults. Pictures are made and looked at, and
 * the database is copied, when that is asked for; `looks`: in the background too, as they are otherwise, which is half of what most tests
 * would do.
 */
export async function startArkiv(
  data: string,
  disk?: Disk,
  { looks = false, ...change }: Partial<ArkivConfig> & { looks?: boolean } = {},
): Promise<TestArkiv> {
  const config: ArkivConfig = { ...CONFIG_DEFAULTS, dataDir: data, port: 0, standIns: true, ...change };
  await putEmptyArchive(data);
  const builder = Test.createTestingModule({ imports: [AppModule.with(config)] });
  if (disk) builder.overrideProvider(Disk).useValue(disk);
  builder.overrideProvider(NodeDisk).useValue(real);
  builder.overrideProvider(Parser).useValue(parser);
  builder.overrideProvider(PictureMaker).useValue(pictures);
  builder.overrideProvider(MetadataTool).useValue(tool);
  // What nobody has asked for waits while a card is being copied.
  if (!looks) builder.overrideProvider(DatabaseCopies).useClass(CopiesWhenAsked);
  if (!looks) builder.overrideProvider(Copying).useValue({ isUnderWay: true, after: () => undefined });
  const app = (await builder.compile()).createNestApplication<NestExpressApplication>({
    logger: false,
    bodyParser: false,
    forceCloseConnections: true,
  });
  setUp(app, config);
  await app.listen(0, '127.0.0.1');
  // A test that waits longer than a connection lives would ask over one that is being closed.
  app.getHttpServer().keepAliveTimeout = 600_000;
  const { port } = app.getHttpServer().address() as { port: number };
  const stop = async (): Promise<void> => {
    // Whatever a test has played: the numbers that are kept are what the rows say.
    const recounts = app.get(Recounts);
    await recounts.settled();
    const differences = [
      ...(await recounts.differences()),
      ...(await app.get(KeptSpace).differences()),
      ...(await app.get(SharedContents).differences()),
    ];
    await app.close();
    if (differences.length > 0) throw new Error(`kept numbers are wrong: ${differences.join('; ')}`);
  };
  return Object.assign(new Client(`http://127.0.0.1:${port}`), { app, data, stop });
}

/** A shoot that was taken in, on a server of its own. */
export interface TakenIn {
  arkiv: TestArkiv;
  data: string;
  shootId: string;
}

/**
 * The card up to a file, taken in by default: many tests begin with that. Each process that runs tests takes it in once; every test gets
 * what was there then, as it was, in the same place (drives are known by their places), under a server of its own.
 */
export async function takenIn(
  until: string,
  { disk, ...options }: { disk?: Disk } & Parameters<typeof startArkiv>[2] = {},
): Promise<TakenIn> {
  const home = path.join(process.env.ARKIV_TEST_RUN!, `${process.env.JEST_WORKER_ID ?? 0}-${until}`);
  const [data, kept] = [path.join(home, 'data'), path.join(home, 'kept')];
  const note = path.join(home, 'shoot');
  if (!existsSync(note)) {
    mkdirSync(data, { recursive: true });
    const first = await startArkiv(dataWithCard({ until, data }));
    const { jobId, shootId } = await first.takeIn();
    const { job } = await first.rest(jobId);
    // Counted here, so that whatever a test changes has to be counted anew.
    await first.app.get(KeptSpace).upToDate();
    await first.stop();
    if (job.state !== 'done' || job.filesFailed > 0)
      throw new Error(`taking in: ${job.state}, ${job.reason}`);
    execFileSync('cp', ['-a', data, kept]);
    writeFileSync(note, shootId);
  }
  removeFolder(data);
  execFileSync('cp', ['-a', kept, data]);
  const arkiv = await startArkiv(data, disk, options);
  return { arkiv, data, shootId: readFileSync(note, 'utf8') };
}

export function removeFolder(folder: string): void {
  rmSync(folder, { recursive: true, force: true });
}

/** Runs `sha256sum -c` in a folder; throws when it does not accept the manifest. */
export function sha256sumCheck(folder: string, manifest: string): string {
  return execFileSync('sha256sum', ['-c', '--strict', manifest], { cwd: folder, encoding: 'utf8' });
}
