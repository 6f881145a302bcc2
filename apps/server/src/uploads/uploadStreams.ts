import { EventEmitter } from 'node:events';
import type { IncomingMessage, ServerResponse } from 'node:http';
import type { Readable } from 'node:stream';
import { Injectable } from '@nestjs/common';
import { ArkivError, sentNameTrouble } from '@arkiv/core';
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

/** Somebody outside who sends files: what they may, and where. */
export interface Sender {
  /** into which upload; no other is theirs */
  uploadId: string;
  /** where their files are sent to, as `STREAMS` is for the studio's own pages */
  at: string;
  /** Throws where a file may not come; `size` in bytes. */
  admit(file: string, size: number): Promise<void>;
}

/** Receives files by the tus protocol (tus.io, version 1.0.0: creation, termination) into the store. */
@Injectable()
export class UploadStreams {
  private server: Promise<Server> | null = null;
  private readonly senders = new WeakMap<IncomingMessage, Sender>();

  constructor(
    private readonly config: ArkivConfig,
    private readonly store: UploadStore,
    private readonly disk: Disk,
    private readonly ids: Ids,
  ) {}

  /** `sender`: who sends it, where that is not the studio itself. */
  async handle(request: IncomingMessage, response: ServerResponse, sender?: Sender): Promise<void> {
    if (sender) this.senders.set(request, sender);
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
      generateUrl: (request, { path, id }) => `${this.senderOf(request)?.at ?? path}/${id}`,
      // No other site's page is told anything.
      allowedOrigins: () => false,
      maxSize: LARGEST,
      namingFunction: (_, metadata) => `${metadata?.upload ?? ''}-${this.ids.newId()}`,
      // The id of a file begins with that of its upload, also of one that is new.
      onIncomingRequest: async (request, id) => {
        const sender = this.senderOf(request);
        if (sender && !id.startsWith(`${sender.uploadId}-`)) throw new ArkivError('gallery.none', {});
      },
      onUploadCreate: async (request, { size, metadata }) => {
        const file = metadata?.path ?? '';
        const trouble = sentNameTrouble(file);
        if (trouble) throw new ArkivError('upload.name', { file, reason: NAME_TROUBLES[trouble] });
        await this.senderOf(request)?.admit(file, size ?? 0);
        const upload = await this.store.get(metadata?.upload ?? '');
        if (upload.readerId !== null) throw new ArkivError('upload.over', { upload: upload.name });
        const { free } = await this.disk.space(this.config.dataDir);
        const needed = (size ?? 0) + SPARE_BYTES;
        if (free < needed)
          throw this.senderOf(request)
            ? new ArkivError('upload.crowded', { file })
            : new ArkivError('upload.full', { file, needed, free });
        return {};
      },
      onResponseError: (_, error) =>
        error instanceof ArkivError
          ? { status_code: error.status, body: JSON.stringify(error.body()) }
          : undefined,
    });
  }

  /** Who sends by a request of the protocol's server, which keeps the one that came in. */
  private senderOf(request: Request): Sender | undefined {
    const { runtime } = request as Request & { runtime?: { node?: { req?: IncomingMessage } } };
    return runtime?.node?.req && this.senders.get(runtime.node.req);
  }
}

const NAME_TROUBLES = { long: 'it is too long', signs: 'it has signs that cannot be written' } as const;

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
    const { path, modified } = upload.metadata ?? {};
    const at = timeIn(modified);
    await this.store.begin({
      ...{ id, uploadId, path: path ?? '', size: upload.size ?? 0 },
      ...(at === null ? {} : { modified: at }),
    });
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

/** Milliseconds since 1970 UTC as a sender's text says them; null for what is no time that a file system may be told. */
function timeIn(text: string | null | undefined): number | null {
  const millis = /^\d{1,15}$/.test(text ?? '') ? Number(text) : NaN;
  return millis > 0 && millis <= LATEST ? millis : null;
}
/** The end of the year 2199: clocks of bodies are wrong by less. */
const LATEST = Date.UTC(2200, 0, 1) - 1;

const NOT_FOUND = { status_code: 404, body: 'The file for this url was not found\n' };
