// Looks at a picture's pixels, beside the thread that draws: tones for the histogram, what is laid over a
// picture, and how one picture lies over another.
import {
  clippingOver,
  focusOver,
  lightIn,
  pooled,
  tonerOf,
  similarityBetween,
  tonesOf,
  type Grey,
} from '@arkiv/core';
import type { PixelAnswer, PixelOrder } from '../data/pixels';

const scope = self as unknown as {
  onmessage: (event: { data: PixelOrder }) => void;
  postMessage: (answer: PixelAnswer, moved: Transferable[]) => void;
};

function pixelsOf(bitmap: ImageBitmap): ImageData {
  const { width, height } = bitmap;
  const canvas = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true })!;
  canvas.drawImage(bitmap, 0, 0);
  bitmap.close();
  return canvas.getImageData(0, 0, width, height);
}

/** Luma of ITU-R BT.601, as in the measures that the server makes. */
function greyOf({ width, height, data }: ImageData): Grey {
  const grey = new Float32Array(width * height);
  for (let i = 0; i < grey.length; i++)
    grey[i] = 0.299 * data[4 * i]! + 0.587 * data[4 * i + 1]! + 0.114 * data[4 * i + 2]!;
  return { width, height, data: grey };
}

/** Pictures whose pixels are kept: as many as stand side by side, each 5 MB. */
const KEPT = 8;
const kept = new Map<string, ImageData>();

/** Kept pixels with values: red, green and blue of each are changed in a copy. */
function finished(key: string, values: string): ImageBitmap | null {
  const pixels = kept.get(key);
  if (!pixels) return null;
  const made = new ImageData(pixels.data.slice(), pixels.width, pixels.height);
  tonerOf(values)(made.data, 4);
  const canvas = new OffscreenCanvas(made.width, made.height);
  canvas.getContext('2d')!.putImageData(made, 0, 0);
  return canvas.transferToImageBitmap();
}

scope.onmessage = ({ data: { id, what, bitmap, second, factor, kept: key = '', finish = '' } }) => {
  if (what === 'finish') {
    const made = finished(key, finish);
    return scope.postMessage({ id, finished: made }, made ? [made] : []);
  }
  const pixels = pixelsOf(bitmap!);
  if (what === 'keep') {
    kept.delete(key);
    kept.set(key, pixels);
    for (const [oldest] of [...kept].slice(0, Math.max(0, kept.size - KEPT))) kept.delete(oldest);
    return scope.postMessage({ id }, []);
  }
  if (what === 'light') return scope.postMessage({ id, light: lightIn(pixels.data, 4) }, []);
  if (what === 'similarity') {
    const [one, other] = [greyOf(pixels), greyOf(pixelsOf(second!))];
    const alike = one.width === other.width && one.height === other.height;
    return scope.postMessage({ id, similarity: alike ? similarityBetween(one, other) : null }, []);
  }
  if (what === 'tones') return scope.postMessage({ id, tones: tonesOf(pixels) }, []);
  const over = what === 'clipping' ? clippingOver(pixels) : focusOver(pixels);
  const small = pooled(over, pixels.width, pixels.height, factor);
  scope.postMessage({ id, over: small }, [small.data.buffer]);
};
