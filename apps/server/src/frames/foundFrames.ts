import { Injectable } from '@nestjs/common';
import { frameKind, isShot, pictureOf, usualDetail, VOICE_NOTE, type FileKind } from '@arkiv/core';
import type { EntityManager } from 'typeorm';
import { insertRows } from '../db/insertRows';
import { Happenings } from '../events/domainEvents';
import { Ids } from '../system/ids';
import { keptName, Asset } from './asset.entity';
import { Copy } from './copy.entity';
import { Damage } from './damage.entity';
import { Frame } from './frame.entity';
import { CopyStore } from './copyStore';
import { BY_OTHERS, FrameStore, NEW_FRAME, NOTHING_SEEN, type NewFrame, type NewPlace } from './frameStore';
import { FrameText } from './frameText.entity';
import { ShootCounts } from './shootCounts';
import { TrailStore } from './trailStore';
import { changeVolume } from './volumeCounts';

/** A file as it lies on a drive, not read whole. */
export interface FoundFile extends FileKind {
  /** below the drive */
  at: string;
  /** bytes */
  size: number;
  mtimeMillis: number;
  /** checksum of both its ends with its size */
  ends: string;
}

export interface FoundFrame {
  frame: NewFrame;
  text: FrameText | null;
  files: readonly FoundFile[];
}

/** What a file of a frame is by now: another program wrote it anew. */
export type ChangedFacts = Partial<Omit<Frame, 'id' | 'key' | 'shootId' | 'state'>>;

/**
 * The part of the frame store for files that nobody copied: they were found on a drive, are known by both their ends until they are
 * read whole, and count as proven nowhere before that. Each method belongs in the caller's transaction.
 */
@Injectable()
export class FoundFrames {
  constructor(
    private readonly store: FrameStore,
    private readonly copyStore: CopyStore,
    private readonly counts: ShootCounts,
    private readonly happenings: Happenings,
    private readonly ids: Ids,
    private readonly trail: TrailStore,
  ) {}

  /** Frames of one shoot that are shown at once. `tell`: whether their previews are made without being asked for. */
  async add(
    manager: EntityManager,
    volumeId: string,
    found: readonly FoundFrame[],
    tell: boolean,
  ): Promise<void> {
    if (found.length === 0) return;
    const frames: Partial<Frame>[] = [];
    const assets: Asset[] = [];
    const arrived: { frameId: string; picture: string }[] = [];
    for (const { frame, files } of found) {
      const own = files.map((file) => this.assetOf(file, frame.shootId, frame));
      const shown = pictureOf(own);
      const voice = own.some(({ role }) => role === 'note') ? VOICE_NOTE : null;
      const seen = { ...NOTHING_SEEN, detail: shown && usualDetail(shown), voice };
      const shownBy = shown?.id ?? null;
      frames.push(Object.assign(frame, NEW_FRAME, seen, { state: 'here' as const, shownBy }));
      assets.push(...own);
      if (shown) arrived.push({ frameId: frame.id, picture: shown.picture! });
    }
    await insertRows(manager, Frame, frames);
    await insertRows(
      manager,
      FrameText,
      found.flatMap(({ text }) => text ?? []),
    );
    await insertRows(manager, Asset, assets);
    const times = new Map(
      found.flatMap(({ files }) => files.map(({ at, mtimeMillis }) => [at, mtimeMillis] as const)),
    );
    const places = found.flatMap(({ files }) => files.map(({ at }) => at));
    await insertRows(
      manager,
      Copy,
      assets.map(({ id, size }, i) => copyOf(id, volumeId, size, times.get(places[i]!)!)),
    );
    const { shootId } = found[0]!.frame;
    await this.counted(manager, shootId, volumeId, assets);
    await this.counts.frames(
      manager,
      frames.map((frame) => [null, frame as Frame]),
    );
    if (tell) for (const one of arrived) this.happenings.after(manager, 'arrived', { shootId, ...one });
  }

  /** A file more of a frame that is here: a raw beside its JPEG. */
  async addFile(manager: EntityManager, volumeId: string, frameId: string, file: FoundFile): Promise<void> {
    const frame = await manager.findOneByOrFail(Frame, { id: frameId });
    const asset = this.assetOf(file, frame.shootId, frame);
    await manager.insert(Asset, asset);
    await manager.insert(Copy, copyOf(asset.id, volumeId, asset.size, file.mtimeMillis));
    await this.counted(manager, frame.shootId, volumeId, [asset]);
    if (!frame.chosen) await this.store.judgeShown(manager, frameId);
    const files = await manager.findBy(Asset, { frameId });
    const kind = frameKind(files.filter((one) => isShot(one)));
    await this.store.change(manager, frameId, {
      ...kind,
      ...(file.role === 'note' && { voice: VOICE_NOTE }),
    });
  }

  /** What is known of a frame by its files, where one of them is another by now. */
  async setFacts(manager: EntityManager, frameId: string, facts: ChangedFacts): Promise<void> {
    await this.store.change(manager, frameId, facts);
  }

  /** Another program has written a file anew that nobody else has a copy of: it is what it is now, and is to be read again. */
  async changed(manager: EntityManager, assetId: string, volumeId: string, file: FoundFile): Promise<void> {
    const before = await manager.findOneByOrFail(Asset, { id: assetId });
    const { ends, size } = file;
    await manager.update(Asset, { id: assetId }, { sha256: null, ends, picture: ends, size });
    await this.there(manager, assetId, volumeId, file);
    const reason = 'was written anew by another program.';
    await this.trail.ofCopy(manager, 'changed', { assetId, volumeId }, { reason });
    await changeVolume(manager, volumeId, { bytes: size - before.size });
    await this.copyStore.judge(manager, [assetId]);
    const { frameId } = before;
    if (frameId === null) return;
    // Of another picture nothing is seen yet.
    const frame = await manager.findOneByOrFail(Frame, { id: frameId });
    if (frame.shownBy !== assetId) return;
    await this.store.change(manager, frameId, { ...NOTHING_SEEN, detail: usualDetail(before) });
    const { shootId } = frame;
    this.happenings.after(manager, 'arrived', { shootId, frameId, picture: ends });
  }

  /** A file is where it should be, and as it was by both its ends; `again`: it was missed, and is to be read whole again. */
  async there(
    manager: EntityManager,
    assetId: string,
    volumeId: string,
    { size, mtimeMillis }: Pick<FoundFile, 'size' | 'mtimeMillis'>,
  ): Promise<void> {
    const { affected } = await manager.delete(Damage, { volumeId, assetId });
    const known = await manager.findOneBy(Copy, { assetId, volumeId });
    const seen = { size, mtime: Math.round(mtimeMillis), path: null };
    if (affected) {
      await changeVolume(manager, volumeId, { damaged: -1 });
      await this.trail.ofCopy(manager, 'repaired', { assetId, volumeId }, { reason: 'is there again.' });
    }
    if (known) {
      // Whoever wrote it may have changed what lies between its ends.
      await manager.update(Copy, { assetId, volumeId }, { ...seen, verifiedAt: null });
      await this.copyStore.judge(manager, [assetId]);
      return;
    }
    await manager.insert(Copy, copyOf(assetId, volumeId, size, mtimeMillis));
    const { devices } = await manager.findOneByOrFail(Asset, { id: assetId });
    await changeVolume(manager, volumeId, { files: 1, bytes: size, onlyHere: devices <= 1 ? 1 : 0 });
  }

  /**
   * A frame's files were given other names or another folder on this drive by somebody else. Copies on other drives are where they
   * were; they follow as those of drives do that were away.
   */
  async moved(
    manager: EntityManager,
    frameId: string,
    volumeId: string,
    to: NewPlace,
    files: readonly (Pick<FoundFile, 'at' | 'size' | 'mtimeMillis'> & { assetId: string; from: string })[],
  ): Promise<void> {
    const others: { assetId: string; volumeId: string; path: string }[] = [];
    for (const { assetId, from } of files)
      for (const copy of await manager.findBy(Copy, { assetId }))
        if (copy.volumeId !== volumeId)
          others.push({ assetId, volumeId: copy.volumeId, path: copy.path ?? from });
    await this.store.relocate(
      manager,
      frameId,
      to,
      files.map(({ assetId, at }) => ({ assetId, to: at })),
      BY_OTHERS,
    );
    for (const file of files) await this.there(manager, file.assetId, volumeId, file);
    for (const { assetId, volumeId: other, path } of others)
      await this.copyStore.liesAt(manager, assetId, other, path);
  }

  /** A file was read whole for the first time: this is its checksum from now on. */
  async read(
    manager: EntityManager,
    assetId: string,
    volumeId: string,
    { sha256, ...how }: { sha256: string; verifiedAt: number; pastCache: boolean },
  ): Promise<void> {
    await manager.update(Asset, { id: assetId }, { sha256 });
    await this.copyStore.verified(manager, assetId, volumeId, how);
  }

  private assetOf(
    { role, format, raw, size, ends, at }: FoundFile,
    shootId: string,
    frame: Pick<Frame, 'id' | 'place' | 'name'>,
  ): Asset {
    return {
      ...{ id: this.ids.newId(), shootId, frameId: frame.id, role, format, raw, size },
      ...{ sha256: null, ends, picture: ends, name: keptName(at, frame), cardPath: '', devices: 0 },
    };
  }

  private async counted(
    manager: EntityManager,
    shootId: string,
    volumeId: string,
    assets: readonly Asset[],
  ): Promise<void> {
    const { required } = await this.counts.basis();
    const files = assets.length;
    const bytes = assets.reduce((sum, { size }) => sum + size, 0);
    await manager.query(`INSERT OR IGNORE INTO shoot_volume VALUES (?, ?)`, [shootId, volumeId]);
    await changeVolume(manager, volumeId, { files, bytes, onlyHere: files });
    await this.counts.change(manager, shootId, { files, missingCopies: required > 0 ? files : 0 });
  }
}

const copyOf = (assetId: string, volumeId: string, size: number, mtimeMillis: number): Copy => ({
  ...{ assetId, volumeId, path: null, size, mtime: Math.round(mtimeMillis) },
  ...{ verifiedAt: null, pastCache: false },
});
