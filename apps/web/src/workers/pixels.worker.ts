// Looks at a picture's pixels, beside the thread that draws: tones for the histogram, what is laid over a
// picture, and how one picture lies over another.
import { clippingOver, focusOver, pooled, similarityBetween, tonesOf, type Grey } from '@arkiv/core';
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

scope.onmessage = ({ data: { id, what, bitmap, second, factor } }) => {
  const pixels = pixelsOf(bitmap);
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
