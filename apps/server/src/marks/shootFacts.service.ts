import { Injectable } from '@nestjs/common';
import {
  ArkivError,
  isShootFact,
  SHOOT_FACTS,
  shootFactOf,
  shootOperations,
  type ShootFacts,
  type ShootOperation,
} from '@arkiv/core';
import type { EntityManager } from 'typeorm';
import { UnitOfWork } from '../db/unitOfWork';
import { Happenings } from '../events/domainEvents';
import { DueTexts } from '../frames/dueTexts.service';
import { Journal } from '../journal/journal';
import { Shoot } from '../shoots/shoot.entity';
import { ShootsService } from '../shoots/shoots.service';
import { Clock } from '../system/clock';
import { Ids } from '../system/ids';

/** What was made by the server for a window that asked. */
const WINDOW = 'server';

/** What is said of shoots as a whole: title, client and place, decided as marks are, in the one journal. */
@Injectable()
export class ShootFactsService {
  constructor(
    private readonly work: UnitOfWork,
    private readonly journal: Journal,
    private readonly texts: DueTexts,
    private readonly shoots: ShootsService,
    private readonly clock: Clock,
    private readonly ids: Ids,
    private readonly happenings: Happenings,
  ) {}

  /** Says something of a shoot otherwise; nothing is written down where it is said so already. */
  async change(shootId: string, facts: Partial<ShootFacts>): Promise<void> {
    for (const fact of SHOOT_FACTS)
      if (facts[fact] !== undefined && !isShootFact(fact, facts[fact]))
        throw new ArkivError('request.invalid', { reason: `${fact} cannot be “${facts[fact]}”` });
    const stamp = { newId: () => this.ids.newId(), at: this.clock.now(), window: WINDOW };
    await this.apply(shootOperations(shootId, await this.shoots.get(shootId), facts, stamp));
  }

  /** Applies operations in their order; those that are in the journal already, or of no shoot that is here, change nothing. */
  async apply(operations: readonly ShootOperation[]): Promise<void> {
    if (operations.length === 0) return;
    await this.work.write((manager) => this.applyIn(manager, operations));
  }

  private async applyIn(manager: EntityManager, operations: readonly ShootOperation[]): Promise<void> {
    const sent = await this.journal.known(
      manager,
      operations.map(({ id }) => id),
    );
    for (const operation of operations) {
      const { id, kind, subject: shootId, from, to } = operation;
      const fact = shootFactOf(kind);
      const shoot = await manager.findOneBy(Shoot, { id: shootId });
      if (sent.has(id) || !shoot || fact === null || !isShootFact(fact, to)) continue;
      await this.journal.append(manager, [{ operation, shootId, overtook: shoot[fact] !== from }]);
      await manager.update(Shoot, { id: shootId }, { [fact]: to });
      await this.shoots.touch(manager, shootId);
      for (const text of ['shoot', 'history'] as const) await this.texts.oweOfShoot(manager, text, shootId);
      this.happenings.after(manager, 'shoots', { shootId });
    }
  }
}
