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
import { In, IsNull, type EntityManager, type FindOperator } from 'typeorm';
import { insertRows } from '../db/insertRows';
import { Happenings } from '../events/domainEvents';
import { Ids } from '../system/ids';
import { keptName, pictureKey, Asset, type PlacedAsset } from './asset.entity';
import { Copy } from './copy.entity';
import { CopyStore, type Verified } from './copyStore';
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

/** Why a file has another name or folder, where nobody here gave it to it. */
export const BY_OTHERS = 'by another program';

export interface NewPlace {
  shootId: string;
  folder: string;
  place: string;
  name: string;
}

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
 * The only writer of frames and their files, but for those that leave ({@link LeavingFrames}); of copies, {@link CopyStore} is. Each method
 * belongs in the caller's transaction and keeps the numbers of shoots and volumes in step with the rows it changes.
 */
@Injectable()
export class FrameStore {
  constructor(
    private readonly counts: ShootCounts,
    private readonly copies: CopyStore,
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
      for (const [volumeId, how] of file.copies) await this.copies.verified(manager, asset.id, volumeId, how);
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

  /** Edits of no single frame go with the last frame that leaves their shoot; they lie where they came back. */
  async takeLooseEdits(manager: EntityManager, from: string, to: string): Promise<void> {
    if (await manager.existsBy(Frame, { shootId: from, state: In(['here', 'arriving']) })) return;
    await this.takeEdits(manager, IsNull(), from, to);
  }

  /** A frame's edits are its new shoot's; they lie where they came back. */
  private async takeEdits(
    manager: EntityManager,
    frameId: string | FindOperator<null>,
    from: string,
    to: string,
  ): Promise<void> {
    const { required } = await this.counts.basis();
    const of = { frameId: frameId as string, shootId: from, role: 'edit' as const };
    for (const { id, devices } of await manager.findBy(Asset, of)) {
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

  /** The piles and albums that frames are in. */
  async putIn(
    manager: EntityManager,
    frames: readonly Pick<Frame, 'id' | 'piles' | 'albums'>[],
  ): Promise<void> {
    if (frames.length === 0) return;
    await manager.query(
      `UPDATE frame SET piles = value ->> 1, albums = value ->> 2 FROM json_each(?) WHERE frame.id = value ->> 0`,
      [JSON.stringify(frames.map(({ id, piles, albums }) => [id, piles, albums]))],
    );
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
}
