import { Injectable, type OnApplicationShutdown } from '@nestjs/common';
import { ArkivError, type Candidate, type ClockOffset, type Close, type Original } from '@arkiv/core';
import { pool, type Pool } from 'workerpool';
import { inTime } from '../system/inTime';
import type { Compared, MomentLooked } from './keptLooks';
import type { MadePicture, MadePreviews, PictureSource, Rendered, RenderOrder } from './picture.worker';
import type { LookedPicture, MadeFeatures, SeenPicture } from './seenPicture';

export type { LookedPicture, MomentLooked, SeenPicture };

/** Pixels of the longer side. 320 fills the largest thumbnail at one device pixel; 2,560 a common large screen. */
export const THUMB_SIDE = 320;
export const SCREEN_SIDE = 2560;
/** One process a core of the smallest machine we aim at; more would only fight over memory. */
const PROCESSES = 2;
/** Milliseconds: a 150-megapixel picture takes about four seconds here; a hung decoder is ended. */
const TIME_LIMIT = 60_000;

/** Decodes and makes pictures in child processes. A process that dies is replaced; its picture counts as undecodable. */
@Injectable()
export class PictureMaker implements OnApplicationShutdown {
  private processes: Pool | null = null;
  private closed = false;

  previews(
    file: string,
    source: PictureSource,
    thumbSide: number,
    screenSide: number,
  ): Promise<MadePreviews> {
    return this.run<MadePreviews>(file, 'previews', [source, thumbSide, screenSide]);
  }

  /** A JPEG that fits a size, for one look. */
  fitted(file: string, source: PictureSource, side: number): Promise<Uint8Array> {
    return this.run<Uint8Array>(file, 'fitted', [source, side]);
  }

  /** All its pixels, upright, as a JPEG. */
  whole(file: string, source: PictureSource): Promise<Uint8Array> {
    return this.run<Uint8Array>(file, 'whole', [source]);
  }

  /** Files that are made of a picture, from one reading of it. */
  render(
    file: string,
    source: PictureSource,
    orders: readonly RenderOrder[],
    finish: string,
  ): Promise<Rendered[]> {
    return this.run<Rendered[]>(file, 'render', [source, orders, finish]);
  }

  /** A picture with the values that it is finished with, fitting a size: a JPEG, or WebP where it is `small`. */
  finished(
    file: string,
    source: PictureSource,
    finish: string,
    side: number,
    small: boolean,
  ): Promise<Uint8Array> {
    return this.run<Uint8Array>(file, 'finished', [source, finish, side, small]);
  }

  /** What is measured of it, and what it is compared by, as `packMeasures` and `packLook` give them. */
  features(file: string, source: MadePicture): Promise<MadeFeatures> {
    return this.run(file, 'features', [source]);
  }

  /** What it is compared by; with `within` also what could be a picture within it, as a shot of a screen shows one. The whole comes first. */
  looks(file: string, source: MadePicture, within: boolean): Promise<SeenPicture[]> {
    return this.run(file, 'looks', [source, within]);
  }

  /** How close frames are to those before them, in their order. */
  compare(frames: readonly Compared[]): Promise<(Close | null)[]> {
    return this.run('pictures of a shoot', 'compare', [frames]);
  }

  /** How sure it is of each pair of kept looks that they are one picture, processed otherwise. */
  same(pairs: readonly (readonly [Uint8Array, Uint8Array])[]): Promise<number[]> {
    return this.run('pictures that look alike', 'same', [pairs]);
  }

  /** Of some kept looks those that a picture may have been made from, by its own; the likeliest first. */
  candidates(of: Uint8Array, among: readonly Uint8Array[]): Promise<Candidate[]> {
    return this.run('pictures that look alike', 'candidates', [of, among]);
  }

  /** In which of some pictures most of the detail of one is found: all that can be shown, the nearest first. */
  detailed(of: SeenPicture, among: readonly LookedPicture[]): Promise<Original[]> {
    return this.run('pictures that look alike', 'detailed', [of, among]);
  }

  /** By how much the second body's clock is off, by what both saw; null: nothing tells. */
  clock(first: readonly MomentLooked[], second: readonly MomentLooked[]): Promise<ClockOffset | null> {
    return this.run('pictures of a shoot', 'clock', [first, second]);
  }

  measure(file: string, source: PictureSource): Promise<{ width: number; height: number }> {
    return this.run(file, 'measure', [source]);
  }

  async onApplicationShutdown(): Promise<void> {
    this.closed = true;
    await this.processes?.terminate(true);
  }

  private async run<T>(file: string, method: string, parameters: unknown[]): Promise<T> {
    if (this.closed) throw new ArkivError('picture.undecodable', { file, reason: 'the server is stopping' });
    this.processes ??= pool(require.resolve('@arkiv/server/dist/pictures/picture.worker.js'), {
      workerType: 'process',
      maxWorkers: PROCESSES,
      forkOpts: { serialization: 'advanced', execArgv: [] },
    });
    try {
      return (await inTime(this.processes, method, parameters, { limit: TIME_LIMIT })) as T;
    } catch (error) {
      throw new ArkivError('picture.undecodable', {
        file,
        reason: (error as Error).message.split('\n')[0] ?? 'unknown',
      });
    }
  }
}
