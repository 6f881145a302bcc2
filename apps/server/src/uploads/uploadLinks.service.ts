import { Injectable } from '@nestjs/common';
import { ArkivError, isLinkOpen, isSendable, leftOfLink } from '@arkiv/core';
import { Reading, UnitOfWork } from '../db/unitOfWork';
import { Happenings } from '../events/domainEvents';
import { hashOf, isToken, SecretLinks } from '../outside/secretLinks';
import { Clock } from '../system/clock';
import { Ids } from '../system/ids';
import { UploadLink } from './uploadLink.entity';
import { UploadStore } from './uploadStore';

export interface NewUploadLink {
  title: string;
  /** whom it is for; empty: several, who each say who they are */
  name: string;
  /** bytes */
  most: number;
  /** milliseconds since 1970 UTC; null: until it is taken back */
  until: number | null;
  withCode: boolean;
}

/** A link as the studio sees it. */
export interface ShownUploadLink extends UploadLink {
  /** null: they cannot be read any more, as where the key was lost */
  token: string | null;
  code: string | null;
}

/** Links by which people outside send pictures. */
@Injectable()
export class UploadLinksService {
  constructor(
    private readonly reading: Reading,
    private readonly work: UnitOfWork,
    private readonly store: UploadStore,
    private readonly links: SecretLinks,
    private readonly happenings: Happenings,
    private readonly clock: Clock,
    private readonly ids: Ids,
  ) {}

  /** Those that were not taken back, the newest first. */
  async list(): Promise<ShownUploadLink[]> {
    const rows = await this.reading.manager.find(UploadLink, { order: { id: 'DESC' } });
    const own = rows.filter(({ revokedAt }) => revokedAt === null);
    const lost = { token: null, code: null };
    return Promise.all(
      own.map(async (link) => ({ ...link, ...(await this.links.told(link, link.title).catch(() => lost)) })),
    );
  }

  async make({ withCode, ...wish }: NewUploadLink): Promise<{ id: string }> {
    const secret = await this.links.make(this.ids.newId(), withCode);
    const link: UploadLink = { ...wish, ...secret, came: 0, at: this.clock.now(), revokedAt: null };
    await this.work.write(async (manager) => {
      await manager.insert(UploadLink, link);
      this.happenings.after(manager, 'uploads', {});
    });
    return { id: link.id };
  }

  /** It opens nothing any more; what has come by it stays. */
  async revoke(id: string): Promise<void> {
    await this.work.write(async (manager) => {
      const { affected } = await manager.update(UploadLink, { id }, { revokedAt: this.clock.now() });
      if (affected !== 1) throw new ArkivError('not-found', { what: 'link', id });
      this.happenings.after(manager, 'uploads', {});
    });
  }

  /** What an address opens. Throws `gallery.none`, `upload.ended`. */
  async gate(token: string): Promise<UploadLink> {
    const link = isToken(token)
      ? await this.reading.manager.findOneBy(UploadLink, { tokenHash: hashOf(token) })
      : null;
    if (!link) throw new ArkivError('gallery.none', {});
    if (!isLinkOpen(link, this.clock.now())) throw new ArkivError('upload.ended', {});
    return link;
  }

  /** Bytes that may still come by it, with what is on its way taken off. */
  async left({ id }: Pick<UploadLink, 'id'>): Promise<number> {
    const link = await this.reading.manager.findOneByOrFail(UploadLink, { id });
    return leftOfLink(link, await this.store.comingBy(id));
  }

  /** Throws `upload.kind` and `upload.limit` where a file may not come by a link. */
  async admit(link: UploadLink, file: string, size: number): Promise<void> {
    if (!isSendable(file)) throw new ArkivError('upload.kind', { file });
    const left = await this.left(link);
    if (size > left) throw new ArkivError('upload.limit', { file, size, left });
  }

  /** So many bytes more have come by it, and were proven. */
  async came(id: string, bytes: number): Promise<void> {
    await this.work.write(async (manager) => {
      await manager.increment(UploadLink, { id }, 'came', bytes);
    });
  }
}
