import type { LinearLight, Similarity, Tones } from '@arkiv/core';

/** What is laid over a picture. */
export type Over = 'clipping' | 'focus';

export interface PixelOrder {
  id: number;
  what: 'tones' | 'similarity' | 'light' | 'keep' | 'finish' | Over;
  /** missing: one that was kept */
  bitmap?: ImageBitmap;
  /** under what its pixels are kept, or were */
  kept?: string;
  /** what they are finished with, see `finishText` */
  finish?: string;
  /** what the first is laid over */
  second?: ImageBitmap;
  /** by how much smaller the overlay is wanted */
  factor: number;
}

export interface Overlay {
  width: number;
  height: number;
  data: Uint8ClampedArray<ArrayBuffer>;
}

export type PixelAnswer =
  | { id: number; similarity: Similarity | null }
  | { id: number; tones: Tones }
  | { id: number; over: Overlay }
  | { id: number; light: LinearLight }
  | { id: number; finished: ImageBitmap | null }
  | { id: number };

let worker: Worker | null = null;
let last = 0;
const waiting = new Map<number, (answer: PixelAnswer) => void>();

function ask(order: Omit<PixelOrder, 'id'>): Promise<PixelAnswer> {
  if (!worker) {
    worker = new Worker(new URL('../workers/pixels.worker.ts', import.meta.url), { type: 'module' });
    worker.onmessage = ({ data }: MessageEvent<PixelAnswer>) => {
      waiting.get(data.id)?.(data);
      waiting.delete(data.id);
    };
  }
  const id = ++last;
  return new Promise((resolve) => {
    waiting.set(id, resolve);
    const moved = [order.bitmap, order.second].filter((bitmap) => bitmap !== undefined);
    worker!.postMessage({ ...order, id }, moved);
  });
}

/** How the tones of a decoded picture lie. */
export async function tonesIn(image: HTMLImageElement): Promise<Tones> {
  const answer = await ask({ what: 'tones', bitmap: await createImageBitmap(image), factor: 1 });
  return (answer as { tones: Tones }).tones;
}

/** An overlay for a part of a decoded picture, in its own pixels, made smaller by a whole factor. */
export async function overlayOf(
  image: HTMLImageElement,
  what: Over,
  part: { x: number; y: number; width: number; height: number },
  factor: number,
): Promise<Overlay> {
  const bitmap = await createImageBitmap(image, part.x, part.y, part.width, part.height);
  return ((await ask({ what, bitmap, factor })) as { over: Overlay }).over;
}

/** How one picture lies over another; null where they are of two shapes. */
export async function similarityOf(first: ImageBitmap, second: ImageBitmap): Promise<Similarity | null> {
  const answer = await ask({ what: 'similarity', bitmap: first, second, factor: 1 });
  return (answer as { similarity: Similarity | null }).similarity;
}

/** The light in a picture, by channel, see `lightIn`. */
export async function lightOfPicture(bitmap: ImageBitmap): Promise<LinearLight> {
  return ((await ask({ what: 'light', bitmap, factor: 1 })) as { light: LinearLight }).light;
}

/** Keeps a picture's pixels beside the thread that draws, to be finished again and again; those of a few are kept. */
export async function keepPixels(key: string, bitmap: ImageBitmap): Promise<void> {
  await ask({ what: 'keep', bitmap, kept: key, factor: 1 });
}

/** Pixels that are kept, with values; null: they are not kept any more. */
export async function finishPixels(key: string, finish: string): Promise<ImageBitmap | null> {
  return ((await ask({ what: 'finish', kept: key, finish, factor: 1 })) as { finished: ImageBitmap | null })
    .finished;
}
