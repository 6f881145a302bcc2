import { Injectable } from '@nestjs/common';
import { ArkivError, pileOfKind, type MarkOperation } from '@arkiv/core';
import type { EntityManager } from 'typeorm';
import { LongReading } from '../db/longReading';
import { Reading, UnitOfWork } from '../db/unitOfWork';
import { Happenings } from '../events/domainEvents';
import { Ids } from '../system/ids';
import { Pile } from './pile.entity';

export interface ShownPile extends Pick<Pile, 'id' | 'name' | 'number'> {
  /** over all shoots */
  frames: number;
}

const DIGITS = [1, 2, 3, 4, 5, 6, 7, 8, 9];

/** The piles themselves. Frames are put into them and taken out by marks. */
@Injectable()
export class PileStore {
  constructor(
    private readonly reading: Reading,
    private readonly long: LongReading,
    private readonly work: UnitOfWork,
    private readonly ids: Ids,
    private readonly happenings: Happenings,
  ) {}

  /** Those that are offered: the numbered ones first, then by name. */
  async list(): Promise<ShownPile[]> {
    const piles = await this.reading.manager.findBy(Pile, { removed: false });
    const counted = await this.long.rows<{ id: string; frames: number }>(
      `SELECT p.id, COUNT(*) AS frames FROM pile p JOIN frame f ON instr(f.piles, p.id) > 0
       WHERE f.piles <> '' AND f.state = 'here' AND NOT p.removed GROUP BY p.id`,
      [],
    );
    const frames = new Map(counted.map((row) => [row.id, row.frames]));
    const byName = new Intl.Collator('en', { numeric: true, sensitivity: 'base' });
    return piles
      .map(({ id, name, number }) => ({ id, name, number, frames: frames.get(id) ?? 0 }))
      .sort((a, b) => (a.number ?? 10) - (b.number ?? 10) || byName.compare(a.name, b.name));
  }

  async get(id: string): Promise<Pile> {
    const pile = await this.reading.manager.findOneBy(Pile, { id });
    if (!pile) throw new ArkivError('not-found', { what: 'pile', id });
    return pile;
  }

  /** A new one, under the first digit that is free. Names tell piles apart, so each is there once. */
  create(name: string): Promise<Pile> {
    return this.change(async (manager) => {
      await this.free(manager, name, null);
      const taken = new Set((await manager.findBy(Pile, { removed: false })).map(({ number }) => number));
      const number = DIGITS.find((digit) => !taken.has(digit)) ?? null;
      const pile: Pile = { id: this.ids.newId(), name, number, removed: false };
      await manager.insert(Pile, pile);
      return pile;
    });
  }

  rename(id: string, name: string): Promise<Pile> {
    return this.change(async (manager) => {
      const pile = await this.get(id);
      await this.free(manager, name, id);
      await manager.update(Pile, { id }, { name });
      return { ...pile, name };
    });
  }

  /** It is offered no more. Frames are taken out of it before. */
  async remove(id: string): Promise<void> {
    await this.get(id);
    await this.change((manager) => manager.update(Pile, { id }, { removed: true, number: null }));
  }

  /** Frames were put into piles or taken out; one that was removed is there again. Within the caller's transaction. */
  async changed(manager: EntityManager, operations: readonly MarkOperation[]): Promise<void> {
    const changes = operations.flatMap(({ kind, to }) => {
      const id = pileOfKind(kind);
      return id === null ? [] : [{ id, into: to === true }];
    });
    if (changes.length === 0) return;
    this.happenings.after(manager, 'piles', {});
    const used = [...new Set(changes.filter(({ into }) => into).map(({ id }) => id))];
    const known = await manager.query<{ id: string; removed: number }[]>(
      `SELECT id, removed FROM pile WHERE id IN (SELECT value FROM json_each(?))`,
      [JSON.stringify(used)],
    );
    for (const id of used)
      if (!known.some((pile) => pile.id === id)) throw new ArkivError('not-found', { what: 'pile', id });
    for (const { id, removed } of known) if (removed) await manager.update(Pile, { id }, { removed: false });
  }

  private change<T>(work: (manager: EntityManager) => Promise<T>): Promise<T> {
    return this.work.write(async (manager) => {
      const made = await work(manager);
      this.happenings.after(manager, 'piles', {});
      return made;
    });
  }

  private async free(manager: EntityManager, name: string, id: string | null): Promise<void> {
    const same = (one: Pile) => one.id !== id && one.name.toLowerCase() === name.toLowerCase();
    if ((await manager.findBy(Pile, { removed: false })).some(same))
      throw new ArkivError('pile.exists', { pile: name });
  }
}
