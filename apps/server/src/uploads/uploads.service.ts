import { Injectable } from '@nestjs/common';
import { ArkivError, foldText, toNamePart } from '@arkiv/core';
import { ReadersService } from '../readers/readers.service';
import { Happenings } from '../events/domainEvents';
import { Clock } from '../system/clock';
import { Ids } from '../system/ids';
import { UploadLinksService } from './uploadLinks.service';
import { UploadStore, type Upload, type WholeFile } from './uploadStore';

export interface UploadNow extends Omit<Upload, 'folder' | 'link'> {
  /** who sends it by a link; null: the studio itself does */
  by: string | null;
  /** what is whole of it */
  files: number;
  bytes: number;
  /** files that have begun to come and are not whole, with what has come of them */
  coming: { id: string; path: string; size: number; come: number }[];
}

/** Milliseconds in which files that come are told of once: whoever looks on sees them come, and each need not be asked for. */
const TOLD_WITHIN = 2000;

/** What is sent from other computers and telephones. Once it is whole it is a card like any other. */
@Injectable()
export class UploadsService {
  private telling: NodeJS.Timeout | null = null;

  constructor(
    private readonly store: UploadStore,
    private readonly links: UploadLinksService,
    private readonly happenings: Happenings,
    private readonly readers: ReadersService,
    private readonly clock: Clock,
    private readonly ids: Ids,
  ) {}

  async begin(name: string, link?: Upload['link']): Promise<UploadNow> {
    const folder = toNamePart(name) || 'upload';
    const its = { id: this.ids.newId(), name, folder, at: this.clock.now(), readerId: null };
    const upload: Upload = link ? { ...its, link } : its;
    await this.store.make(upload);
    this.tellSoon();
    return this.now(upload);
  }

  /** What somebody has sent by a link and is not taken in and cleared yet, the newest first. */
  async by(linkId: string, by: string): Promise<UploadNow[]> {
    return Promise.all((await this.ownOf(linkId, by)).map((upload) => this.now(upload)));
  }

  /** What is coming from them by it; null: nothing is. Asked with each file: what is in it is not looked at. */
  async openBy(linkId: string, by: string): Promise<{ id: string } | null> {
    return (await this.ownOf(linkId, by)).find(({ readerId }) => readerId === null) ?? null;
  }

  private async ownOf(linkId: string, by: string): Promise<Upload[]> {
    return (await this.store.all()).filter(
      ({ link }) => link?.id === linkId && foldText(link.by) === foldText(by),
    );
  }

  /** One that was cleared and taken off the list of readers is no more; one that was only taken off it waits to be taken in again. */
  async all(): Promise<UploadNow[]> {
    const readers = new Set((await this.readers.list()).map(({ id }) => id));
    const uploads: UploadNow[] = [];
    for (const upload of await this.store.all()) {
      const off = upload.readerId !== null && !readers.has(upload.readerId);
      if (off && (await this.store.forgetEmpty(upload))) continue;
      uploads.push(await this.now(off ? { ...upload, readerId: null } : upload));
    }
    return uploads;
  }

  async one(id: string): Promise<UploadNow> {
    return this.now(await this.store.get(id));
  }

  async whole(id: string): Promise<WholeFile[]> {
    return this.store.whole((await this.store.get(id)).id);
  }

  private async now(upload: Upload): Promise<UploadNow> {
    const coming = await Promise.all(
      (await this.store.allComing(upload.id)).map(async (file) => ({
        ...{ id: file.id, path: file.path, size: file.size, come: await this.store.come(file) },
      })),
    );
    const whole = await this.store.whole(upload.id);
    const { id, name, at, readerId, link } = upload;
    const bytes = whole.reduce((sum, { size }) => sum + size, 0);
    return { id, name, at, readerId, by: link?.by ?? null, files: whole.length, bytes, coming };
  }

  /**
   * A file has come to its end: it is read from the disk here, and is whole where that is what was sent. Whoever did not hear that it was asks once
   * more, and hears it.
   */
  async finish(uploadId: string, fileId: string, sha256: string): Promise<{ path: string }> {
    const file = await this.store.coming(uploadId, fileId);
    if (!file) {
      const before = await this.store.wholeBy(uploadId, fileId);
      if (before?.sha256 === sha256) return { path: before.path };
      throw new ArkivError('not-found', { what: 'file', id: fileId });
    }
    const path = await this.store.finish(file, sha256);
    const { link } = await this.store.get(uploadId);
    if (link) await this.links.came(link.id, file.size);
    this.tellSoon();
    return { path };
  }

  private tellSoon(): void {
    this.telling ??= setTimeout(() => {
      this.telling = null;
      this.happenings.tell('uploads', {});
    }, TOLD_WITHIN).unref();
  }

  /** Lets go of an upload of which nothing is whole. Throws `upload.holds` where anything is: its sender may have cleared its card. */
  async forget(id: string): Promise<void> {
    const upload = await this.store.get(id);
    if (await this.store.forgetEmpty(upload)) return;
    throw new ArkivError('upload.holds', { upload: upload.name, files: (await this.store.whole(id)).length });
  }

  /**
   * Nothing more comes: what is whole can be taken in as a card. What is not whole is let go of; its sender has it still. Throws
   * `not-found` where nothing is whole.
   */
  async close(id: string): Promise<UploadNow> {
    const upload = await this.store.get(id);
    const readers = (await this.readers.list()).map((reader) => reader.id);
    if (upload.readerId !== null && readers.includes(upload.readerId)) return this.now(upload);
    if ((await this.store.whole(id)).length === 0)
      throw new ArkivError('not-found', { what: 'whole file in upload', id: upload.name });
    const { id: readerId } = await this.readers.addFolder(this.store.filesOf(upload), upload.name);
    const closed = { ...upload, readerId };
    await this.store.say(closed);
    for (const file of await this.store.allComing(id)) await this.store.leave(file);
    this.tellSoon();
    return this.now(closed);
  }
}
