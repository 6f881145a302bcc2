import { Injectable, type OnApplicationShutdown } from '@nestjs/common';
import type { EmbeddedJpeg, Foreign, RawTags, SidecarModel, SidecarResult } from '@arkiv/core';
import { RestingPool } from '../system/restingPool';
import type { WrittenSidecar } from './parser.worker';

/** A card is listed by four readers at once; parsing takes less time than reading. */
const THREADS = 2;
/** Milliseconds: what is parsed takes under ten; above, the parser is caught in a file made to catch it. */
const TIME_LIMIT = 10_000;
/** Megabytes that one parser may fill: heads are 1 MB, sidecars 4 MB, and their trees some twenty times that. */
const MEMORY = 256;
/** Milliseconds without a file after which they end, with some sixty megabytes; they start in a tenth of a second. */
const RESTS = 5_000;

/** Tags, directories and sidecars from outside, parsed in threads that may die of it. */
@Injectable()
export class Parser implements OnApplicationShutdown {
  private readonly threads = new RestingPool(
    require.resolve('@arkiv/server/dist/metadata/parser.worker.js'),
    { maxWorkers: THREADS, workerThreadOpts: { resourceLimits: { maxOldGenerationSizeMb: MEMORY } } },
    RESTS,
  );

  /**
   * The tags in a file's head; none where it cannot be read: the file is copied all the same. `given`: its memory is nobody else's and
   * goes over to the thread as it is; the heads of a card of thousands would otherwise be there twice.
   */
  tags(head: Buffer, given = false): Promise<RawTags> {
    return this.run<RawTags>('tags', [head], given ? [head.buffer as ArrayBuffer] : []).catch(() => ({}));
  }

  /** The JPEGs that a camera put into a file, as its head tells them; none where it cannot be read. */
  embedded(head: Buffer): Promise<EmbeddedJpeg[]> {
    return this.run<EmbeddedJpeg[]>('embedded', [head]).catch(() => []);
  }

  async readSidecar(text: string): Promise<SidecarResult> {
    try {
      return await this.run<SidecarResult>('readSidecar', [text]);
    } catch (error) {
      return { ok: false, reason: reasonOf(error) };
    }
  }

  /** What other programs keep in a sidecar. Rejects where it cannot be read. */
  foreignIn(text: string): Promise<Foreign> {
    return this.run<Foreign>('foreignIn', [text]);
  }

  /** A sidecar that was there before, with our part of it put in, and what other programs are to find there. */
  async writeSidecar(model: SidecarModel, existing?: string, foreign?: string): Promise<WrittenSidecar> {
    try {
      return await this.run<WrittenSidecar>('writeSidecar', [model, existing, foreign]);
    } catch (error) {
      return { ok: false, reason: reasonOf(error) };
    }
  }

  async onApplicationShutdown(): Promise<void> {
    await this.threads.end(true);
  }

  private run<T>(method: string, parameters: unknown[], gives: ArrayBuffer[] = []): Promise<T> {
    return this.threads.run<T>(method, parameters, { limit: TIME_LIMIT, gives });
  }
}

const reasonOf = (error: unknown): string => (error as Error).message.split('\n')[0] ?? 'it cannot be read';
