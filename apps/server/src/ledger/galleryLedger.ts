import { Injectable } from '@nestjs/common';
import type { GuestRights } from '@arkiv/core';
import { LessThan, type EntityManager } from 'typeorm';
import { insertRows } from '../db/insertRows';
import { Reading } from '../db/unitOfWork';
import {
  Gallery,
  GalleryBrowser,
  GalleryFrame,
  GalleryGuest,
  GalleryLink,
  GallerySaid,
} from './gallery.entity';

/** The only writer of galleries, of who may see them, and of what was said there. */
@Injectable()
export class GalleryLedger {
  constructor(private readonly reading: Reading) {}

  async open(manager: EntityManager, gallery: Gallery): Promise<void> {
    await manager.insert(Gallery, gallery);
  }

  async change(manager: EntityManager, id: string, change: Partial<Omit<Gallery, 'id'>>): Promise<void> {
    await manager.update(Gallery, { id }, change as object);
  }

  /** Forgets one in which nobody was yet. */
  async forget(manager: EntityManager, id: string): Promise<void> {
    await manager.delete(GalleryFrame, { galleryId: id });
    await manager.delete(GalleryLink, { galleryId: id });
    await manager.delete(Gallery, { id });
  }

  gallery(id: string): Promise<Gallery | null> {
    return this.reading.manager.findOneBy(Gallery, { id });
  }

  /** The newest first. */
  ofShoot(shootId: string): Promise<Gallery[]> {
    return this.reading.manager.find(Gallery, { where: { shootId }, order: { at: 'DESC', id: 'DESC' } });
  }

  /** Those that are open, with nothing said of their time. */
  openOnes(): Promise<Gallery[]> {
    return this.reading.manager.createQueryBuilder(Gallery, 'g').where('g."closedAt" IS NULL').getMany();
  }

  async addLink(manager: EntityManager, link: GalleryLink): Promise<void> {
    await manager.insert(GalleryLink, link);
  }

  async changeLink(
    manager: EntityManager,
    id: string,
    change: Partial<
      Pick<GalleryLink, 'name' | 'email' | 'secret' | 'codeHash' | 'codeSalt' | 'revokedAt'>
    > & {
      rights?: GuestRights;
    },
  ): Promise<void> {
    await manager.update(GalleryLink, { id }, change);
  }

  linkOf(tokenHash: string): Promise<GalleryLink | null> {
    return this.reading.manager.findOneBy(GalleryLink, { tokenHash });
  }

  link(id: string): Promise<GalleryLink | null> {
    return this.reading.manager.findOneBy(GalleryLink, { id });
  }

  /** In the order in which they were made. */
  links(galleryId: string): Promise<GalleryLink[]> {
    return this.reading.manager.find(GalleryLink, { where: { galleryId }, order: { at: 'ASC', id: 'ASC' } });
  }

  /** In their order. */
  frames(galleryId: string): Promise<GalleryFrame[]> {
    return this.reading.manager.find(GalleryFrame, { where: { galleryId }, order: { seq: 'ASC' } });
  }

  frame(galleryId: string, seq: number): Promise<GalleryFrame> {
    return this.reading.manager.findOneByOrFail(GalleryFrame, { galleryId, seq });
  }

  frameOf(galleryId: string, key: string): Promise<GalleryFrame | null> {
    return this.reading.manager.findOneBy(GalleryFrame, { galleryId, key });
  }

  /** Puts all frames of a gallery in the place of those that it had. */
  async setFrames(manager: EntityManager, galleryId: string, frames: GalleryFrame[]): Promise<void> {
    await manager.delete(GalleryFrame, { galleryId });
    await insertRows(manager, GalleryFrame, frames);
  }

  async noteFrame(
    manager: EntityManager,
    { galleryId, seq }: Pick<GalleryFrame, 'galleryId' | 'seq'>,
    change: Partial<Pick<GalleryFrame, 'recipe' | 'width' | 'height' | 'version'>>,
  ): Promise<void> {
    await manager.update(GalleryFrame, { galleryId, seq }, change);
  }

  async addGuest(manager: EntityManager, guest: GalleryGuest): Promise<void> {
    await manager.insert(GalleryGuest, guest);
  }

  async addBrowser(manager: EntityManager, browser: GalleryBrowser): Promise<void> {
    await manager.insert(GalleryBrowser, browser);
  }

  /** Browsers that have to ask again are forgotten. */
  async forgetBrowsers(manager: EntityManager, before: number): Promise<void> {
    await manager.delete(GalleryBrowser, { until: LessThan(before) });
  }

  /** Who a browser belongs to, while it need not ask again. */
  async guestOf(hash: string, now: number): Promise<GalleryGuest | null> {
    const browser = await this.reading.manager.findOneBy(GalleryBrowser, { hash });
    if (!browser || browser.until <= now) return null;
    return this.reading.manager.findOneBy(GalleryGuest, { id: browser.guestId });
  }

  guests(galleryId: string): Promise<GalleryGuest[]> {
    return this.reading.manager.find(GalleryGuest, { where: { galleryId }, order: { at: 'ASC', id: 'ASC' } });
  }

  async say(manager: EntityManager, said: Omit<GallerySaid, 'id'>): Promise<void> {
    await manager.insert(GallerySaid, said);
  }

  /** All that was said in a gallery, in its order. */
  said(galleryId: string): Promise<GallerySaid[]> {
    return this.reading.manager.find(GallerySaid, { where: { galleryId }, order: { id: 'ASC' } });
  }
}
