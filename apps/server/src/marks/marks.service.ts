import { Injectable } from '@nestjs/common';
import {
  albumOfKind,
  applyMark,
  ArkivError,
  isMarkValue,
  markOf,
  marksIn,
  pileOfKind,
  tiedMark,
  UNMARKED,
  type MarkOperation,
  type Marks,
  type Stage,
} from '@arkiv/core';
import { In, type EntityManager } from 'typeorm';
import { Reading, UnitOfWork } from '../db/unitOfWork';
import { Happenings } from '../events/domainEvents';
import { Frame } from '../frames/frame.entity';
import { DueTexts } from '../frames/dueTexts.service';
import { FrameStore } from '../frames/frameStore';
import { Journal } from '../journal/journal';
import { SettingsService } from '../settings/settings.service';
import { grouped } from '../system/grouped';
import { Ids } from '../system/ids';
import { AlbumStore } from './albumStore';
import { PileStore } from './pileStore';
import { Shoot } from '../shoots/shoot.entity';
import { ShootsService } from '../shoots/shoots.service';

export interface AppliedMarks {
  /** operations that are now in the journal, those sent twice included */
  applied: number;
  /** frames that do not exist any more */
  unknown: string[];
}

export type FrameNow = Pick<Frame, 'id' | 'shootId' | keyof Marks>;

/**
 * Frames and operations in one transaction: under 20 milliseconds of the writer on two cores. Many operations on one frame cost little
 * more than one: its row is written once.
 */
const [FRAMES, OPERATIONS] = [50, 1000];

/** Sidecars know nothing of piles and albums. */
export const isSaidInSidecars = (kind: string): boolean =>
  pileOfKind(kind) === null && albumOfKind(kind) === null;

@Injectable()
export class MarksService {
  constructor(
    private readonly work: UnitOfWork,
    private readonly reading: Reading,
    private readonly journal: Journal,
    private readonly texts: DueTexts,
    private readonly store: FrameStore,
    private readonly shoots: ShootsService,
    private readonly piles: PileStore,
    private readonly albums: AlbumStore,
    private readonly settings: SettingsService,
    private readonly ids: Ids,
    private readonly happenings: Happenings,
  ) {}

  /**
   * Applies operations in their order to the frames and to the journal. An operation that is in the journal already
   * changes nothing, so a window may send what it is not sure of again. A selection of thousands goes in parts under its
   * one group, so that other windows' marks get their turn; what a stop cut off is in the browser's queue and comes again.
   * Where the studio ties a label to a stage, the one brings the other in the same step.
   */
  async apply(operations: readonly MarkOperation[]): Promise<AppliedMarks> {
    for (const operation of operations) {
      if (!isMarkValue(operation.kind, operation.to)) {
        throw new ArkivError('marks.invalid', {
          reason: `${operation.kind} cannot be ${JSON.stringify(operation.to)}`,
        });
      }
    }
    const unknown: string[] = [];
    const mayTie = operations.some(({ kind }) => kind === 'stage' || kind === 'label');
    const stages = mayTie ? (await this.settings.all()).stages : [];
    for (const part of partsOf(operations))
      await this.work.write((manager) => this.applyPart(manager, part, stages, unknown));
    return { applied: operations.length - unknown.length, unknown };
  }

  private async applyPart(
    manager: EntityManager,
    operations: readonly MarkOperation[],
    stages: readonly Stage[],
    unknown: string[],
  ): Promise<void> {
    const gone: string[] = [];
    const sent = await this.journal.known(
      manager,
      operations.map((o) => o.id),
    );
    const frames = new Map(
      (await manager.findBy(Frame, { id: In([...new Set(operations.map((o) => o.subject))]) })).map((f) => [
        f.id,
        f,
      ]),
    );
    const before = new Map([...frames].map(([id, frame]) => [id, { ...frame }]));
    const done: MarkOperation[] = [];
    const entries: Parameters<Journal['append']>[1][number][] = [];
    for (const operation of operations) {
      if (sent.has(operation.id)) continue;
      sent.add(operation.id);
      const frame = frames.get(operation.subject);
      if (!frame) {
        gone.push(operation.subject);
        continue;
      }
      const { shootId } = frame;
      const apply = (its: MarkOperation): void => {
        const { kind, from, at } = its;
        const marks = marksIn(frame);
        entries.push({ operation: its, shootId, overtook: markOf(marks, kind) !== from });
        const markedAt = isSaidInSidecars(kind) ? at : frame.markedAt;
        Object.assign(frame, applyMark(marks, its), { markedAt });
        done.push(its);
      };
      apply(operation);
      const tied = tiedMark(operation, frame, stages);
      if (tied) apply({ ...operation, ...tied, id: this.ids.newId(), from: frame[tied.kind] });
    }
    await this.journal.append(manager, entries);
    const changed = [...new Set(done.map((o) => o.subject))].map((id) => ({
      was: before.get(id)!,
      is: frames.get(id)!,
    }));
    const said = new Set(done.filter(({ kind }) => isSaidInSidecars(kind)).map((o) => o.subject));
    const marked = changed.filter(({ is }) => said.has(is.id));
    if (marked.length > 0)
      await this.store.mark(
        manager,
        marked.map(({ was, is }) => {
          const { piles: _, albums: __, ...marks } = marksIn(is);
          return { was, change: { ...marks, markedAt: is.markedAt } };
        }),
      );
    await this.store.putIn(
      manager,
      changed.flatMap(({ was, is }) => (is.piles !== was.piles || is.albums !== was.albums ? is : [])),
    );
    await this.piles.changed(manager, done);
    await this.albums.changed(manager, done);
    for (const [shootId, its] of grouped(done, (o) => frames.get(o.subject)!.shootId)) {
      const revision = await this.shoots.touch(manager, shootId);
      const { frames: n, keepers, rejects } = await manager.findOneByOrFail(Shoot, { id: shootId });
      const counts = { frames: n, keepers, rejects };
      this.happenings.after(manager, 'marks', { shootId, revision, counts, operations: its });
      await this.texts.oweOfShoot(manager, 'history', shootId);
    }
    unknown.push(...gone);
  }

  /** The marks of frames, in whatever shoot they are; those that do not exist are left out. */
  now(frameIds: readonly string[]): Promise<FrameNow[]> {
    return this.reading.source.query(
      `SELECT ${['id', 'shootId', ...Object.keys(UNMARKED)].map((fact) => `"${fact}"`).join(', ')} FROM frame
       WHERE id IN (SELECT value FROM json_each(?))`,
      [JSON.stringify(frameIds)],
    );
  }
}

/** In parts that may each be a transaction, in their order: the journal tells what was decided last. */
function* partsOf(operations: readonly MarkOperation[]): Generator<MarkOperation[]> {
  let part: MarkOperation[] = [];
  let frames = new Set<string>();
  for (const operation of operations) {
    const isMore = !frames.has(operation.subject);
    if (part.length === OPERATIONS || (isMore && frames.size === FRAMES)) {
      yield part;
      part = [];
      frames = new Set();
    }
    part.push(operation);
    frames.add(operation.subject);
  }
  if (part.length > 0) yield part;
}
