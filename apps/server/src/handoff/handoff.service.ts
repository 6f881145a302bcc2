import path from 'node:path';
import { Injectable, type OnModuleInit } from '@nestjs/common';
import {
  ArkivError,
  collisionKey,
  describe,
  markFrames,
  marksIn,
  nameProblem,
  namesTogether,
  noteList,
  PROGRAM,
  SHOOT_FOLDER,
  sidecarOf,
  stageAt,
} from '@arkiv/core';
import type { EntityManager } from 'typeorm';
import { UnitOfWork } from '../db/unitOfWork';
import { Disk, type DiskPath } from '../disk/disk';
import { SourceError, verifiedCopy } from '../disk/verifiedCopy';
import type { Frame } from '../frames/frame.entity';
import { FramesService } from '../frames/frames.service';
import { OwnTextsService } from '../frames/ownTexts.service';
import type { Job, JobItem } from '../jobs/job.entity';
import { WaitForOutside, type ItemContext, type ItemOutcome, type JobHandler } from '../jobs/jobHandler';
import { JobsService } from '../jobs/jobs.service';
import type { Lane } from '../jobs/lanes';
import { SidecarsService } from '../sidecars/sidecars.service';
import { SidecarWords } from '../sidecars/sidecarWords.service';
import { ShootsService } from '../shoots/shoots.service';
import type { Handed, Handoff, HandoffFile } from '../ledger/handoff.entity';
import { MarksService } from '../marks/marks.service';
import { OutLedger } from '../ledger/outLedger';
import { Clock } from '../system/clock';
import { Ids } from '../system/ids';
import { SettingsService } from '../settings/settings.service';
import type { Volume } from '../volumes/volume.entity';
import { volumeError, VolumesService } from '../volumes/volumes.service';
import { InsideCopies } from './insideCopies';
import { WithEditing, type Going } from './withEditing';

type Planned = Omit<HandoffFile, 'handoffId' | 'seq' | 'fate'>;

export interface HandoffPlan {
  volumeId: string;
  volume: string;
  online: boolean;
  folders: string[];
  frames: number;
  files: number;
  bytes: number;
  /** of these, what is not there yet or is another one by now */
  fresh: { frames: number; files: number; bytes: number };
  /** sidecars there whose frames say something else by now; part of `fresh` */
  sidecars: number;
  /** files there of which only what they say is another by now: sidecars, and JPEGs inside; part of `fresh` */
  words: number;
  /** frames that lie there and are no keepers any more, or are called otherwise now */
  gone: { name: string; why: 'no keeper' | 'another name' }[];
  /** the sentence of the studio's keeper rule */
  rule: string;
}

/** Where copies go. */
export interface HandoffPlace {
  volumeId: string;
  /** the folder in that of the shoot; missing: the one for selects */
  folder?: string;
}

export interface HandoffAsked extends HandoffPlace {
  /** what goes: everything, or what is not there yet or is another one by now */
  part: 'all' | 'new';
  /** to whom; empty: nobody is named */
  person: string;
}

export interface HandoffResult {
  /** to whom; empty: nobody was named */
  person: string;
  /** frames of it that lie there still, and were not brought anew since */
  there: number;
  volumeId: string;
  volume: string;
  folders: string[];
  frames: number;
  files: number;
  bytes: number;
  verified: number;
  failed: number;
}

/** The list of what is to be done, beside the copies. */
const NOTES = 'notes.csv';
/** Nothing is said inside a file: it is none that can carry it. */
const NOTHING_INSIDE = { said: null, written: null, packet: null, mtimeMillis: null };
/** A sidecar's size is not known before it is written; three kilobytes is what ours have. */
const SIDECAR_BYTES = 3000;

/** Copies the keepers' originals with their sidecars to a selects folder, counted and verified. */
@Injectable()
export class HandoffService implements JobHandler, OnModuleInit {
  readonly kind = 'handoff';
  readonly inFlight = 2;

  constructor(
    private readonly disk: Disk,
    private readonly work: UnitOfWork,
    private readonly jobs: JobsService,
    private readonly shoots: ShootsService,
    private readonly frames: FramesService,
    private readonly texts: OwnTextsService,
    private readonly sidecars: SidecarsService,
    private readonly words: SidecarWords,
    private readonly settings: SettingsService,
    private readonly volumes: VolumesService,
    private readonly ledger: OutLedger,
    private readonly editing: WithEditing,
    private readonly inside: InsideCopies,
    private readonly marks: MarksService,
    private readonly clock: Clock,
    private readonly ids: Ids,
  ) {}

  onModuleInit(): void {
    this.jobs.register(this);
  }

  async plan(shootId: string, { volumeId, folder }: HandoffPlace): Promise<HandoffPlan> {
    const { items, folders, frames, inside } = await this.items(shootId, folder);
    const volume = await this.volumes.get(volumeId);
    const { rules } = await this.settings.all();
    const { fresh, sidecars, words, gone } = await this.editing.compare({ shootId, volumeId, inside }, items);
    return {
      volumeId,
      volume: volume.name,
      online: await this.volumes.isOnline(volume),
      folders,
      frames,
      files: items.length,
      bytes: bytesOf(items),
      fresh: {
        frames: new Set(fresh.map(({ frameId }) => frameId)).size,
        files: fresh.length,
        bytes: bytesOf(fresh),
      },
      sidecars,
      words,
      gone: gone.map(({ name, why }) => ({ name, why })),
      rule: describe(rules.keeper),
    };
  }

  async start(shootId: string, { volumeId, folder, part, person }: HandoffAsked): Promise<{ jobId: string }> {
    const volume = await this.volumes.get(volumeId);
    await this.volumes.check(volume);
    const shoot = await this.shoots.get(shootId);
    const all = await this.items(shootId, folder);
    const where = { shootId, volumeId, inside: all.inside };
    if (all.frames === 0)
      throw new ArkivError('job.nothing', { rule: describe((await this.settings.all()).rules.keeper) });
    const items = part === 'all' ? all.items : (await this.editing.compare(where, all.items)).fresh;
    if (items.length === 0) throw new ArkivError('handoff.nothing', { volume: volume.name });
    const frames = new Set(items.map(({ frameId }) => frameId)).size;
    const bytes = bytesOf(items);
    const { free } = await this.disk.space(volume.root);
    if (free < bytes)
      throw new ArkivError('volume.full', { volume: volume.name, needed: bytes, free, file: '' });
    const jobId = this.ids.newId();
    const handoff: Handoff = {
      ...{ id: jobId, shootId, volumeId, frames, person, at: this.clock.now(), finishedAt: null },
    };
    const files = items.map((item, seq) => ({ ...item, handoffId: jobId, seq, fate: 'todo' as const }));
    await this.jobs.begin([
      {
        job: { id: jobId, kind: 'handoff', title: shoot.title, shootId, params: {} },
        items: items.map(({ size, from: name }) => ({ size, name, data: {} })),
        head: (manager) => this.ledger.openHandoff(manager, handoff),
        part: (manager, from, to) => this.ledger.addHandoffFiles(manager, files.slice(from, to)),
      },
    ]);
    return { jobId };
  }

  async undo(job: Job): Promise<void> {
    while (await this.work.write((manager) => this.ledger.forgetHandoff(manager, job.id)));
  }

  lane(): Lane {
    return { bulk: true, way: null, first: false };
  }

  async begin(job: Job): Promise<void> {
    await this.sidecars.flush();
    const volume = await this.volumeOf(job);
    if (!(await this.volumes.isOnline(volume)))
      throw new WaitForOutside(`“${volume.name}” is not there. Plug it in: copying carries on.`);
  }

  private async volumeOf(job: Job): Promise<Volume> {
    const handoff = await this.ledger.handoff(job.id);
    if (!handoff) throw new ArkivError('not-found', { what: 'hand-off', id: job.id });
    return this.volumes.get(handoff.volumeId);
  }

  async runItem(job: Job, item: JobItem, context: ItemContext): Promise<ItemOutcome> {
    const data = await this.ledger.handoffFile(job.id, item.seq);
    const volume = await this.volumeOf(job);
    const noted = (fate: HandoffFile['fate']) => (manager: EntityManager) =>
      this.ledger.noteHandoff(manager, job.id, item.seq, fate);
    const handed: Handed = {
      ...{
        volumeId: volume.id,
        path: data.to,
        shootId: job.shootId!,
        frameId: data.frameId!,
        handoffId: job.id,
      },
      ...{ sha256: data.assetId === null ? null : data.sha256, size: item.size },
      ...NOTHING_INSIDE,
    };
    try {
      await this.volumes.check(volume);
      if (data.assetId === null) await this.handSidecar(job, handed, data.from);
      else {
        const { file } = await this.frames.locate(data.assetId);
        const inside = await this.handInside(file, data, { volume, handed }, job, context);
        if (inside) return { state: 'done', commit: noted('copied') };
        const target = { id: volume.id, final: await this.volumes.resolve(volume, data.to) };
        const result = await verifiedCopy(this.disk, file, [target], {
          job: job.id,
          signal: context.signal,
          onBytes: context.onBytes,
          expected: data.sha256!,
        });
        const [copied] = result.targets;
        if (copied && !copied.ok) throw copied.error;
        await this.work.write((manager) => this.ledger.hand(manager, handed));
      }
      return { state: 'done', commit: noted('copied') };
    } catch (error) {
      if (context.signal.aborted) throw error;
      const cause = error instanceof SourceError ? error.reason : error;
      const shown = volumeError(cause, volume, data.to, item.size, 0);
      const reason = `${data.from}: ${shown.message} ${shown.body().next}`;
      return { state: 'failed', reason, commit: noted('failed') };
    }
  }

  async finish(job: Job): Promise<object> {
    const finishedAt = this.clock.now();
    await this.work.write((manager) => this.ledger.finishHandoff(manager, job.id, finishedAt));
    const problem = await this.listNotes(job);
    await this.bringToStage(job.id);
    return { reason: problem };
  }

  /** What is to be done to the frames, in a list beside their copies; none where there is nothing to say. */
  private async listNotes(job: Job): Promise<string | null> {
    const volume = await this.volumeOf(job);
    const mine = new Set((await this.ledger.handoffFiles(job.id)).map(({ to }) => path.posix.dirname(to)));
    // Of all that lies there, be it that only some of it went this time.
    const sidecars = [...(await this.ledger.handed(job.shootId!, volume.id)).values()].filter(
      (one) => one.sha256 === null && mine.has(path.posix.dirname(one.path)),
    );
    const frames = new Map(
      (await this.frames.here(sidecars.map(({ frameId }) => frameId))).map((one) => [one.id, one]),
    );
    const byFolder = new Map(
      [...mine].map((folder) => [folder, [] as { name: string; note: string | null }[]]),
    );
    for (const { frameId, path: at } of sidecars) {
      const { dir, name } = path.posix.parse(at);
      byFolder.get(dir)?.push({ name, note: frames.get(frameId)?.note ?? null });
    }
    for (const its of byFolder.values()) its.sort((one, other) => (one.name < other.name ? -1 : 1));
    try {
      for (const [folder, its] of byFolder) {
        const text = noteList(its);
        const file = `${folder}/${NOTES}`;
        if (text !== '') await this.texts.keepTrue(volume, file, text, job.id);
        else await this.texts.remove(volume, file, job.id);
      }
      return null;
    } catch (error) {
      const shown = volumeError(error, volume, NOTES, SIDECAR_BYTES, 0);
      return `The list of notes could not be written: ${shown.message} ${shown.body().next}`;
    }
  }

  /** Frames that went whole are at the stage to which hand-off brings them; those that are further on stay there. */
  private async bringToStage(jobId: string): Promise<void> {
    const { stages } = await this.settings.all();
    const stage = stages.find(({ by }) => by === 'handoff');
    if (!stage) return;
    const files = await this.ledger.handoffFiles(jobId);
    const lacking = new Set(files.flatMap(({ fate, frameId }) => (fate === 'copied' ? [] : frameId)));
    const whole = [...new Set(files.flatMap(({ frameId }) => (lacking.has(frameId) ? [] : (frameId ?? []))))];
    const first = (await this.frames.here(whole)).filter((frame) => stageAt(frame.stage, stages) === 0);
    const stamp = { newId: () => this.ids.newId(), at: this.clock.now(), window: 'handoff', by: PROGRAM };
    await this.marks.apply(
      markFrames(
        first.map((frame) => ({ id: frame.id, marks: marksIn(frame) })),
        'stage',
        stage.id,
        stamp,
      ),
    );
  }

  /** What was handed off so far, the newest first. */
  async list(shootId: string): Promise<{ jobId: string; at: number; result: HandoffResult }[]> {
    const handoffs = await this.ledger.handoffs(shootId);
    const there = await this.ledger.stillThere(shootId);
    return Promise.all(
      handoffs.map(async ({ id, volumeId, frames, person, at, finishedAt }) => {
        const files = await this.ledger.handoffFiles(id);
        const done = files.filter((file) => file.fate === 'copied');
        const result: HandoffResult = {
          ...{ person, there: there.get(id) ?? 0 },
          ...{ volumeId, volume: (await this.volumes.get(volumeId)).name, frames, files: files.length },
          folders: [...new Set(files.map((file) => path.posix.dirname(file.to)))],
          bytes: done.reduce((sum, file) => sum + file.size, 0),
          ...{ verified: done.length, failed: files.length - done.length },
        };
        return { jobId: id, at: finishedAt ?? at, result };
      }),
    );
  }

  /** A JPEG goes with what is said of it inside. False: nothing can be put into it. */
  private async handInside(
    file: DiskPath,
    { to, sha256 }: HandoffFile,
    { volume, handed }: { volume: Volume; handed: Handed },
    job: Job,
    { signal, onBytes }: ItemContext,
  ): Promise<boolean> {
    if (!this.inside.can(to)) return false;
    const known = await this.ledger.handedAt(volume.id, to);
    const target = { frameId: handed.frameId, volume, path: to, known };
    const said = await this.inside.copy(file, sha256!, target, { job: job.id, signal });
    if (!said) return false;
    onBytes(handed.size);
    await this.work.write((manager) => this.ledger.hand(manager, { ...handed, ...said }));
    return true;
  }

  /** A sidecar goes as text. One that lies there already is brought up to date: whatever else stands in it stays. */
  private async handSidecar(job: Job, handed: Handed, from: string): Promise<void> {
    const volume = await this.volumes.get(handed.volumeId);
    const found = await this.texts.read(volume, handed.path);
    if (found.text !== null) {
      const known = await this.ledger.handedAt(volume.id, handed.path);
      await this.editing.bringUpToDate(
        volume,
        { ...handed, said: known?.said ?? null },
        { ...found, text: found.text },
        job.id,
      );
      return;
    }
    const text = await this.sidecarText(handed, from);
    const foreign = await this.words.foreignIn(text);
    if (!(await this.texts.replace(volume, handed.path, text, null, job.id, foreign)))
      throw new ArkivError('file.exists', { file: handed.path });
    const said = await this.words.saidIn(text);
    await this.editing.handed(volume, { ...handed, said });
  }

  /**
   * The sidecar's text from the first volume that has it. Where none may be written beside pictures, what lies there is another program's,
   * and what was decided here is put into it.
   */
  private async sidecarText({ shootId, frameId, path: to }: Handed, from: string): Promise<string> {
    let lies: string | null = null;
    for (const { volume, online } of await this.volumes.list())
      if (online && lies === null) ({ text: lies } = await this.texts.read(volume, from));
    const { sidecars } = await this.shoots.get(shootId);
    if (lies !== null && sidecars) return lies;
    const there = { text: lies, changedOutside: false, foreign: null };
    return (await this.words.textInCopy(frameId, there, null, to)).text;
  }

  /** All files that a hand-off of all keepers takes. */
  async going(shootId: string, folder?: string): Promise<{ items: Going[]; inside: string }> {
    return this.items(shootId, folder);
  }

  private async items(
    shootId: string,
    folder?: string,
  ): Promise<{ items: Planned[]; folders: string[]; frames: number; inside: string }> {
    const shoot = await this.shoots.withWorkFolder(shootId);
    const inside = folder ?? shoot.plan.selects;
    const { originals: home, delivery, rejects } = shoot.plan;
    const taken = [home, delivery, rejects, SHOOT_FOLDER].some(
      (its) => collisionKey(its) === collisionKey(inside),
    );
    if (taken) throw new ArkivError('handoff.folder', { folder: inside, reason: 'it is for something else' });
    // A folder whose name begins with a dot is a program's own.
    if (nameProblem(inside) !== null || inside.startsWith('.'))
      throw new ArkivError('handoff.folder', { folder: inside, reason: 'some drives cannot have this name' });
    const { rules } = await this.settings.all();
    const frames = await this.frames.select(shootId, rules.keeper);
    // Nothing is put into an adopted folder.
    const homeOf = (frame: Frame) => (shoot.keptIn === null ? frame.folder : shoot.workFolder!);
    const selects = (frame: Frame, name: string) => `${homeOf(frame)}/${inside}/${name}`;
    const frameOf = new Map(frames.map((f) => [f.id, f]));
    // Frames of several cards' or bodies' folders come together here.
    const all = await this.frames.ofShoot(shootId);
    const names = namesTogether(all.map((frame) => ({ ...frame, folder: homeOf(frame) })));
    const originals = (await this.frames.originals(frames.map((f) => f.id))).map((asset): Planned => {
      const frame = frameOf.get(asset.frameId!)!;
      const ending = path.posix.basename(asset.at).slice(frame.name.length);
      const { id: assetId, role, size, sha256, at: from } = asset;
      const to = selects(frame, `${names.get(frame.id)!}${ending}`);
      return { frameId: frame.id, assetId, role, size, sha256, from, to };
    });
    const sidecars = frames.map((frame): Planned => ({
      ...{ frameId: frame.id, assetId: null, role: 'sidecar', size: SIDECAR_BYTES, sha256: null },
      from: sidecarOf(frame.place, frame.name),
      to: sidecarOf(`${homeOf(frame)}/${inside}`, names.get(frame.id)!),
    }));
    return {
      items: [...originals, ...sidecars],
      folders: [...new Set(frames.map((f) => `${homeOf(f)}/${inside}`))],
      frames: frames.length,
      inside,
    };
  }
}

const bytesOf = (items: readonly { size: number }[]): number =>
  items.reduce((sum, { size }) => sum + size, 0);
