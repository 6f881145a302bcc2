import { Injectable } from '@nestjs/common';
import type { EntityManager } from 'typeorm';
import { insertRows } from '../db/insertRows';
import { Clock } from '../system/clock';
import { Trail } from './trail.entity';

export type NewTrail = Pick<Trail, 'kind' | 'shootId'> &
  Partial<Omit<Trail, 'seq' | 'at' | 'kind' | 'shootId'>>;

/** What became of files, line by line; written in the transaction that changes their rows, and never changed. */
@Injectable()
export class TrailStore {
  constructor(private readonly clock: Clock) {}

  async note(manager: EntityManager, ...lines: readonly NewTrail[]): Promise<void> {
    const none = { frameId: null, volumeId: null, from: null, to: null, reason: null };
    const at = this.clock.now();
    await insertRows(
      manager,
      Trail,
      lines.map((line) => ({ ...none, ...line, at })),
    );
  }
}
