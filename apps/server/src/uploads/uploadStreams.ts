import { EventEmitter } from 'node:events';
import type { IncomingMessage, ServerResponse } from 'node:http';
import type { Readable } from 'node:stream';
import { Injectable } from '@nestjs/common';
import { ArkivError } from '@arkiv/core';
import type { Server, Upload as TusUpload } from '@tus/server' with { 'resolution-mode': 'import' };
import { ArkivConfig } from '../config/config';
import { Disk } from '../disk/disk';
import { Ids } from '../system/ids';
import { SPARE_BYTES } from '../volumes/volumes.service';
import { UploadStore, type ComingFile } from './uploadStore';

/** Where files are sent to, in the resumable protocol. */
export const STREAMS = '/api/uploads/streams';
/** A day of a medium-format body's clips is less; it only keeps a mistaken length from being taken for a wish. */
const LARGEST = 1e12;

/** Receives files by the tus protocol (tus.io, version 1.0.0: creation, termination) into the store. */
@Injectable()
export class UploadStreams {
  private server: Promise<Server> | null = null;

  constructor(
    private readonly config: ArkivConfig,
    private readonly store: UploadStore,
    private readonly disk: Disk,
    private readonly ids: Ids,
  ) {}

  async handle(request: IncomingMessage, response: ServerResponse): Promise<void> {
    this.server ??= this.made();
    await (await this.server).handle(request, response);
  }

  private async made(): Promise<Server> {
    // Its package is a module of the newer kind: it is loaded when the first file comes.
    const { Server, Upload } = await import('@tus/server');
    const asTus = async (file: ComingFile): Promise<TusUpload> =>
      new Upload({
        ...{ id: `${file.uploadId}-${file.id}`, size: file.size, offset: await this.store.come(file) },
        metadata: { upload: file.uploadId, path: file.path },
      });
    return new Server({
      path: STREAMS,
      datastore: new Receiving(this.store, asTus) as never,
      relativeLocation: true,
      // No other site's page is told anything.
      allowedOrigins: () => false,
      maxSize: LARGEST,
      namingFunction: (_, metadata) => `${metadata?.upload ?? ''}-${this.ids.newId()}`,
      onUploadCreate: async (_, { size, metadata }) => {
        const file = metadata?.path ?? '';
        const upload = await this.store.get(metadata?.upload ?? '');
        if (upload.readerId !== null) throw new ArkivError('upload.over', { upload: upload.name });
        const { free } = await this.disk.space(this.config.dataDir);
        const needed = (size ?? 0) + SPARE_BYTES;
        if (free < needed) throw new ArkivError('upload.full', { file, needed, free });
        return {};
      },
      onResponseError: (_, error) =>
        error instanceof ArkivError
          ? { status_code: error.status, body: JSON.stringify(error.body()) }
          : undefined,
    });
  }
}

/** What the protocol's server asks of whoever keeps the bytes. */
class Receiving extends EventEmitter {
  readonly extensions = ['creation', 'termination'];

  constructor(
    private readonly store: UploadStore,
    private readonly asTus: (file: ComingFile) => Promise<TusUpload>,
  ) {
    super();
  }

  hasExtension(extension: string): boolean {
    return this.extensions.includes(extension);
  }

  getExpiration(): number {
    return 0;
  }

  async create(upload: TusUpload): Promise<TusUpload> {
    const [uploadId = '', id = ''] = upload.id.split('-');
    const path = upload.metadata?.path ?? '';
    await this.store.begin({ id, uploadId, path, size: upload.size ?? 0 });
    return upload;
  }

  async getUpload(id: string): Promise<TusUpload> {
    return this.asTus(await this.file(id));
  }

  async write(stream: Readable, id: string, offset: number): Promise<number> {
    return this.store.write(await this.file(id), stream, offset);
  }

  async remove(id: string): Promise<void> {
    await this.store.leave(await this.file(id));
  }

  private async file(id: string): Promise<ComingFile> {
    const [uploadId = '', fileId = ''] = id.split('-');
    const file = await this.store.coming(uploadId, fileId);
    // As the protocol says of what is not there.
    if (!file) throw Object.assign(new Error('The file for this url was not found\n'), NOT_FOUND);
    return file;
  }
}

const NOT_FOUND = { status_code: 404, body: 'The file for this url was not found\n' };
