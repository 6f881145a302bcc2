import { randomBytes } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import { ArkivError, foldText, guestName, isGalleryOpen } from '@arkiv/core';
import { UnitOfWork } from '../db/unitOfWork';
import { Happenings } from '../events/domainEvents';
import type { Gallery, GalleryGuest, GalleryLink } from '../ledger/gallery.entity';
import { GalleryLedger } from '../ledger/galleryLedger';
import { hashOf, isToken, newToken, SecretLinks } from '../outside/secretLinks';
import { Clock } from '../system/clock';
import { Ids } from '../system/ids';

/** Bytes of what a picture is called outside. */
const KEY = 12;
/** How long a browser need not ask again: as long as a client takes to choose. */
const STAY = 30 * 24 * 60 * 60 * 1000;
/** People of one gallery: a wedding's guests. More are no client any more. */
const MOST_GUESTS = 500;

/** An address that opens a gallery, and what it opens. */
export interface Gate {
  gallery: Gallery;
  link: GalleryLink;
}

export const randomKey = (): string => randomBytes(KEY).toString('base64url');

/** Who comes into galleries: addresses, pass codes, and the browsers that came in. */
@Injectable()
export class GalleryDoors {
  constructor(
    private readonly ledger: GalleryLedger,
    private readonly links: SecretLinks,
    private readonly work: UnitOfWork,
    private readonly happenings: Happenings,
    private readonly clock: Clock,
    private readonly ids: Ids,
  ) {}

  /** A new address, with a pass code where one is wanted. */
  async newLink(
    its: Pick<GalleryLink, 'galleryId' | 'name' | 'email' | 'rights'>,
    withCode: boolean,
  ): Promise<GalleryLink> {
    const secret = await this.links.make(this.ids.newId(), withCode);
    return { ...its, ...secret, at: this.clock.now(), revokedAt: null };
  }

  /** What is told to whom an address is for. Throws `destination.secret` where the key was lost. */
  told(link: GalleryLink): Promise<{ token: string; code: string | null }> {
    return this.links.told(link, link.name || 'the gallery’s link');
  }

  /** What an address opens. Throws `gallery.none`, `gallery.over`. */
  async gate(token: string): Promise<Gate> {
    const link = isToken(token) ? await this.ledger.linkOf(hashOf(token)) : null;
    const gallery = link && link.revokedAt === null ? await this.ledger.gallery(link.galleryId) : null;
    if (!link || !gallery) throw new ArkivError('gallery.none', {});
    if (!isGalleryOpen(gallery, this.clock.now())) throw new ArkivError('gallery.over', {});
    return { gallery, link };
  }

  /** What a browser of that person is to hold. Throws `gallery.code`, `access.slow`, `gallery.much`. */
  async enter({ gallery, link }: Gate, code: string, name: string, from: string): Promise<string> {
    if (!(await this.links.isCode(link, code, from))) throw new ArkivError('gallery.code', {});
    const called = guestName(link.name, name);
    const guests = await this.ledger.guests(gallery.id);
    const known = guests.find(
      (guest) => guest.linkId === link.id && foldText(guest.name) === foldText(called),
    );
    if (!known && guests.length >= MOST_GUESTS) throw new ArkivError('gallery.much', {});
    const held = newToken();
    const at = this.clock.now();
    const guest = known ?? { id: this.ids.newId(), galleryId: gallery.id, linkId: link.id, name: called, at };
    await this.work.write(async (manager) => {
      if (!known) await this.ledger.addGuest(manager, guest);
      await this.ledger.forgetBrowsers(manager, at);
      await this.ledger.addBrowser(manager, { hash: hashOf(held), guestId: guest.id, until: at + STAY });
      await this.ledger.say(manager, {
        ...{ galleryId: gallery.id, guestId: guest.id, frameId: null, kind: 'opened', on: true },
        ...{ text: null, x: null, y: null, of: null, was: null, at },
      });
      this.happenings.after(manager, 'gallery', { shootId: gallery.shootId, galleryId: gallery.id });
    });
    return held;
  }

  /** Who a browser belongs to that came in by this address; null: nobody, or too long ago. */
  async guest({ gallery, link }: Gate, held: string | null): Promise<GalleryGuest | null> {
    if (held === null || !isToken(held)) return null;
    const guest = await this.ledger.guestOf(hashOf(held), this.clock.now());
    return guest?.galleryId === gallery.id && guest.linkId === link.id ? guest : null;
  }
}
