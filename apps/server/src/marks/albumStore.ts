import { Injectable } from '@nestjs/common';
import { albumOfKind, AlbumTree, ArkivError, placesBetween, type MarkOperation } from '@arkiv/core';
import type { EntityManager } from 'typeorm';
import { Reading, UnitOfWork } from '../db/unitOfWork';
import { Happenings } from '../events/domainEvents';
import { Ids } from '../system/ids';
import { AlbumRow } from './album.entity';

export interface NewAlbum {
  name: string;
  /** id of the album that it is to stand in; null: in none */
  parent: string | null;
  rule: string | null;
}

/** What changes of an album; what is missing stays. */
export interface AlbumChange {
  name?: string;
  parent?: string | null;
  /** id of the album before which it is to stand; null: at the end of its parent */
  before?: string | null;
  rule?: string | null;
  lead?: string | null;
  removed?: boolean;
}

const REASONS = {
  itself: 'it would stand in itself',
  'too-deep': 'albums would stand too deep in each other',
};

/** The albums themselves. Frames are put into them, moved in them and taken out by marks. */
@Injectable()
export class AlbumStore {
  constructor(
    private readonly reading: Reading,
    private readonly work: UnitOfWork,
    private readonly ids: Ids,
    private readonly happenings: Happenings,
  ) {}

  /** All of them, those that were taken away too. */
  all(): Promise<AlbumRow[]> {
    return this.reading.manager.find(AlbumRow);
  }

  /** Those that are there. */
  async tree(): Promise<AlbumTree<AlbumRow>> {
    return new AlbumTree(await this.reading.manager.findBy(AlbumRow, { removed: false }));
  }

  async get(id: string): Promise<AlbumRow> {
    const album = await this.reading.manager.findOneBy(AlbumRow, { id });
    if (!album) throw new ArkivError('not-found', { what: 'album', id });
    return album;
  }

  /** A new one, behind those that stand beside it. */
  create({ name, parent, rule }: NewAlbum): Promise<AlbumRow> {
    return this.change(async (manager) => {
      const tree = await treeOf(manager);
      const id = this.ids.newId();
      if (parent !== null && !tree.get(parent))
        throw new ArkivError('not-found', { what: 'album', id: parent });
      this.refuse(tree, { id, name, parent });
      const [place] = placesBetween(tree.children(parent).at(-1)?.place ?? null, null, 1);
      const album: AlbumRow = { id, name, parent, place: place!, rule, lead: null, removed: false };
      await manager.insert(AlbumRow, album);
      return album;
    });
  }

  update(id: string, asked: AlbumChange): Promise<AlbumRow> {
    return this.change(async (manager) => {
      const row = await manager.findOneBy(AlbumRow, { id });
      if (!row) throw new ArkivError('not-found', { what: 'album', id });
      const tree = await treeOf(manager);
      const { before, ...plain } = asked;
      const changed = { ...row, ...plain };
      // What stood in an album that is away itself comes back beside the others.
      if (changed.parent !== null && !tree.get(changed.parent)) {
        if (asked.parent) throw new ArkivError('not-found', { what: 'album', id: asked.parent });
        if (asked.removed === false) changed.parent = null;
      }
      if (!changed.removed) this.refuse(tree, changed);
      if (before !== undefined || changed.parent !== row.parent)
        changed.place = placeBefore(tree, changed, before ?? null);
      await manager.update(AlbumRow, { id }, changed);
      return changed;
    });
  }

  /** Frames were put into albums or taken out. Within the caller's transaction. */
  async changed(manager: EntityManager, operations: readonly MarkOperation[]): Promise<void> {
    const into = new Map<string, boolean>();
    for (const { kind, to } of operations) {
      const id = albumOfKind(kind);
      if (id !== null) into.set(id, (into.get(id) ?? false) || to !== null);
    }
    if (into.size === 0) return;
    this.happenings.after(manager, 'albums', {});
    const known: Pick<AlbumRow, 'id' | 'name' | 'rule'>[] = await manager.query(
      `SELECT id, name, rule FROM album WHERE id IN (SELECT value FROM json_each(?))`,
      [JSON.stringify([...into.keys()])],
    );
    for (const [id, puts] of into) {
      const album = known.find((one) => one.id === id);
      if (!album) throw new ArkivError('not-found', { what: 'album', id });
      if (puts && album.rule !== null) throw new ArkivError('album.rule', { album: album.name });
    }
  }

  private change<T>(work: (manager: EntityManager) => Promise<T>): Promise<T> {
    return this.work.write(async (manager) => {
      const made = await work(manager);
      this.happenings.after(manager, 'albums', {});
      return made;
    });
  }

  private refuse(tree: AlbumTree, { id, name, parent }: Pick<AlbumRow, 'id' | 'name' | 'parent'>): void {
    const same = (one: { id: string; name: string }) =>
      one.id !== id && one.name.toLowerCase() === name.toLowerCase();
    if (tree.children(parent).some(same)) throw new ArkivError('album.exists', { album: name });
    const problem = tree.problemOf(id, parent);
    if (problem) throw new ArkivError('album.within', { album: name, reason: REASONS[problem] });
  }
}

const treeOf = async (manager: EntityManager): Promise<AlbumTree> =>
  new AlbumTree(await manager.findBy(AlbumRow, { removed: false }));

function placeBefore(tree: AlbumTree, { id, parent }: AlbumRow, before: string | null): string {
  const beside = tree.children(parent).filter((one) => one.id !== id);
  const at = before === null ? beside.length : beside.findIndex((one) => one.id === before);
  if (at < 0) throw new ArkivError('not-found', { what: 'album', id: before! });
  return placesBetween(beside[at - 1]?.place ?? null, beside[at]?.place ?? null, 1)[0]!;
}
