import { createHash, randomBytes } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import {
  ArkivError,
  comparedCode,
  foldText,
  isGalleryOpen,
  LONGEST_CODE,
  LONGEST_GUEST,
  passCode,
} from '@arkiv/core';
import { Guesses } from '../access/guesses';
import { derive, isWord, LIGHT } from '../access/secretWord';
import { SecretBox } from '../access/secretBox';
import { UnitOfWork } from '../db/unitOfWork';
import { Happenings } from '../events/domainEvents';
import type { Gallery, GalleryGuest, GalleryLink } from '../ledger/gallery.entity';
import { GalleryLedger } from '../ledger/galleryLedger';
import { Clock } from '../system/clock';
import { Ids } from '../system/ids';

/** Bytes of what makes an address: nobody comes upon 2¹²⁸. */
const TOKEN = 16;
/** As they stand in addresses: 128 bits in base64url (RFC 4648, 5). */
export const TOKEN_SHAPE = /^[A-Za-z0-9_-]{22}$/;
const KEY = 12;
/** Random bytes for a code of eight signs: of 256 values 250 are fair. */
const CODE_BYTES = 64;
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
  private readonly guesses = new Guesses(() => this.clock.now());

  constructor(
    private readonly ledger: GalleryLedger,
    private readonly box: SecretBox,
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
    const id = this.ids.newId();
    const token = randomBytes(TOKEN).toString('base64url');
    const code = withCode ? passCode(randomBytes(CODE_BYTES)) : null;
    const salt = randomBytes(TOKEN);
    return {
      ...{ ...its, id, tokenHash: hashOf(token), at: this.clock.now(), revokedAt: null },
      secret: await this.box.lock({ token, code }, id),
      codeHash: code === null ? null : (await derive(comparedCode(code), salt, LIGHT)).toString('hex'),
      codeSalt: code === null ? null : salt.toString('hex'),
    };
  }

  /** What is told to whom an address is for. Throws `destination.secret` where the key was lost. */
  async told({ id, secret, name }: GalleryLink): Promise<{ token: string; code: string | null }> {
    return (await this.box.unlock(secret, id, name || 'the gallery’s link')) as {
      token: string;
      code: string | null;
    };
  }

  /** What an address opens. Throws `gallery.none`, `gallery.over`. */
  async gate(token: string): Promise<Gate> {
    const link = TOKEN_SHAPE.test(token) ? await this.ledger.linkOf(hashOf(token)) : null;
    const gallery = link && link.revokedAt === null ? await this.ledger.gallery(link.galleryId) : null;
    if (!link || !gallery) throw new ArkivError('gallery.none', {});
    if (!isGalleryOpen(gallery, this.clock.now())) throw new ArkivError('gallery.over', {});
    return { gallery, link };
  }

  /** What a browser of that person is to hold. Throws `gallery.code`, `access.slow`, `gallery.much`. */
  async enter({ gallery, link }: Gate, code: string, name: string, from: string): Promise<string> {
    const { codeHash: hash, codeSalt: salt } = link;
    const typed = comparedCode(code.slice(0, LONGEST_CODE));
    const isRight = async () =>
      hash === null || salt === null || (await isWord(typed, { hash, salt, cost: LIGHT }));
    // Whoever shares an address with a guesser is not kept out of other galleries.
    if (!(await this.guesses.check(`${link.id} ${from}`, isRight))) throw new ArkivError('gallery.code', {});
    const called =
      link.name || name.normalize('NFC').replace(/\s+/g, ' ').trim().slice(0, LONGEST_GUEST) || 'Guest';
    const guests = await this.ledger.guests(gallery.id);
    const known = guests.find(
      (guest) => guest.linkId === link.id && foldText(guest.name) === foldText(called),
    );
    if (!known && guests.length >= MOST_GUESTS) throw new ArkivError('gallery.much', {});
    const held = randomBytes(TOKEN).toString('base64url');
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
    if (held === null || !TOKEN_SHAPE.test(held)) return null;
    const guest = await this.ledger.guestOf(hashOf(held), this.clock.now());
    return guest?.galleryId === gallery.id && guest.linkId === link.id ? guest : null;
  }
}

const hashOf = (token: string): string => createHash('sha256').update(token).digest('hex');
