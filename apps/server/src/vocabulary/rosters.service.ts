import { Injectable } from '@nestjs/common';
import type { EntityManager } from 'typeorm';
import { Reading, UnitOfWork } from '../db/unitOfWork';
import { Happenings } from '../events/domainEvents';
import { ShootRosters } from './term.entity';
import { VocabularyService } from './vocabulary.service';

/** Which of the vocabulary's numbered lists each shoot uses. */
@Injectable()
export class RostersService {
  constructor(
    private readonly reading: Reading,
    private readonly work: UnitOfWork,
    private readonly vocabulary: VocabularyService,
    private readonly happenings: Happenings,
  ) {}

  /** Ids of the terms that the lists of a shoot stand under; those that are gone are left out. */
  async of(shootId: string): Promise<string[]> {
    const kept = await this.reading.manager.findOneBy(ShootRosters, { shootId });
    const vocabulary = await this.vocabulary.all();
    return (kept?.terms ?? []).filter((id) => vocabulary.get(id) !== null);
  }

  /** After frames came from one shoot into another: their persons are on its lists, which stand behind those that it has. */
  async carry(manager: EntityManager, from: string, into: string): Promise<void> {
    const [its, there] = [
      await manager.findOneBy(ShootRosters, { shootId: from }),
      await manager.findOneBy(ShootRosters, { shootId: into }),
    ];
    const had = there?.terms ?? [];
    const terms = [...new Set([...had, ...(its?.terms ?? [])])];
    if (terms.length === had.length) return;
    await manager.upsert(ShootRosters, { shootId: into, terms }, ['shootId']);
    this.happenings.after(manager, 'vocabulary', {});
  }

  async use(shootId: string, terms: readonly string[]): Promise<void> {
    await this.work.write(async (manager) => {
      await manager.upsert(ShootRosters, { shootId, terms: [...terms] }, ['shootId']);
      this.happenings.after(manager, 'vocabulary', {});
    });
  }
}
