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

/** The picture at another, smaller size: each pixel the mean of what it covers. Larger sizes repeat pixels. */
export function resized({ width, height, data }: Grey, toWidth: number, toHeight: number): Grey {
  const across = spans(width, toWidth);
  const down = spans(height, toHeight);
  // First each row by itself, then the rows: what is read once need not be read for each pixel above it.
  const rows = new Float32Array(toWidth * height);
  for (let y = 0; y < height; y++) {
    const from = y * width;
    for (let x = 0; x < toWidth; x++) {
      let sum = 0;
      for (let i = across.from[x]!; i < across.from[x + 1]!; i++)
        sum += data[from + across.at[i]!]! * across.share[i]!;
      rows[y * toWidth + x] = sum;
    }
  }
  const out = new Float32Array(toWidth * toHeight);
  for (let y = 0; y < toHeight; y++)
    for (let i = down.from[y]!; i < down.from[y + 1]!; i++) {
      const from = down.at[i]! * toWidth;
      const share = down.share[i]!;
      for (let x = 0; x < toWidth; x++) out[y * toWidth + x]! += rows[from + x]! * share;
    }
  return { width: toWidth, height: toHeight, data: out };
}

/** Of each new pixel the old ones that it covers, `from[i]` … `from[i + 1]`, with shares that add up to 1. */
function spans(from: number, to: number): { from: Int32Array; at: Int32Array; share: Float32Array } {
  const each = from / to;
  const [starts, at, share]: [number[], number[], number[]] = [[0], [], []];
  for (let i = 0; i < to; i++) {
    const [start, end] = [i * each, Math.min(from, (i + 1) * each)];
    for (let p = Math.floor(start); p < end; p++) {
      const part = (Math.min(end, p + 1) - Math.max(start, p)) / (end - start);
      if (part <= 1e-9) continue;
      at.push(Math.min(from - 1, p));
      share.push(part);
    }
    starts.push(at.length);
  }
  return { from: Int32Array.from(starts), at: Int32Array.from(at), share: Float32Array.from(share) };
}

/** The value between four pixels of a row and the next (bilinear): `at` is the upper left one, `rx` and `ry` 0 … 1 how far beside and beneath it. */
export function between(data: Grey['data'], at: number, width: number, rx: number, ry: number): number {
  const high = data[at]! * (1 - rx) + data[at + 1]! * rx;
  const low = data[at + width]! * (1 - rx) + data[at + width + 1]! * rx;
  return high * (1 - ry) + low * ry;
}
