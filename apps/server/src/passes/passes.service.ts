import { Injectable } from '@nestjs/common';
import { ArkivError, invertAll, markOf, type MarkOperation, type Marks } from '@arkiv/core';
import { Reading, UnitOfWork } from '../db/unitOfWork';
import { Happenings } from '../events/domainEvents';
import { Journal } from '../journal/journal';
import { MarksService } from '../marks/marks.service';
import { ShootsService } from '../shoots/shoots.service';
import { Clock } from '../system/clock';
import { Ids } from '../system/ids';
import { Pass } from './pass.entity';

/** In the journal, what was made by the server for a window that asked. */
const WINDOW = 'server';
/** All but what is large: lists show numbers. */
const LISTED = [
  ...(['id', 'name', 'total', 'seenCount', 'at', 'kept', 'rejected', 'activeMillis'] as const),
  ...(['begunAt', 'changedAt', 'endedAt', 'undoneAt'] as const),
] as const;

export interface PassProgress extends Pick<
  Pass,
  'seen' | 'seenCount' | 'kept' | 'rejected' | 'activeMillis'
> {
  at?: string | null;
  ended: boolean;
}

/** Passes over shoots. The windows look and count; here it is kept, so that a pass goes on tomorrow and elsewhere. */
@Injectable()
export class PassesService {
  constructor(
    private readonly reading: Reading,
    private readonly work: UnitOfWork,
    private readonly shoots: ShootsService,
    private readonly journal: Journal,
    private readonly marks: MarksService,
    private readonly clock: Clock,
    private readonly ids: Ids,
    private readonly happenings: Happenings,
  ) {}

  /** Those of a shoot, the newest first. */
  list(shootId: string): Promise<Pick<Pass, (typeof LISTED)[number]>[]> {
    return this.reading.manager.find(Pass, {
      where: { shootId },
      select: [...LISTED],
      order: { begunAt: 'DESC', id: 'DESC' },
    });
  }

  async get(id: string): Promise<Pass> {
    const pass = await this.reading.manager.findOneBy(Pass, { id });
    if (!pass) throw new ArkivError('not-found', { what: 'pass', id });
    return pass;
  }

  /** Begins one; sent twice it is one. */
  async begin(shootId: string, { id, name, frames }: Pick<Pass, 'id' | 'name' | 'frames'>): Promise<Pass> {
    await this.shoots.get(shootId);
    const now = this.clock.now();
    return this.work.write(async (manager) => {
      const known = await manager.findOneBy(Pass, { id });
      if (known) return known;
      const pass: Pass = {
        ...{ id, shootId, name, frames, total: frames.length, seen: '', seenCount: 0, at: frames[0]! },
        ...{
          kept: 0,
          rejected: 0,
          activeMillis: 0,
          begunAt: now,
          changedAt: now,
          endedAt: null,
          undoneAt: null,
        },
      };
      await manager.insert(Pass, pass);
      this.happenings.after(manager, 'passes', { shootId });
      return pass;
    });
  }

  async progress(id: string, { ended, at = null, ...its }: PassProgress): Promise<void> {
    const { shootId } = await this.get(id);
    const now = this.clock.now();
    await this.work.write(async (manager) => {
      await manager.update(Pass, { id }, { ...its, at, changedAt: now, endedAt: ended ? now : null });
      this.happenings.after(manager, 'passes', { shootId });
    });
  }

  /** What was decided in it, in order. */
  async decisions(id: string): Promise<MarkOperation[]> {
    await this.get(id);
    return (await this.journal.ofPass(id)) as MarkOperation[];
  }

  /** Takes back all that was decided in it, but what was changed since; as one step, which can be taken back itself. */
  async undo(id: string): Promise<{ marks: number; skipped: number }> {
    const { shootId } = await this.get(id);
    const decided = (await this.journal.ofPass(id)) as MarkOperation[];
    const subjects = [...new Set(decided.map(({ subject }) => subject))];
    const now = new Map((await this.marks.now(subjects)).map((frame) => [frame.id, frame as Marks]));
    const stamp = { newId: () => this.ids.newId(), at: this.clock.now(), window: WINDOW };
    const { operations, skipped } = invertAll(
      decided,
      (subject, kind) => now.has(subject) && markOf(now.get(subject)!, kind),
      stamp,
    );
    await this.marks.apply(operations);
    await this.work.write(async (manager) => {
      await manager.update(Pass, { id }, { undoneAt: this.clock.now() });
      this.happenings.after(manager, 'passes', { shootId });
    });
    return { marks: operations.length, skipped };
  }
}
