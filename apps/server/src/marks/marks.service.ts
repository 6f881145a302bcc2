import { Injectable } from '@nestjs/common';
import { applyMark, ArkivError, isMarkValue, type MarkOperation } from '@arkiv/core';
import { In } from 'typeorm';
import { Reading, UnitOfWork } from '../db/unitOfWork';
import { EventsService } from '../events/events.service';
import { Frame } from '../frames/frame.entity';
import { ShootsService } from '../shoots/shoots.service';
import { Mark } from './mark.entity';
import { SidecarsService } from './sidecars.service';

export interface AppliedMarks {
  /** operations that are now in the journal, those sent twice included */
  applied: number;
  /** frames that do not exist any more */
  unknown: string[];
}

@Injectable()
export class MarksService {
  constructor(
    private readonly work: UnitOfWork,
    private readonly reading: Reading,
    private readonly shoots: ShootsService,
    private readonly events: EventsService,
    private readonly sidecars: SidecarsService,
  ) {
    sidecars.onOutside((operations) => this.apply(operations));
  }

  /**
   * Applies operations in their order, in one transaction, to the frames and to the journal. An operation that is
   * in the journal already changes nothing, so a window may send what it is not sure of again.
   */
  async apply(operations: readonly MarkOperation[]): Promise<AppliedMarks> {
    for (const operation of operations) {
      if (!isMarkValue(operation.field, operation.to)) {
        throw new ArkivError('marks.invalid', {
          reason: `${operation.field} cannot be ${JSON.stringify(operation.to)}`,
        });
      }
    }
    const unknown: string[] = [];
    const revisions = new Map<string, number>();
    const changed = await this.work.write(async (manager) => {
      const known = await manager.find(Mark, {
        select: { id: true },
        where: { id: In(operations.map((o) => o.id)) },
      });
      const sent = new Set(known.map((m) => m.id));
      const frames = new Map(
        (await manager.findBy(Frame, { id: In([...new Set(operations.map((o) => o.frameId))]) })).map((f) => [
          f.id,
          f,
        ]),
      );
      const done: MarkOperation[] = [];
      for (const operation of operations) {
        if (sent.has(operation.id)) continue;
        sent.add(operation.id);
        const frame = frames.get(operation.frameId);
        if (!frame) {
          unknown.push(operation.frameId);
          continue;
        }
        const { id, frameId, field, from, to, at, group, window } = operation;
        const overtook = frame[field] === from ? 0 : 1;
        await manager.insert(Mark, { id, frameId, field, from, to, at, group, window, overtook } as Mark);
        Object.assign(
          frame,
          applyMark({ verdict: frame.verdict, stars: frame.stars, label: frame.label }, operation),
          { markedAt: at },
        );
        done.push(operation);
      }
      for (const id of new Set(done.map((o) => o.frameId))) {
        const { verdict, stars, label, markedAt, sidecarDue } = frames.get(id)!;
        await manager.update(Frame, { id }, { verdict, stars, label, markedAt, sidecarDue: sidecarDue + 1 });
      }
      for (const shootId of new Set(done.map((o) => frames.get(o.frameId)!.shootId))) {
        revisions.set(shootId, await this.shoots.touch(manager, shootId));
      }
      return done.map((operation) => ({ operation, shootId: frames.get(operation.frameId)!.shootId }));
    });
    for (const [shootId, revision] of revisions) {
      this.events.publish('marks', {
        shootId,
        revision,
        operations: changed.filter((c) => c.shootId === shootId).map((c) => c.operation),
      });
    }
    if (changed.length > 0) this.sidecars.soon();
    return { applied: operations.length - unknown.length, unknown };
  }

  /** The marks of frames, in whatever shoot they are; those that do not exist are left out. */
  now(frameIds: readonly string[]): Promise<Pick<Frame, 'id' | 'shootId' | 'verdict' | 'stars' | 'label'>[]> {
    return this.reading.source.query(
      `SELECT id, "shootId", verdict, stars, label FROM frame WHERE id IN (SELECT value FROM json_each(?))`,
      [JSON.stringify(frameIds)],
    );
  }
}
