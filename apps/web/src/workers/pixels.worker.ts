// Looks at a picture's pixels, beside the thread that draws: tones for the histogram, and what is laid over a picture.
import { clippingOver, focusOver, pooled, tonesOf } from '@arkiv/core';
import type { PixelAnswer, PixelOrder } from '../data/pixels';

const scope = self as unknown as {
  onmessage: (event: { data: PixelOrder }) => void;
  postMessage: (answer: PixelAnswer, moved: Transferable[]) => void;
};

scope.onmessage = ({ data: { id, what, bitmap, factor } }) => {
  const { width, height } = bitmap;
  const canvas = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true })!;
  canvas.drawImage(bitmap, 0, 0);
  bitmap.close();
  const pixels = canvas.getImageData(0, 0, width, height);
  if (what === 'tones') return scope.postMessage({ id, tones: tonesOf(pixels) }, []);
  const over = what === 'clipping' ? clippingOver(pixels) : focusOver(pixels);
  const small = pooled(over, width, height, factor);
  scope.postMessage({ id, over: small }, [small.data.buffer]);
};
