import path from 'node:path';
import { createHash } from 'node:crypto';
import type { Readable } from 'node:stream';
import { Injectable } from '@nestjs/common';
import { ArkivError, specWords } from '@arkiv/core';
import { Disk } from '../disk/disk';
import { readProven } from '../disk/provenBytes';
import { readChunks } from '../disk/readChunks';
import { zipStream, type ZipPart } from '../delivery/zipStream';
import { liesThere, specsOf } from '../delivery/deliverySet';
import type { Delivery, DeliveryFile } from '../ledger/delivery.entity';
import type { Gallery, GalleryFrame } from '../ledger/gallery.entity';
import { OutLedger } from '../ledger/outLedger';
import { VolumesService } from '../volumes/volumes.service';

/** A size in which a gallery's pictures may be taken along. */
export interface Form {
  /** number of the set's spec */
  spec: number;
  name: string;
  /** in words */
  words: string;
  files: number;
  /** bytes of all */
  bytes: number;
}

/** The newest state of the set that a gallery gives out, with its files of the gallery's own frames. */
interface Released {
  set: Delivery;
  files: DeliveryFile[];
}

export interface OneFile {
  name: string;
  bytes: Buffer;
}

export interface ZipStream {
  name: string;
  stream: Readable;
  /** bytes of the whole zip */
  size: number;
  frameIds: string[];
}

/** What clients may take along: files of a set that was made, of frames that the gallery shows, and nothing else. */
@Injectable()
export class GalleryDownloads {
  constructor(
    private readonly disk: Disk,
    private readonly out: OutLedger,
    private readonly volumes: VolumesService,
  ) {}

  /** The sizes that there are; none where nothing may be taken along. */
  async forms(gallery: Gallery, shown: readonly GalleryFrame[]): Promise<Form[]> {
    const released = await this.released(gallery, shown);
    if (!released) return [];
    return specsOf(released.set).flatMap((spec, i) => {
      const files = released.files.filter((file) => file.spec === i);
      const bytes = files.reduce((sum, { size }) => sum + (size ?? 0), 0);
      return files.length === 0
        ? []
        : [{ spec: i, name: spec.name, words: specWords(spec), files: files.length, bytes }];
    });
  }

  /** One picture's file, proven while it is read. Throws `gallery.none`, `gallery.away`, `file.mismatch`. */
  async one(gallery: Gallery, frame: GalleryFrame, spec: number): Promise<OneFile> {
    const released = await this.released(gallery, [frame]);
    const file = released?.files.find((one) => one.spec === spec);
    if (!released || !file) throw new ArkivError('gallery.none', {});
    const name = path.posix.basename(file.to);
    const at = await this.locate(released.set, file.to);
    return { name, bytes: await readProven(this.disk, at, file.sha256!, name) };
  }

  /**
   * Some of a gallery's frames in one size, as a zip that is made while it goes out. A file that is another one by now breaks it off, as
   * nobody may take it for whole. Throws `gallery.none`, `gallery.away`.
   */
  async zip(gallery: Gallery, frames: readonly GalleryFrame[], spec: number): Promise<ZipStream> {
    const released = await this.released(gallery, frames);
    const files = released?.files.filter((one) => one.spec === spec) ?? [];
    if (!released || files.length === 0) throw new ArkivError('gallery.none', {});
    const parts: ZipPart[] = [];
    for (const file of files) {
      const at = await this.locate(released.set, file.to);
      const facts = await this.disk.facts(at);
      if (!facts) throw new ArkivError('gallery.away', { name: released.set.name });
      parts.push({
        ...{ name: path.posix.basename(file.to), mtimeMillis: facts.mtimeMillis, size: file.size! },
        chunks: () => proven(readChunks(this.disk, at), file),
      });
    }
    const { stream, size } = zipStream(parts);
    return {
      name: `${gallery.title}.zip`,
      stream,
      size: await size,
      frameIds: files.map(({ frameId }) => frameId),
    };
  }

  private async released(gallery: Gallery, frames: readonly GalleryFrame[]): Promise<Released | null> {
    if (gallery.deliveryId === null) return null;
    const set = await this.newest(gallery.shootId, gallery.deliveryId);
    if (!set) return null;
    const shown = new Set(frames.map(({ frameId }) => frameId));
    const files = (await this.out.deliveryFiles(set.id)).filter(
      (file) => file.spec >= 0 && liesThere(file) && shown.has(file.frameId),
    );
    return { set, files };
  }

  /** A set as it is now, however often it was brought up to date. */
  private async newest(shootId: string, id: string): Promise<Delivery | null> {
    const all = (await this.out.deliveries(shootId)).filter(({ zip }) => zip !== null);
    let found = all.find((one) => one.id === id) ?? null;
    for (let later = found; later; later = all.find(({ follows }) => follows === found!.id) ?? null)
      found = later;
    return found;
  }

  private async locate({ volumeId, name }: Delivery, to: string): Promise<string> {
    try {
      const volume = await this.volumes.get(volumeId);
      await this.volumes.check(volume);
      return await this.volumes.resolve(volume, to);
    } catch {
      // What a drive is called is nothing for clients.
      throw new ArkivError('gallery.away', { name });
    }
  }
}

async function* proven(chunks: AsyncIterable<Buffer>, { to, sha256 }: DeliveryFile): AsyncGenerator<Buffer> {
  const hash = createHash('sha256');
  for await (const chunk of chunks) {
    hash.update(chunk);
    yield chunk;
  }
  const found = hash.digest('hex');
  if (found !== sha256) throw new ArkivError('file.mismatch', { file: to, expected: sha256!, found });
}
