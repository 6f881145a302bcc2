/** A picture of greys: `data[y * width + x]`, 0 black … 255 white. */
export interface Grey {
  width: number;
  height: number;
  data: Uint8Array | Float32Array;
}

/** The picture at half its size: each pixel the mean of four. Of odd sizes the last column or row is left out. */
export function halved({ width, height, data }: Grey): Grey {
  const [w, h] = [width >> 1, height >> 1];
  const out = new Float32Array(w * h);
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      const at = 2 * y * width + 2 * x;
      out[y * w + x] = (data[at]! + data[at + 1]! + data[at + width]! + data[at + width + 1]!) / 4;
    }
  return { width: w, height: h, data: out };
}

/** A part of the picture. Pixels outside of it take the value of the nearest one inside. */
export function cut(grey: Grey, left: number, top: number, width: number, height: number): Grey {
  const out = new Float32Array(width * height);
  for (let y = 0; y < height; y++) {
    const row = Math.min(grey.height - 1, Math.max(0, top + y)) * grey.width;
    for (let x = 0; x < width; x++)
      out[y * width + x] = grey.data[row + Math.min(grey.width - 1, Math.max(0, left + x))]!;
  }
  return { width, height, data: out };
}
