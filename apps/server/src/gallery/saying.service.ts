import { Injectable } from '@nestjs/common';
import {
  ArkivError,
  choiceOf,
  LONGEST_REMARK,
  markOf,
  marksIn,
  mayChoose,
  stamped,
  type Choice,
  type MarkOperation,
  type MarkValue,
} from '@arkiv/core';
import { UnitOfWork } from '../db/unitOfWork';
import { Happenings } from '../events/domainEvents';
import { FramesService } from '../frames/frames.service';
import type { Gallery, GalleryFrame, GalleryGuest, GallerySaid } from '../ledger/gallery.entity';
import { GalleryLedger } from '../ledger/galleryLedger';
import { MarksService } from '../marks/marks.service';
import { Clock } from '../system/clock';
import { Ids } from '../system/ids';
import type { Gate } from './galleryDoors.service';

/** What somebody says, as it comes from outside. */
export type Saying =
  | { kind: 'favourite' | 'choice'; key: string; on: boolean }
  | { kind: 'remark'; key: string; text: string; x: number | null; y: number | null }
  | { kind: 'unsay'; id: number }
  | { kind: 'sent' };

/** All that may be said of pictures in a gallery: a client who changes his mind on each of 5,000, ten times. */
const MOST_SAID = 50_000;

/** Hears what clients say in galleries, keeps it, and does what the studio wants to come of it. */
@Injectable()
export class SayingService {
  private readonly turns = new Map<string, Promise<unknown>>();

  constructor(
    private readonly ledger: GalleryLedger,
    private readonly frames: FramesService,
    private readonly marks: MarksService,
    private readonly work: UnitOfWork,
    private readonly happenings: Happenings,
    private readonly clock: Clock,
    private readonly ids: Ids,
  ) {}

  async choice(galleryId: string): Promise<Choice> {
    return choiceOf(await this.ledger.said(galleryId));
  }

  /** Throws `gallery.right`, `gallery.full`, `gallery.none`, `gallery.much`. */
  say(gate: Gate, guest: GalleryGuest, saying: Saying): Promise<void> {
    // One after another in each gallery: two people who choose the last one are told apart.
    return this.inTurn(gate.gallery.id, () => this.hear(gate, guest, saying));
  }

  /** What somebody took with them. */
  async downloaded(
    gallery: Gallery,
    guest: GalleryGuest,
    frames: readonly string[],
    form: string,
  ): Promise<void> {
    const rows = frames.map((frameId) =>
      this.row(gallery, guest, { kind: 'downloaded', frameId, text: form }),
    );
    await this.keep(gallery, rows);
  }

  private async hear({ gallery, link }: Gate, guest: GalleryGuest, saying: Saying): Promise<void> {
    const all = await this.ledger.said(gallery.id);
    if (all.filter(({ kind }) => kind !== 'opened' && kind !== 'downloaded').length >= MOST_SAID)
      throw new ArkivError('gallery.much', {});
    const choice = choiceOf(all);
    const may = (right: boolean) => {
      if (!right) throw new ArkivError('gallery.right', {});
    };
    const say = (its: Partial<GallerySaid> & Pick<GallerySaid, 'kind'>) =>
      this.keep(gallery, [this.row(gallery, guest, its)]);
    if (saying.kind === 'sent') {
      may(link.rights.choose && gallery.most !== null);
      return say({ kind: 'sent' });
    }
    if (saying.kind === 'unsay') {
      may(link.rights.remark);
      for (const [frameId, remarks] of choice.remarks)
        if (remarks.some(({ id, guestId }) => id === saying.id && guestId === guest.id))
          return say({ kind: 'remark', frameId, on: false, of: saying.id });
      throw new ArkivError('gallery.none', {});
    }
    const frame = await this.frameOf(gallery, saying.key);
    const { frameId } = frame;
    if (saying.kind === 'remark') {
      may(link.rights.remark);
      const { x, y } = saying;
      const text = saying.text.normalize('NFC').trim().slice(0, LONGEST_REMARK);
      return text === '' ? undefined : say({ kind: 'remark', frameId, text, x, y });
    }
    const { kind, on } = saying;
    if (kind === 'favourite') {
      const isOne = choice.favourites.get(guest.id)?.has(frameId) ?? false;
      return isOne === on ? undefined : say({ kind, frameId, on });
    }
    may(link.rights.choose && gallery.most !== null);
    if (choice.chosen.has(frameId) === on) return;
    if (on && !mayChoose(choice.chosen.size, gallery.most ?? 0))
      throw new ArkivError('gallery.full', { most: gallery.most! });
    // First what comes of it: where the server ends in between, whoever chose sees that it is not chosen, and does it again.
    const was = on
      ? await this.become(gallery, guest, frameId)
      : await this.becomeAgain(gallery, guest, frameId, lastWas(all, frameId));
    return say({ kind, frameId, on, was });
  }

  /** Gives a frame the mark that chosen ones get. What it had before, as JSON; null: it changed nothing. */
  private async become({ becomes }: Gallery, guest: GalleryGuest, frameId: string): Promise<string | null> {
    const [frame] = await this.frames.here([frameId]);
    if (!becomes || !frame) return null;
    const { kind, value } = becomes;
    const from = markOf(marksIn(frame), kind);
    if (from === value) return null;
    await this.mark(guest, { kind, subject: frameId, from, to: value });
    return JSON.stringify(from);
  }

  /** Takes it back, unless somebody decided otherwise since. */
  private async becomeAgain(
    { becomes }: Gallery,
    guest: GalleryGuest,
    frameId: string,
    was: string | null,
  ): Promise<null> {
    const [frame] = await this.frames.here([frameId]);
    if (!becomes || !frame || was === null) return null;
    const { kind, value } = becomes;
    if (markOf(marksIn(frame), kind) === value)
      await this.mark(guest, { kind, subject: frameId, from: value, to: JSON.parse(was) as MarkValue });
    return null;
  }

  private async mark(
    { name }: GalleryGuest,
    change: Pick<MarkOperation, 'kind' | 'subject' | 'from' | 'to'>,
  ): Promise<void> {
    const stamp = {
      newId: () => this.ids.newId(),
      at: this.clock.now(),
      window: 'gallery',
      by: `client ${name}`,
    };
    await this.marks.apply([{ ...stamped(stamp), ...change, id: this.ids.newId() }]);
  }

  private row(
    gallery: Gallery,
    guest: GalleryGuest,
    its: Partial<GallerySaid> & Pick<GallerySaid, 'kind'>,
  ): Omit<GallerySaid, 'id'> {
    const empty = { frameId: null, on: true, text: null, x: null, y: null, of: null, was: null };
    return { ...empty, ...its, galleryId: gallery.id, guestId: guest.id, at: this.clock.now() };
  }

  private async keep({ id, shootId }: Gallery, rows: readonly Omit<GallerySaid, 'id'>[]): Promise<void> {
    await this.work.write(async (manager) => {
      for (const row of rows) await this.ledger.say(manager, row);
      this.happenings.after(manager, 'gallery', { shootId, galleryId: id });
    });
  }

  private async frameOf({ id }: Gallery, key: string): Promise<GalleryFrame> {
    const frame = await this.ledger.frameOf(id, key);
    if (!frame) throw new ArkivError('gallery.none', {});
    return frame;
  }

  private inTurn<T>(galleryId: string, work: () => Promise<T>): Promise<T> {
    const before = this.turns.get(galleryId) ?? Promise.resolve();
    const mine = before.then(work, work);
    const settled = mine.then(
      () => undefined,
      () => undefined,
    );
    this.turns.set(galleryId, settled);
    void settled.then(() => this.turns.get(galleryId) === settled && this.turns.delete(galleryId));
    return mine;
  }
}

/** What a frame was before it was chosen last. */
const lastWas = (said: readonly GallerySaid[], frameId: string): string | null =>
  said.findLast((one) => one.kind === 'choice' && one.on && one.frameId === frameId)?.was ?? null;
