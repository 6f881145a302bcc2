import { Injectable, type OnModuleInit } from '@nestjs/common';
import {
  albumOfKind,
  albumsIn,
  isMarkValue,
  isShootFact,
  isTerm,
  keywordsIn,
  mergedDecisions,
  pileOfKind,
  shootFactOf,
  type ArchiveRecord,
  type BothSides,
  type MarkOperation,
  type Operation,
  type RecordRow,
  type ShootOperation,
  type Term,
  Vocabulary,
} from '@arkiv/core';
import type { EntityManager } from 'typeorm';
import { Reading, UnitOfWork } from '../db/unitOfWork';
import { BinStore } from '../bin/binStore';
import { Disk } from '../disk/disk';
import { Happenings } from '../events/domainEvents';
import { CopyStore } from '../frames/copyStore';
import { Frame } from '../frames/frame.entity';
import { PICTURE } from '../frames/frameColumns';
import { JobItem, type Job } from '../jobs/job.entity';
import type { ItemContext, ItemOutcome, JobHandler } from '../jobs/jobHandler';
import type { Lane } from '../jobs/lanes';
import { JobsService } from '../jobs/jobs.service';
import { Journal, type NumberedOperation } from '../journal/journal';
import { MarksService } from '../marks/marks.service';
import { ShootFactsService } from '../marks/shootFacts.service';
import { TravellingPreviews } from '../previews/travellingPreviews.service';
import { newestHistories, type FoundHistory, type FoundPart } from '../rebuild/foundRecords.service';
import { RebuildSteps } from '../rebuild/rebuildSteps';
import { KINDS, RebuildStore } from '../rebuild/rebuildStore';
import { Shoot, textFolders } from '../shoots/shoot.entity';
import type { ArchiveIdentity } from '../settings/settings.service';
import { VocabularyService } from '../vocabulary/vocabulary.service';
import { Volume } from '../volumes/volume.entity';
import { VolumesService } from '../volumes/volumes.service';
import {
  changedThere,
  withoutKnown,
  type ChangedThere,
  type CopyHere,
  type FrameHere,
  type NamedThere,
  type OutThere,
} from './changedThere';

export interface CarryParams {
  volumeId: string;
  /** the archive that left it there */
  heldBy: ArchiveIdentity;
}

/** What was known here of frames that come, and what became of their files there. */
export interface Before extends ChangedThere {
  known: FrameHere[];
}

/** A shoot that comes, by what says it. `whole`: what is said of the other archive as a whole. */
export interface CarryItem {
  shoot: string;
  parts: FoundPart[];
  histories: FoundHistory[];
  whole: FoundPart[];
  /** what was known here before anything of it was taken in; missing: it was not begun */
  before?: Before;
  /** what it came to, once it is done */
  came?: Came;
}

/** Something that was decided on both sides, as it is shown. */
export interface ShownBoth extends BothSides {
  shootId: string;
  /** the frame's */
  name: string;
}

export interface CarryResult {
  shoots: number;
  frames: number;
  decisions: number;
  /** files that are not where they were */
  missing: number;
  both: ShownBoth[];
  /** frames that were given other names there */
  named: NamedThere[];
  /** frames that were binned or forgotten there, and are here */
  out: OutThere[];
  reason: string | null;
}

/** What a shoot's item came to, until the job is over. */
type Came = Pick<CarryResult, 'frames' | 'decisions' | 'missing' | 'both' | 'named' | 'out'>;

/** Copies noted in one transaction: some milliseconds of the writer. */
const PART = 100;

/** Of what was decided on both sides so much is shown; the history has all of it. */
const MOST_SHOWN = 500;

/**
 * Takes in shoots that another archive left on a drive: rows under their own ids where they are not here, and what was decided there
 * beside what was decided here. No picture is read or moved; missing copies are made as always, with proof.
 */
@Injectable()
export class CarryHandler implements JobHandler, OnModuleInit {
  readonly kind = 'carry';
  /** Two shoots may bring the same album. */
  readonly inFlight = 1;

  constructor(
    private readonly disk: Disk,
    private readonly copies: CopyStore,
    private readonly bins: BinStore,
    private readonly reading: Reading,
    private readonly work: UnitOfWork,
    private readonly jobs: JobsService,
    private readonly volumes: VolumesService,
    private readonly steps: RebuildSteps,
    private readonly store: RebuildStore,
    private readonly journal: Journal,
    private readonly marks: MarksService,
    private readonly facts: ShootFactsService,
    private readonly travelling: TravellingPreviews,
    private readonly vocabulary: VocabularyService,
    private readonly happenings: Happenings,
  ) {}

  onModuleInit(): void {
    this.jobs.register(this);
  }

  lane(): Lane {
    return { bulk: true, way: null, first: true };
  }

  begin(): Promise<void> {
    return Promise.resolve();
  }

  async runItem(job: Job, item: JobItem, context: ItemContext): Promise<ItemOutcome> {
    const { volumeId } = job.params as CarryParams;
    const { shoot, parts, histories, whole } = item.data as CarryItem;
    const problems: string[] = [];
    const records = new Map<string, ArchiveRecord[]>();
    for (const part of parts) {
      const { record, bad } = await this.steps.newest([part]);
      problems.push(...bad);
      const kind = kindOf(part.head.part);
      if (record) records.set(kind, [...(records.get(kind) ?? []), record]);
    }
    const rows = [...records.values()].flatMap((some) => some.flatMap((record) => record.rows));
    const { operations, bad } = await this.operations(histories);
    problems.push(...bad);
    const before = await this.framesOf(shoot);
    // What was known before the first row came: a run that goes on after a kill finds its own rows here.
    const { known, lie, named, out } =
      (item.data as CarryItem).before ??
      (await this.noteBefore(job, item, await this.changedThere(volumeId, rows)));
    const atHome = new Set(
      (await this.volumes.all()).flatMap(({ id, heldBy }) => (id === volumeId || heldBy !== null ? [] : id)),
    );
    const kept = new Set(withoutKnown(rows, known, atHome));
    await this.sets(whole, rows, operations);
    await this.drives(job.params as CarryParams, whole, rows);
    for (const kind of KINDS)
      for (const record of records.get(kind) ?? []) {
        const news = record.rows.filter((row) => kept.has(row));
        problems.push(...(await this.store.keep(kind, news)));
      }
    const newest = Math.min(...(records.get('frames') ?? []).map(({ head }) => head.journal));
    const came = await this.decide(shoot, operations, before === 0 ? newest : 0);
    const frames = (await this.framesOf(shoot)) - before;
    await this.placeThere(volumeId, lie, out);
    // What is not there is said of the drive, as after a look at it; it is no reason to ask for the rest again.
    const missing = (await this.steps.lookForFiles({ do: 'files', shoot, on: [volumeId] })).length;
    await this.steps.ownTexts(parts, () => true, true);
    await this.bringPreviews(volumeId, shoot);
    await this.bringTerms(job.params as CarryParams, whole, shoot);
    context.onBytes(item.size);
    const { before: _, ...asked } = item.data as CarryItem;
    const data = { ...asked, came: { ...came, frames, missing, named, out } };
    const commit = async (manager: EntityManager) =>
      void (await manager.update(JobItem, { jobId: job.id, seq: item.seq }, { data }));
    return problems.length === 0
      ? { state: 'done', commit }
      : { state: 'failed', reason: problems.slice(0, 20).join(' '), commit };
  }

  private async noteBefore(job: Job, item: JobItem, before: Before): Promise<Before> {
    const data: CarryItem = { ...(item.data as CarryItem), before };
    await this.work.write((manager) => manager.update(JobItem, { jobId: job.id, seq: item.seq }, { data }));
    return before;
  }

  /** What became there of files that are known here. */
  private async changedThere(volumeId: string, rows: readonly RecordRow[]): Promise<Before> {
    const ids = rows.flatMap(({ is, row }) => (is === 'frame' ? String(row.id) : []));
    const known: FrameHere[] = await this.reading.source.query(
      `SELECT id, "shootId", name, place, state FROM frame WHERE id IN (SELECT value FROM json_each(?))`,
      [JSON.stringify(ids)],
    );
    const frames = known.map(({ id }) => id);
    const copies = await this.copiesThere(volumeId, frames);
    const isKnown = new Set(frames);
    for (const { assetId, frameId, path, due } of await this.bins.due(volumeId))
      if (due === 'bin' && isKnown.has(frameId)) copies.push({ assetId, at: path, due: true });
    return { known, ...changedThere(rows, volumeId, known, copies) };
  }

  /** Copies on the drive are where they lie by now; what was taken out there is no copy any more, and nobody misses it. */
  private async placeThere(
    volumeId: string,
    lie: readonly CopyHere[],
    out: readonly OutThere[],
  ): Promise<void> {
    const volume = await this.volumes.get(volumeId);
    const found: CopyHere[] = [];
    for (const copy of lie) {
      const facts = await this.disk.facts(await this.volumes.resolve(volume, copy.at));
      if (facts?.kind === 'file') found.push(copy);
    }
    await this.work.inParts(found, PART, async (manager, part) => {
      for (const { assetId, at, due } of part)
        if (due) await this.bins.liesElsewhere(manager, assetId, volumeId, at);
        else await this.copies.liesAt(manager, assetId, volumeId, at);
    });
    const gone: { assetId: string; at: string }[] = [];
    for (const copy of await this.copiesThere(
      volumeId,
      out.map(({ id }) => id),
    ))
      if ((await this.disk.facts(await this.volumes.resolve(volume, copy.at))) === null) gone.push(copy);
    await this.work.inParts(gone, PART, async (manager, part) => {
      for (const { assetId } of part) await this.copies.released(manager, assetId, volumeId);
    });
  }

  private copiesThere(volumeId: string, frameIds: readonly string[]): Promise<CopyHere[]> {
    return this.reading.source.query(
      `SELECT "assetId", "at" FROM copy_at WHERE "volumeId" = ? AND "frameId" IN (SELECT value FROM json_each(?))`,
      [volumeId, JSON.stringify(frameIds)],
    );
  }

  /** What the other vocabulary says of keywords that are not known here. */
  private async bringTerms(
    { heldBy }: CarryParams,
    whole: readonly FoundPart[],
    shootId: string,
  ): Promise<void> {
    const said = (await this.saidOf(whole, 'vocabulary')).filter(
      ({ is, row }) => is === 'term' && isTerm(row),
    );
    if (said.length === 0) return;
    const rows: { keywords: string }[] = await this.reading.source.query(
      `SELECT DISTINCT keywords FROM frame_here WHERE "shootId" = ? AND keywords <> ''`,
      [shootId],
    );
    const keywords = new Set(rows.flatMap((row) => keywordsIn(row.keywords)));
    const theirs = new Vocabulary(said.map(({ row }) => row as unknown as Term));
    await this.vocabulary.bringAlong(theirs, [...keywords], heldBy.name);
  }

  /** What shows frames whose files stayed at home. */
  private async bringPreviews(volumeId: string, shootId: string): Promise<void> {
    const shoot = await this.reading.manager.findOneBy(Shoot, { id: shootId });
    const [folder] = shoot ? textFolders(shoot) : [];
    if (folder === undefined) return;
    const rows: { picture: string | null }[] = await this.reading.source.query(
      `SELECT ${PICTURE} AS picture FROM frame_here f WHERE f."shootId" = ?`,
      [shootId],
    );
    const pictures = new Set(rows.flatMap(({ picture }) => picture ?? []));
    await this.travelling.bring(await this.volumes.get(volumeId), folder, pictures);
  }

  private async framesOf(shoot: string): Promise<number> {
    return this.reading.manager.countBy(Frame, { shootId: shoot });
  }

  /** What was decided there, in its order; nothing, where nobody decided anything. */
  private async operations(
    histories: readonly FoundHistory[],
  ): Promise<{ operations: NumberedOperation[]; bad: string[] }> {
    if (histories.length === 0) return { operations: [], bad: [] };
    const { operations, bad } = await this.steps.operationsIn(newestHistories(histories));
    return { operations: operations.sort((a, b) => a.number - b.number), bad };
  }

  /** Albums and piles that the shoot's frames are in, or were, and that are not known here; with those that they lie in. */
  private async sets(
    whole: readonly FoundPart[],
    rows: readonly RecordRow[],
    operations: readonly Operation[],
  ): Promise<void> {
    const used = new Set(operations.flatMap(({ kind }) => albumOfKind(kind) ?? pileOfKind(kind) ?? []));
    for (const { is, row } of rows) {
      if (is !== 'frame') continue;
      for (const { album } of albumsIn(String(row.albums ?? ''))) used.add(album);
      for (const pile of String(row.piles ?? '').split('+')) used.add(pile);
    }
    const said = await this.saidOf(whole, 'sets');
    const byId = new Map(said.map((row) => [String(row.row.id), row]));
    for (const id of used) {
      const parent = byId.get(id)?.row.parent;
      if (typeof parent === 'string') used.add(parent);
    }
    await this.store.keep(
      'sets',
      said
        .filter(({ row }) => used.has(String(row.id)))
        // A pile's digit may be another one's here: it is chosen by its name then.
        .map((row) => (row.is === 'pile' ? { ...row, row: { ...row.row, number: null } } : row)),
    );
  }

  /** Drives of the other archive that hold anything of it: known as drives that are not here, so that their copies are. */
  private async drives(
    { heldBy }: CarryParams,
    whole: readonly FoundPart[],
    rows: readonly RecordRow[],
  ): Promise<void> {
    const known = new Set((await this.volumes.all()).map(({ id }) => id));
    const named = new Set(rows.flatMap(({ row }) => (typeof row.volumeId === 'string' ? row.volumeId : [])));
    const said = await this.saidOf(whole, 'archive');
    const news = said.filter(
      ({ is, row }) => is === 'volume' && named.has(String(row.id)) && !known.has(String(row.id)),
    );
    await this.store.keep('archive', news);
    // They are the other archive's: nothing is owed to them, and nobody is asked to connect them.
    await this.work.write(async (manager) => {
      for (const { row } of news) await manager.update(Volume, { id: String(row.id) }, { heldBy });
    });
  }

  private async saidOf(whole: readonly FoundPart[], kind: string): Promise<RecordRow[]> {
    const part = whole.find(({ head }) => head.part === kind);
    return part ? ((await this.steps.newest([part])).record?.rows ?? []) : [];
  }

  /** `from`: up to which of their operations the rows say it already. */
  private async decide(
    shootId: string,
    operations: readonly NumberedOperation[],
    from: number,
  ): Promise<Pick<Came, 'decisions' | 'both'>> {
    const known = await this.work.write((manager) =>
      this.journal.known(
        manager,
        operations.map(({ id }) => id),
      ),
    );
    const theirs = operations.filter(({ id }) => !known.has(id));
    const there = new Set(operations.map(({ id }) => id));
    const mine: Operation[] = [];
    for await (const operation of this.journal.walk(shootId))
      if (!there.has(operation.id)) mine.push(operation);
    const { apply, keep, both } = mergedDecisions(theirs, mine);
    const frames = new Map<string, string>();
    for (const { id, name } of await this.names(shootId)) frames.set(id, name);
    const sets = new Set(await this.setsHere());
    const isMark = (operation: NumberedOperation): boolean =>
      operation.number > from &&
      frames.has(operation.subject) &&
      // An album of which nothing is said on the drive cannot be filled: the history knows of it.
      sets.has(albumOfKind(operation.kind) ?? pileOfKind(operation.kind) ?? '') &&
      isMarkValue(operation.kind as MarkOperation['kind'], operation.to);
    const isFact = ({ number, subject, kind, to }: NumberedOperation): boolean => {
      const fact = shootFactOf(kind);
      return number > from && subject === shootId && fact !== null && isShootFact(fact, to);
    };
    await this.store.keepHistory(shootId, [...keep, ...apply.filter((one) => !isMark(one) && !isFact(one))]);
    await this.marks.apply(apply.filter(isMark).map(plain) as MarkOperation[]);
    await this.facts.apply(apply.filter(isFact).map(plain) as ShootOperation[]);
    const title = (await this.reading.manager.findOneBy(Shoot, { id: shootId }))?.title;
    const shown = both.flatMap((one) => {
      const name = one.subject === shootId ? title : frames.get(one.subject);
      return name === undefined ? [] : { ...one, shootId, name };
    });
    return { decisions: theirs.length, both: shown };
  }

  /** Ids of all albums and piles; and of none, which what is no matter of theirs is in. */
  private async setsHere(): Promise<string[]> {
    const rows: { id: string }[] = await this.reading.source.query(
      `SELECT id FROM album UNION ALL SELECT id FROM pile`,
    );
    return ['', ...rows.map(({ id }) => id)];
  }

  private names(shootId: string): Promise<Pick<Frame, 'id' | 'name'>[]> {
    return this.reading.manager.find(Frame, { where: { shootId }, select: { id: true, name: true } });
  }

  async finish(job: Job): Promise<CarryResult> {
    const { volumeId } = job.params as CarryParams;
    const items = await this.reading.manager.findBy(JobItem, { jobId: job.id, state: 'done' });
    const done = items.map((item) => item.data as CarryItem);
    const came = done.flatMap((item) => item.came ?? []);
    await this.store.countDrives();
    await this.steps.takeOver(
      volumeId,
      done.map(({ shoot }) => shoot),
    );
    const failed = await this.reading.manager.countBy(JobItem, { jobId: job.id, state: 'failed' });
    // Of what could not be read nothing is written over: it is asked for again.
    if (failed === 0) await this.volumes.settled(volumeId);
    const shoots = await this.reading.manager.find(Shoot, { select: { id: true, revision: true } });
    for (const { id: shootId, revision } of shoots)
      this.happenings.tell('frames', { shootId, revision, ids: null });
    this.happenings.tell('rebuilt', {});
    for (const changed of ['piles', 'albums', 'bin'] as const) this.happenings.tell(changed, {});
    this.happenings.tell('shoots', { shootId: null });
    await this.volumes.lookAround();
    const sum = (what: 'frames' | 'decisions' | 'missing') => came.reduce((n, one) => n + one[what], 0);
    return {
      ...{ shoots: came.length, frames: sum('frames'), decisions: sum('decisions'), missing: sum('missing') },
      both: came.flatMap((one) => one.both).slice(0, MOST_SHOWN),
      named: came.flatMap((one) => one.named),
      out: came.flatMap((one) => one.out),
      reason: null,
    };
  }
}

/** `frames-12` is of the kind `frames`. */
const kindOf = (part: string): string => part.split('-')[0]!;

/** An operation without its place in the other archive's journal. */
function plain({ number: _, overtook: __, ...operation }: NumberedOperation): Operation {
  return operation;
}
