import { Injectable } from '@nestjs/common';
import type { MatchedBy } from '@arkiv/core';
import { In, type EntityManager } from 'typeorm';
import { Reading } from '../db/unitOfWork';
import { Happenings } from '../events/domainEvents';
import type { NewAsset } from '../frames/frameStore';
import { TAKEN } from '../frames/frameColumns';
import { FrameStore } from '../frames/frameStore';
import { ShootsService } from '../shoots/shoots.service';
import { Returned, ReturnedOriginal, ReturnFolder } from './returned.entity';

/** An edit's original, as it is listed. */
export interface OriginalOf {
  assetId: string;
  id: string;
  name: string;
  /** key of the picture that shows it */
  picture: string | null;
  width: number | null;
  height: number | null;
  /** Exif orientation 1…8 */
  orientation: number;
}

/** The only writer of what came back from editing. Each method that writes belongs in the caller's transaction. */
@Injectable()
export class ReturnStore {
  constructor(
    private readonly reading: Reading,
    private readonly frames: FrameStore,
    private readonly shoots: ShootsService,
    private readonly happenings: Happenings,
  ) {}

  /** A file came back; of what, is not known yet. Returns its id. */
  async add(
    manager: EntityManager,
    file: Omit<NewAsset, 'frameId' | 'role' | 'cardPath'>,
    it: Pick<Returned, 'name' | 'at' | 'width' | 'height'>,
  ): Promise<string> {
    const { id } = await this.frames.addAsset(manager, {
      ...file,
      frameId: null,
      role: 'edit',
      cardPath: '',
    });
    const { shootId } = file;
    const unknown = { state: 'unknown' as const, by: null, among: [], second: 0 };
    await manager.upsert(Returned, { assetId: id, shootId, ...it, ...unknown }, ['assetId']);
    this.happenings.after(manager, 'returns', { shootId });
    return id;
  }

  /** Nobody can tell but somebody who looks. */
  async ask(
    manager: EntityManager,
    { assetId, shootId }: Pick<Returned, 'assetId' | 'shootId'>,
    by: MatchedBy,
    among: string[],
  ): Promise<void> {
    await manager.update(Returned, { assetId }, { state: 'asks', by, among });
    this.happenings.after(manager, 'returns', { shootId });
  }

  /** What it was made from is known; it shows its frame from now on, where it is of one alone. None: it is of none that are here. */
  async match(
    manager: EntityManager,
    { assetId, shootId }: Pick<Returned, 'assetId' | 'shootId'>,
    by: MatchedBy,
    frameIds: readonly string[],
  ): Promise<void> {
    const before = (await manager.findBy(ReturnedOriginal, { assetId })).map(({ frameId }) => frameId);
    await manager.delete(ReturnedOriginal, { assetId });
    const earlier = await this.here(manager, frameIds);
    await manager.insert(
      ReturnedOriginal,
      frameIds.map((frameId) => ({ assetId, frameId })),
    );
    const [only, ...others] = frameIds;
    const state = only === undefined ? ('aside' as const) : ('matched' as const);
    await manager.update(Returned, { assetId }, { state, by, among: [], second: earlier.length > 0 ? 1 : 0 });
    await this.frames.belongs(manager, assetId, only !== undefined && others.length === 0 ? only : null);
    const touched = [...new Set([...before, ...frameIds])];
    for (const frameId of touched) await this.showNewest(manager, frameId);
    await this.tell(manager, shootId, touched);
  }

  /** Another was saved in its place, and nobody has it any more. */
  async over(
    manager: EntityManager,
    { assetId, shootId }: Pick<Returned, 'assetId' | 'shootId'>,
  ): Promise<void> {
    const frameIds = (await manager.findBy(ReturnedOriginal, { assetId })).map(({ frameId }) => frameId);
    await manager.update(Returned, { assetId }, { state: 'over' });
    await this.frames.gone(manager, assetId);
    for (const frameId of frameIds) await this.showNewest(manager, frameId);
    await this.tell(manager, shootId, frameIds);
  }

  /** What frames took along into another shoot is listed there. */
  async follow(manager: EntityManager): Promise<void> {
    const moved: { assetId: string; was: string; is: string }[] = await manager.query(
      `SELECT r."assetId", r."shootId" AS was, a."shootId" AS "is" FROM returned r JOIN asset a ON a.id = r."assetId"
       WHERE a."shootId" <> r."shootId"`,
    );
    for (const { assetId, is } of moved) await manager.update(Returned, { assetId }, { shootId: is });
    for (const shootId of new Set(moved.flatMap(({ was, is }) => [was, is])))
      this.happenings.after(manager, 'returns', { shootId });
  }

  /** The newest edit of a frame alone shows it; where there is none, the camera's picture does. */
  private async showNewest(manager: EntityManager, frameId: string): Promise<void> {
    const edits = await this.here(manager, [frameId]);
    await this.frames.setEdited(manager, frameId, edits.length > 0);
    const own = edits.filter(({ frameId: of }) => of === frameId).at(-1);
    await this.frames.setDisplay(manager, frameId, own?.assetId ?? null);
  }

  /** Edits of frames whose files are here, the oldest first; `frameId`: the one frame that it is of, or null. */
  private here(
    manager: EntityManager,
    frameIds: readonly string[],
  ): Promise<{ assetId: string; frameId: string | null }[]> {
    return manager.query(
      `SELECT DISTINCT r."assetId", a."frameId", r.at FROM returned_original o
       JOIN returned r ON r."assetId" = o."assetId" AND r.state = 'matched'
       JOIN asset a ON a.id = o."assetId"
       WHERE o."frameId" IN (SELECT value FROM json_each(?)) ORDER BY r.at, r."assetId"`,
      [JSON.stringify(frameIds)],
    );
  }

  private async tell(manager: EntityManager, shootId: string, ids: readonly string[]): Promise<void> {
    this.happenings.after(manager, 'returns', { shootId });
    const rows: { shootId: string; id: string }[] = await manager.query(
      `SELECT "shootId", id FROM frame WHERE id IN (SELECT value FROM json_each(?))`,
      [JSON.stringify(ids)],
    );
    for (const of of new Set(rows.map((row) => row.shootId))) {
      const revision = await this.shoots.touch(manager, of);
      const changed = rows.filter((row) => row.shootId === of).map(({ id }) => id);
      this.happenings.after(manager, 'frames', { shootId: of, revision, ids: changed });
    }
  }

  /** What came back to a shoot, the newest first. */
  ofShoot(shootId: string): Promise<Returned[]> {
    return this.reading.manager.find(Returned, {
      where: { shootId },
      order: { at: 'DESC', assetId: 'DESC' },
    });
  }

  /** Null: it never came back. */
  one(assetId: string): Promise<Returned | null> {
    return this.reading.manager.findOneBy(Returned, { assetId });
  }

  some(assetIds: readonly string[]): Promise<Returned[]> {
    return this.reading.manager.findBy(Returned, { assetId: In([...assetIds]) });
  }

  /** What edits were made from. */
  originals(assetIds: readonly string[]): Promise<OriginalOf[]> {
    return this.named(
      `SELECT o."assetId", f.id, f.name, ${TAKEN} AS picture, f.width, f.height, f.orientation FROM returned_original o
       JOIN frame f ON f.id = o."frameId" WHERE o."assetId" IN (SELECT value FROM json_each(?)) ORDER BY f.instant, f.name`,
      assetIds,
    );
  }

  /** Frames by their ids, in their order, as originals of nothing yet. */
  async candidates(frameIds: readonly string[]): Promise<OriginalOf[]> {
    const rows = await this.named(
      `SELECT '' AS "assetId", f.id, f.name, ${TAKEN} AS picture, f.width, f.height, f.orientation FROM frame_here f
       WHERE f.id IN (SELECT value FROM json_each(?))`,
      frameIds,
    );
    const byId = new Map(rows.map((row) => [row.id, row]));
    return frameIds.flatMap((id) => byId.get(id) ?? []);
  }

  /** Edits of a frame, the newest first, those of several frames too. */
  async editsOf(frameId: string): Promise<Returned[]> {
    const rows = await this.reading.manager.findBy(ReturnedOriginal, { frameId });
    const edits = await this.some(rows.map(({ assetId }) => assetId));
    return edits.sort((a, b) => b.at - a.at || (a.assetId < b.assetId ? 1 : -1));
  }

  folders(shootId: string): Promise<ReturnFolder[]> {
    return this.reading.manager.find(ReturnFolder, {
      where: { shootId },
      order: { volumeId: 'ASC', path: 'ASC' },
    });
  }

  async setFolders(
    manager: EntityManager,
    shootId: string,
    folders: readonly Omit<ReturnFolder, 'shootId'>[],
  ): Promise<void> {
    await manager.delete(ReturnFolder, { shootId });
    await manager.insert(
      ReturnFolder,
      folders.map((folder) => ({ shootId, ...folder })),
    );
    this.happenings.after(manager, 'returns', { shootId });
  }

  private named(sql: string, ids: readonly string[]): Promise<OriginalOf[]> {
    return this.reading.source.query(sql, [JSON.stringify(ids)]);
  }
}
