import { Injectable } from '@nestjs/common';
import {
  EDITED,
  UNMARKED,
  measuredFacts,
  measuresText,
  pictureOf,
  usualDetail,
  VOICE_NOTE,
  type Marks,
  type Measures,
  type Foreign,
  type SidecarModel,
} from '@arkiv/core';
import { In, type EntityManager } from 'typeorm';
import { insertRows } from '../db/insertRows';
import { Happenings } from '../events/domainEvents';
import { Ids } from '../system/ids';
import { DEVICES } from '../volumes/volumes.service';
import { keptName, pictureKey, Asset, type PlacedAsset } from './asset.entity';
import { Copy } from './copy.entity';
import { Damage } from './damage.entity';
import { Frame } from './frame.entity';
import { FrameText } from './frameText.entity';
import { ShootCounts } from './shootCounts';
import { TrailStore } from './trailStore';
import { changeVolume } from './volumeCounts';

export type NewFrame = Omit<
  Frame,
  | 'key'
  | 'state'
  | 'shownBy'
  | 'chosen'
  | 'sidecarDue'
  | 'sign'
  | 'detail'
  | 'sharpness'
  | 'measures'
  | 'advice'
  | 'voice'
  | 'edited'
  | 'derivedFrom'
  | keyof CloseFacts
>;
/** How much a frame looks like the one before it, see {@link Frame}. */
export type CloseFacts = Pick<Frame, 'close' | 'dx' | 'dy' | 'closeTo'>;
export type NewAsset = Pick<
  Asset,
  'shootId' | 'frameId' | 'role' | 'format' | 'raw' | 'sha256' | 'size' | 'cardPath'
> & {
  /** path below the volume */
  at: string;
};

export interface Verified {
  verifiedAt: number;
  pastCache: boolean;
}

export interface Found {
  /** checksum of what lies there; null: nothing, or nothing readable */
  found: string | null;
  reason: string;
  at: number;
  /** how it is told: the drive did not keep it, it is not there, or another program wrote there; missing: the first */
  as?: 'damaged' | 'missing' | 'changed';
}

/** Why a file has another name or folder, where nobody here gave it to it. */
export const BY_OTHERS = 'by another program';

export interface NewPlace {
  shootId: string;
  folder: string;
  place: string;
  name: string;
}

/** What the archive knew of a frame that left it. */
export interface TakenOut {
  frameId: string;
  shootId: string;
  files: PlacedAsset[];
  copies: {
    assetId: string;
    volumeId: string;
    at: string;
    /** null: what lies there is damaged */
    size: number | null;
    verifiedAt: number | null;
    pastCache: boolean;
  }[];
}

/** A file that comes back into the archive, under the id it had. */
export type ReturningFile = Omit<Asset, 'shootId' | 'frameId' | 'name' | 'devices'> & { to: string };

type MarkChange = Partial<Pick<Frame, Exclude<keyof Marks, 'piles' | 'albums'>>> & {
  markedAt: number;
};

const MARK_COLUMNS = (Object.keys(UNMARKED) as (keyof Marks)[]).filter(
  (field): field is Exclude<keyof Marks, 'piles' | 'albums'> => field !== 'piles' && field !== 'albums',
);

/** What is known of a frame before its picture was decoded. */
export const NOTHING_SEEN = { sign: null, detail: null, sharpness: null, measures: null, advice: '' };

/** What every frame begins with. */
export const NEW_FRAME = {
  ...{ shownBy: null, chosen: false, sidecarDue: 0, derivedFrom: null, voice: null, edited: null },
  ...NOTHING_SEEN,
};

/** SQLite takes 32,766 parameters in one statement: 500 frames of 40 stay well below. */
const ROWS = 500;

/**
 * The only writer of frames, their files and the copies of these. Each method belongs in the caller's transaction and
 * keeps the numbers of shoots and volumes in step with the rows it changes.
 */
@Injectable()
export class FrameStore {
  constructor(
    private readonly counts: ShootCounts,
    private readonly happenings: Happenings,
    private readonly ids: Ids,
    private readonly trail: TrailStore,
  ) {}

  /** Frames that are on their way: shown when one of their pictures is proven. */
  async expect(
    manager: EntityManager,
    frames: readonly NewFrame[],
    texts: readonly FrameText[],
  ): Promise<void> {
    const rows = frames.map((frame) => ({ ...NEW_FRAME, ...frame, state: 'arriving' as const }));
    await insertRows(manager, Frame, rows);
    await insertRows(manager, FrameText, texts);
  }

  /**
   * A frame that is a copy of another, under its own name: all that is said and seen of it is said of the copy too, but where it
   * stands among takes, piles and albums. Its files are proven; their copies follow.
   */
  async derive(
    manager: EntityManager,
    from: Frame,
    to: NewPlace & { id: string },
    files: readonly { of: string; at: string; sha256: string; copies: ReadonlyMap<string, Verified> }[],
  ): Promise<void> {
    const copy: Partial<Frame> = {
      ...from,
      ...to,
      // The database gives it one of its own.
      key: undefined,
      ...{ state: 'arriving', shownBy: null, chosen: false, sidecarDue: 0, derivedFrom: from.id },
      ...{ edited: null, take: null, piles: '', albums: '', close: null, dx: null, dy: null, closeTo: null },
    };
    await insertRows(manager, Frame, [copy]);
    const text = await manager.findOneBy(FrameText, { frameId: from.id });
    if (text) await insertRows(manager, FrameText, [{ ...text, frameId: to.id }]);
    let shownBy: Asset | null = null;
    for (const file of files) {
      const { of, at, sha256 } = file;
      const { role, format, raw, size, picture } = await manager.findOneByOrFail(Asset, { id: of });
      const asset = await this.addAsset(manager, {
        ...{ shootId: to.shootId, frameId: to.id, at, cardPath: '' },
        ...{ role, format, raw, size, sha256 },
      });
      if (picture !== null) await manager.update(Asset, { id: asset.id }, { picture });
      for (const [volumeId, how] of file.copies) await this.verified(manager, asset.id, volumeId, how);
      if (of === from.shownBy) shownBy = asset;
    }
    if (from.chosen && shownBy) await this.setDisplay(manager, to.id, shownBy.id);
    const { sign, detail, sharpness, measures, advice } = from;
    await manager.update(Frame, { id: to.id }, { sign, detail, sharpness, measures, advice });
    await this.show(manager, to.id);
  }

  /** Takes frames away that never came. Those that are here stay. */
  async giveUp(manager: EntityManager, frameIds: readonly string[]): Promise<void> {
    for (let at = 0; at < frameIds.length; at += ROWS)
      await manager.delete(Frame, { id: In(frameIds.slice(at, at + ROWS)), state: 'arriving' });
  }

  /** A file that has been proven somewhere; its copies follow. One that is known at this place stays as it is. */
  async addAsset(manager: EntityManager, { at, ...file }: NewAsset): Promise<Asset> {
    const frame = file.frameId === null ? null : await manager.findOneByOrFail(Frame, { id: file.frameId });
    const name = keptName(at, frame);
    const known = await manager.findOneBy(
      Asset,
      frame ? { frameId: frame.id, name } : { shootId: file.shootId, name },
    );
    if (known) return known;
    const asset: Asset = { ...file, id: this.ids.newId(), name, ends: null, picture: null, devices: 0 };
    await manager.insert(Asset, asset);
    const { required } = await this.counts.basis();
    await this.counts.change(manager, asset.shootId, { files: 1, missingCopies: required > 0 ? 1 : 0 });
    if (frame && !frame.chosen) await this.judgeShown(manager, frame.id);
    if (frame && file.role === 'note') await this.change(manager, frame.id, { voice: VOICE_NOTE });
    return asset;
  }

  /** A copy that was read and is good: a new one, or one that was there or was damaged. */
  async verified(manager: EntityManager, assetId: string, volumeId: string, how: Verified): Promise<void> {
    const { affected } = await manager.delete(Damage, { volumeId, assetId });
    if (affected) {
      await changeVolume(manager, volumeId, { damaged: -1 });
      await this.trail.ofCopy(manager, 'repaired', { assetId, volumeId });
    }
    const known = await manager.findOneBy(Copy, { assetId, volumeId });
    const { verifiedAt, pastCache } = how;
    if (known) {
      await manager.update(Copy, { assetId, volumeId }, { verifiedAt, pastCache });
      if (known.verifiedAt === null) await this.judge(manager, [assetId]);
      return;
    }
    const { size, devices, shootId } = await manager.findOneByOrFail(Asset, { id: assetId });
    await manager.insert(Copy, { assetId, volumeId, path: null, size, mtime: null, verifiedAt, pastCache });
    await manager.query(`INSERT OR IGNORE INTO shoot_volume VALUES (?, ?)`, [shootId, volumeId]);
    await changeVolume(manager, volumeId, { files: 1, bytes: size, onlyHere: devices <= 1 ? 1 : 0 });
    await this.judge(manager, [assetId]);
    this.happenings.after(manager, 'copied', { assetId });
  }

  /** A copy that has just been made; one that is known stays as it is, whatever was found of it since. */
  async verifiedOnce(
    manager: EntityManager,
    assetId: string,
    volumeId: string,
    how: Verified,
  ): Promise<void> {
    const known =
      (await manager.existsBy(Copy, { assetId, volumeId })) ||
      (await manager.existsBy(Damage, { assetId, volumeId }));
    if (!known) await this.verified(manager, assetId, volumeId, how);
  }

  /** A copy is not what it should be: it is none until it is found good again. */
  async damaged(manager: EntityManager, assetId: string, volumeId: string, found: Found): Promise<void> {
    const copy = await manager.findOneBy(Copy, { assetId, volumeId });
    const known = await manager.findOneBy(Damage, { assetId, volumeId });
    const path = copy?.path ?? known?.path ?? null;
    const { as = 'damaged', ...its } = found;
    await manager.save(Damage, { volumeId, assetId, path, ...its });
    if (!known) {
      await changeVolume(manager, volumeId, { damaged: 1 });
      await this.trail.ofCopy(manager, as, { assetId, volumeId }, { path, reason: found.reason });
    }
    if (!copy) return;
    const { devices, size } = await manager.findOneByOrFail(Asset, { id: assetId });
    await manager.delete(Copy, { assetId, volumeId });
    await changeVolume(manager, volumeId, { files: -1, bytes: -size, onlyHere: devices <= 1 ? -1 : 0 });
    await this.judge(manager, [assetId]);
    this.happenings.after(manager, 'copied', { assetId });
  }

  /** A copy was taken off its drive, and is missed there by nobody: others are proven. */
  async released(manager: EntityManager, assetId: string, volumeId: string): Promise<void> {
    const copy = await manager.findOneBy(Copy, { assetId, volumeId });
    if (!copy) return;
    await this.trail.ofCopy(manager, 'taken-off', { assetId, volumeId }, copy);
    await manager.delete(Copy, { assetId, volumeId });
    const { devices, size } = await manager.findOneByOrFail(Asset, { id: assetId });
    await changeVolume(manager, volumeId, { files: -1, bytes: -size, onlyHere: devices <= 1 ? -1 : 0 });
    await this.judge(manager, [assetId]);
    this.happenings.after(manager, 'copied', { assetId });
  }

  /** A frame is here: it is shown from now on. False where none of its files can show it yet. */
  async show(manager: EntityManager, frameId: string): Promise<boolean> {
    const frame = await manager.findOneByOrFail(Frame, { id: frameId });
    if (frame.shownBy === null) return false;
    const picture = pictureKey(await manager.findOneByOrFail(Asset, { id: frame.shownBy }));
    const now = { ...frame, state: 'here' as const, sidecarDue: frame.sidecarDue + 1 };
    await manager.update(Frame, { id: frameId }, { state: 'here', sidecarDue: now.sidecarDue });
    await this.counts.frame(manager, frame, now);
    const { shootId } = frame;
    if (picture && frame.state !== 'here')
      this.happenings.after(manager, 'arrived', { shootId, frameId, picture });
    this.happenings.after(manager, 'due', {});
    return true;
  }

  /** A frame with all its files lies elsewhere now, perhaps in another shoot. `null`: files of no frame. */
  async relocate(
    manager: EntityManager,
    frameId: string | null,
    to: NewPlace,
    files: readonly { assetId: string; to: string }[],
    reason: string | null = null,
  ): Promise<void> {
    const { shootId, folder, place, name } = to;
    if (frameId !== null) {
      const frame = await manager.findOneByOrFail(Frame, { id: frameId });
      const from = `${frame.place}/${frame.name}`;
      const kind = frame.place === place ? 'renamed' : 'moved';
      if (from !== `${place}/${name}`)
        await this.trail.note(manager, { kind, shootId, frameId, from, to: `${place}/${name}`, reason });
      await manager.update(Frame, { id: frameId }, { shootId, folder, place, name });
      if (shootId !== frame.shootId) {
        await this.counts.frame(manager, frame, { ...frame, shootId });
        await this.takeEdits(manager, frameId, frame.shootId, shootId);
      }
    }
    for (const file of files) {
      const asset = await manager.findOneByOrFail(Asset, { id: file.assetId });
      const kept = keptName(file.to, frameId === null ? null : { place, name });
      await manager.update(Asset, { id: asset.id }, { name: kept, shootId });
      await manager.update(Copy, { assetId: asset.id }, { path: null });
      await manager.update(Damage, { assetId: asset.id }, { path: null });
      if (shootId === asset.shootId) continue;
      await manager.query(
        `INSERT OR IGNORE INTO shoot_volume SELECT ?, "volumeId" FROM copy WHERE "assetId" = ?`,
        [shootId, asset.id],
      );
      const { required } = await this.counts.basis();
      const missing = asset.devices < required ? 1 : 0;
      await this.counts.change(manager, asset.shootId, { files: -1, missingCopies: -missing });
      await this.counts.change(manager, shootId, { files: 1, missingCopies: missing });
    }
  }

  /** A frame's edits are its new shoot's; they lie where they came back. */
  private async takeEdits(manager: EntityManager, frameId: string, from: string, to: string): Promise<void> {
    const { required } = await this.counts.basis();
    for (const { id, devices } of await manager.findBy(Asset, { frameId, shootId: from, role: 'edit' })) {
      await manager.update(Asset, { id }, { shootId: to });
      await manager.query(
        `INSERT OR IGNORE INTO shoot_volume SELECT ?, "volumeId" FROM copy WHERE "assetId" = ?`,
        [to, id],
      );
      const missing = devices < required ? 1 : 0;
      await this.counts.change(manager, from, { files: -1, missingCopies: -missing });
      await this.counts.change(manager, to, { files: 1, missingCopies: missing });
    }
  }

  /**
   * A frame leaves the archive with all its files; its marks stay with its row. What lies on the drives counts and proves
   * nothing from then on. Null where it was not here.
   */
  async takeOut(
    manager: EntityManager,
    frameId: string,
    state: 'binned' | 'forgotten',
  ): Promise<TakenOut | null> {
    const frame = await manager.findOneByOrFail(Frame, { id: frameId });
    if (frame.state !== 'here') return null;
    const files: PlacedAsset[] = await manager.query(`SELECT * FROM asset_at WHERE "frameId" = ?`, [frameId]);
    const copies: TakenOut['copies'] = [];
    const { required } = await this.counts.basis();
    for (const { id: assetId, at, size, devices } of files) {
      for (const damage of await manager.findBy(Damage, { assetId })) {
        const { volumeId, path } = damage;
        copies.push({ assetId, volumeId, at: path ?? at, size: null, verifiedAt: null, pastCache: false });
        await changeVolume(manager, volumeId, { damaged: -1 });
      }
      for (const copy of await manager.findBy(Copy, { assetId })) {
        const { volumeId, path, verifiedAt, pastCache } = copy;
        copies.push({ assetId, volumeId, at: path ?? at, size: copy.size ?? size, verifiedAt, pastCache });
        const onlyHere = devices <= 1 ? -1 : 0;
        await changeVolume(manager, volumeId, { files: -1, bytes: -size, onlyHere });
      }
      await manager.delete(Damage, { assetId });
      await manager.delete(Copy, { assetId });
      await manager.delete(Asset, { id: assetId });
      const missingCopies = devices < required ? -1 : 0;
      await this.counts.change(manager, frame.shootId, { files: -1, missingCopies });
    }
    await manager.update(Frame, { id: frameId }, { state });
    const from = `${frame.place}/${frame.name}`;
    await this.trail.note(manager, { kind: state, shootId: frame.shootId, frameId, from });
    await this.counts.frame(manager, frame, { ...frame, state });
    const known = files.map((file) => ({ ...file, raw: Boolean(file.raw) }));
    return { frameId, shootId: frame.shootId, files: known, copies };
  }

  /** A frame that was taken out is here again, with its files and without copies: these follow. Its sidecar is due. */
  async bringBack(
    manager: EntityManager,
    frameId: string,
    { folder, place, name }: Omit<NewPlace, 'shootId'>,
    files: readonly ReturningFile[],
  ): Promise<void> {
    const frame = await manager.findOneByOrFail(Frame, { id: frameId });
    const now = { ...frame, ...{ folder, place, name }, state: 'here' as const };
    const sidecarDue = frame.sidecarDue + 1;
    await manager.update(Frame, { id: frameId }, { folder, place, name, state: 'here', sidecarDue });
    const { shootId } = frame;
    const { required } = await this.counts.basis();
    for (const { to, ...file } of files) {
      const kept = keptName(to, { place, name });
      await manager.insert(Asset, { ...file, shootId, frameId, name: kept, devices: 0 });
      await this.counts.change(manager, shootId, { files: 1, missingCopies: required > 0 ? 1 : 0 });
    }
    await this.counts.frame(manager, frame, now);
    await this.trail.note(manager, { kind: 'brought-back', shootId, frameId, to: `${place}/${name}` });
    this.happenings.after(manager, 'due', {});
  }

  /** A frame that was taken out with its files left where they lay has another place by now: somebody else gave it to it. */
  async strayed(
    manager: EntityManager,
    frameId: string,
    { folder, place, name }: Omit<NewPlace, 'shootId'>,
  ): Promise<void> {
    const frame = await manager.findOneByOrFail(Frame, { id: frameId });
    const [from, to] = [`${frame.place}/${frame.name}`, `${place}/${name}`];
    await manager.update(Frame, { id: frameId }, { folder, place, name });
    const kind = frame.place === place ? 'renamed' : 'moved';
    const { shootId } = frame;
    if (from !== to) await this.trail.note(manager, { kind, shootId, frameId, from, to, reason: BY_OTHERS });
  }

  /** A copy lies elsewhere, as its drive was away when its frame was given its place; null: at its place again. */
  async liesAt(
    manager: EntityManager,
    assetId: string,
    volumeId: string,
    path: string | null,
  ): Promise<void> {
    await manager.update(Copy, { assetId, volumeId }, { path });
  }

  /** The files of a frame that was binned are deleted: the archive knows no more than that it was here. */
  async forget(manager: EntityManager, frameId: string): Promise<void> {
    const frame = await manager.findOneBy(Frame, { id: frameId, state: 'binned' });
    if (!frame) return;
    await manager.update(Frame, { id: frameId }, { state: 'forgotten' });
    const from = `${frame.place}/${frame.name}`;
    await this.trail.note(manager, { kind: 'deleted', shootId: frame.shootId, frameId, from });
  }

  /** What was decided of frames of this transaction, each as it was and as it is; only what differs is written. */
  async mark(manager: EntityManager, frames: readonly { was: Frame; change: MarkChange }[]): Promise<void> {
    const now = frames.map(({ was, change }) => ({ ...was, ...change, sidecarDue: was.sidecarDue + 1 }));
    const fields = ([...MARK_COLUMNS, 'markedAt', 'sidecarDue'] as const).filter((field) =>
      now.some((frame, i) => frame[field] !== frames[i]!.was[field]),
    );
    await manager.query(
      `UPDATE frame SET ${fields.map((field, i) => `"${field}" = value ->> ${i + 1}`).join(', ')}
       FROM json_each(?) WHERE frame.id = value ->> 0`,
      [JSON.stringify(now.map((frame) => [frame.id, ...fields.map((field) => frame[field])]))],
    );
    await this.counts.frames(
      manager,
      now.map((frame, i) => [frames[i]!.was, frame]),
    );
    this.happenings.after(manager, 'due', {});
  }

  /** The piles and albums that a frame is in. */
  async putIn(manager: EntityManager, frameId: string, sets: Pick<Frame, 'piles' | 'albums'>): Promise<void> {
    await manager.update(Frame, { id: frameId }, sets);
  }

  /** What was seen when its picture was decoded. */
  async setSeen(
    manager: EntityManager,
    frameId: string,
    seen: Pick<Frame, 'sign' | 'detail'>,
  ): Promise<void> {
    await this.change(manager, frameId, seen);
  }

  /** What is measured of a picture. Returns the frames that are shown by it and did not know yet. */
  async setMeasures(
    manager: EntityManager,
    picture: string,
    measures: Measures,
  ): Promise<{ id: string; shootId: string }[]> {
    const text = measuresText(measures);
    const frames: { id: string; shootId: string }[] = await manager.query(
      `SELECT f.id, f."shootId" FROM asset a JOIN frame f ON f.id = a."frameId" AND f."shownBy" = a.id
       WHERE a.id IN (SELECT id FROM asset WHERE picture = ?
         UNION ALL SELECT id FROM asset WHERE sha256 = ? AND picture IS NULL) AND f.measures IS NOT ?`,
      [picture, picture, text],
    );
    const change = { measures: text, ...measuredFacts(text) };
    for (const { id } of frames) await this.change(manager, id, change);
    return frames;
  }

  /** How much frames look like the one before them. No filter asks for it, so nothing is counted anew. */
  async setClose(manager: EntityManager, frameId: string, close: CloseFacts): Promise<void> {
    await manager.update(Frame, { id: frameId }, close);
  }

  /** What is found out of a frame later than it came. */
  /** Columns of a frame that say something of it; its shoot counts it anew. */
  async change(manager: EntityManager, frameId: string, change: Partial<Frame>): Promise<void> {
    const frame = await manager.findOneByOrFail(Frame, { id: frameId });
    await manager.update(Frame, { id: frameId }, change);
    await this.counts.frame(manager, frame, { ...frame, ...change });
  }

  /** The file that shows a frame, chosen by somebody; null: by the rule again. */
  async setDisplay(manager: EntityManager, frameId: string, assetId: string | null): Promise<void> {
    const chosen = assetId !== null;
    await manager.update(Frame, { id: frameId }, { chosen });
    if (chosen) await this.showBy(manager, frameId, await manager.findOneByOrFail(Asset, { id: assetId }));
    else await this.judgeShown(manager, frameId);
  }

  /** When a copy was changed last, as its drive says: by that another file in its place is seen without reading it. */
  async seenAs(
    manager: EntityManager,
    assetId: string,
    volumeId: string,
    mtimeMillis: number,
  ): Promise<void> {
    await manager.update(Copy, { assetId, volumeId }, { mtime: Math.round(mtimeMillis) });
  }

  /** A file has another place in the archive; its copies, but for those that lie there by now, are still where they were. */
  async placeAside(
    manager: EntityManager,
    assetId: string,
    to: { at: string; there: readonly string[]; before: string },
  ): Promise<void> {
    await manager.update(Asset, { id: assetId }, { name: keptName(to.at, null) });
    for (const { volumeId } of await manager.findBy(Copy, { assetId }))
      await manager.update(
        Copy,
        { assetId, volumeId },
        { path: to.there.includes(volumeId) ? null : to.before },
      );
  }

  /** An edit is of this frame from now on, or of no single one; `frameId` null: nobody knows of which, or it is of several. */
  async belongs(manager: EntityManager, assetId: string, frameId: string | null): Promise<void> {
    await manager.update(Asset, { id: assetId, role: 'edit' }, { frameId });
  }

  /** Whether an edit of a frame is here. */
  async setEdited(manager: EntityManager, frameId: string, edited: boolean): Promise<void> {
    await this.change(manager, frameId, { edited: edited ? EDITED : null });
  }

  /** A file is not there any more, on any drive: who made it took it away, or saved another in its place. */
  async gone(manager: EntityManager, assetId: string): Promise<void> {
    const { size, devices, shootId } = await manager.findOneByOrFail(Asset, { id: assetId });
    await this.trail.ofCopy(manager, 'gone', { assetId, volumeId: null });
    for (const { volumeId } of await manager.findBy(Copy, { assetId }))
      await changeVolume(manager, volumeId, {
        files: -1,
        bytes: -size,
        onlyHere: devices <= 1 ? -1 : 0,
      });
    for (const { volumeId } of await manager.findBy(Damage, { assetId }))
      await changeVolume(manager, volumeId, { damaged: -1 });
    await manager.delete(Copy, { assetId });
    await manager.delete(Damage, { assetId });
    await manager.delete(Asset, { id: assetId });
    const { required } = await this.counts.basis();
    await this.counts.change(manager, shootId, { files: -1, missingCopies: devices < required ? -1 : 0 });
  }

  /** Corrects the clock of a body in a shoot; the camera's own times stay. */
  async correctClock(manager: EntityManager, shootId: string, body: string, millis: number): Promise<void> {
    await manager.query(
      `UPDATE frame SET instant = instant - "correctionMillis" + ?, "correctionMillis" = ?, "sidecarDue" = "sidecarDue" + 1
       WHERE "shootId" = ? AND body = ? AND local IS NOT NULL AND "correctionMillis" <> ?`,
      [millis, millis, shootId, body, millis],
    );
    // A rule may ask for the time.
    await manager.query(`UPDATE shoot SET "countedBy" = '' WHERE id = ?`, [shootId]);
    this.happenings.after(manager, 'uncounted', {});
    this.happenings.after(manager, 'due', {});
  }

  /** Their sidecars are to be written again, wherever they have copies. */
  async due(manager: EntityManager, frameIds: readonly string[]): Promise<void> {
    await manager.query(
      `UPDATE frame SET "sidecarDue" = "sidecarDue" + 1 WHERE id IN (SELECT value FROM json_each(?))`,
      [JSON.stringify(frameIds)],
    );
    this.happenings.after(manager, 'due', {});
  }

  /** Whether sidecars say all of it; `written`: what they say, where that is known. */
  async sidecarsWritten(
    manager: EntityManager,
    frameId: string,
    due: number,
    written: Pick<FrameText, 'sidecarBase'> | null,
  ): Promise<void> {
    await manager.update(Frame, { id: frameId }, { sidecarDue: due });
    if (written) await this.setText(manager, frameId, written);
  }

  /** What a sidecar says that is not ours to write: from there both sides go on. */
  async sidecarRead(manager: EntityManager, frameId: string, said: SidecarModel): Promise<void> {
    await this.setText(manager, frameId, { sidecarBase: said });
  }

  /** Another program has written something of its own: all sidecars of the frame are to hold it. */
  async foreignFound(manager: EntityManager, frameId: string, foreign: Foreign): Promise<void> {
    await this.setText(manager, frameId, { foreign });
    await this.due(manager, [frameId]);
  }

  private async setText(
    manager: EntityManager,
    frameId: string,
    change: Partial<Omit<FrameText, 'frameId'>>,
  ): Promise<void> {
    const { affected } = await manager.update(FrameText, { frameId }, change);
    if (affected) return;
    const none = { apertureText: null, exposureText: null, sidecarBase: null, foreign: null };
    await manager.insert(FrameText, { frameId, ...none, ...change } as FrameText);
  }

  /** The file that shows a frame by the rule. */
  async judgeShown(manager: EntityManager, frameId: string): Promise<void> {
    const files: PlacedAsset[] = await manager.query(
      `SELECT * FROM asset_at WHERE "frameId" = ? ORDER BY "at"`,
      [frameId],
    );
    await this.showBy(
      manager,
      frameId,
      pictureOf(files.map((file) => ({ ...file, raw: Boolean(file.raw) }))),
    );
  }

  /** Of another picture nothing is seen yet. */
  private async showBy(
    manager: EntityManager,
    frameId: string,
    file: Pick<Asset, 'id' | 'role' | 'format' | 'raw'> | null,
  ): Promise<void> {
    const frame = await manager.findOneByOrFail(Frame, { id: frameId });
    const shownBy = file?.id ?? null;
    if (frame.shownBy === shownBy) return;
    const detail = file && usualDetail(file);
    await this.change(manager, frameId, { shownBy, ...NOTHING_SEEN, detail });
  }

  /** On how many devices files are kept, after copies or devices have changed. */
  async judge(manager: EntityManager, assetIds: readonly string[]): Promise<void> {
    const { required } = await this.counts.basis();
    const rows: { id: string; shootId: string; before: number; now: number }[] = await manager.query(
      `SELECT a.id, a."shootId", a.devices AS before,
         (SELECT ${DEVICES} FROM copy c JOIN volume v ON v.id = c."volumeId" AND v.role <> 'edit'
          WHERE c."assetId" = a.id AND c."verifiedAt" IS NOT NULL) AS now
       FROM asset a WHERE a.id IN (SELECT value FROM json_each(?))`,
      [JSON.stringify(assetIds)],
    );
    const missing = new Map<string, number>();
    for (const { id, shootId, before, now } of rows) {
      if (before === now) continue;
      await manager.update(Asset, { id }, { devices: now });
      const by = Number(now < required) - Number(before < required);
      missing.set(shootId, (missing.get(shootId) ?? 0) + by);
      const onlyHere = Number(now <= 1) - Number(before <= 1);
      if (onlyHere === 0) continue;
      for (const { volumeId } of await manager.findBy(Copy, { assetId: id }))
        await changeVolume(manager, volumeId, { onlyHere });
    }
    for (const [shootId, missingCopies] of missing)
      await this.counts.change(manager, shootId, { missingCopies });
  }
}
