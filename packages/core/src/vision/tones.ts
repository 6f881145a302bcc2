/** Pixels in red, green, blue and alpha, row by row, as a canvas gives them. */
export interface Rgba {
  width: number;
  height: number;
  data: Uint8ClampedArray;
}

/** How the tones of a picture lie. */
export interface Tones {
  /** pixels by value 0…255 */
  red: Uint32Array;
  green: Uint32Array;
  blue: Uint32Array;
  /** shares of all pixels: those of which a channel is at its end and tells nothing more */
  blown: number;
  drowned: number;
}

/**
 * From here a channel counts as blown, and up to here a pixel as drowned: by one value inside of the end, as JPEG's
 * rounding may move by one what a camera clipped.
 */
export const BLOWN = 254;
export const DROWNED = 1;

/** One channel at its upper end is a colour that is lost; a shadow is lost only when no channel has anything left. */
export const isBlown = (r: number, g: number, b: number): boolean => r >= BLOWN || g >= BLOWN || b >= BLOWN;
export const isDrowned = (r: number, g: number, b: number): boolean =>
  r <= DROWNED && g <= DROWNED && b <= DROWNED;

export function tonesOf({ width, height, data }: Rgba): Tones {
  const [red, green, blue] = [new Uint32Array(256), new Uint32Array(256), new Uint32Array(256)];
  let [blown, drowned] = [0, 0];
  const end = width * height * 4;
  for (let i = 0; i < end; i += 4) {
    const [r, g, b] = [data[i]!, data[i + 1]!, data[i + 2]!];
    red[r]! += 1;
    green[g]! += 1;
    blue[b]! += 1;
    if (isBlown(r, g, b)) blown += 1;
    else if (isDrowned(r, g, b)) drowned += 1;
  }
  const all = Math.max(1, width * height);
  return { red, green, blue, blown: blown / all, drowned: drowned / all };
}

/** Colours of overlays, as red, green, blue, alpha. */
const BLOWN_COLOUR = [255, 40, 60, 220] as const;
const DROWNED_COLOUR = [60, 130, 255, 220] as const;
const SHARP_COLOUR = [90, 255, 120, 235] as const;

/** Pixels to lay over a picture: what is blown, what is drowned, and nothing elsewhere. */
export function clippingOver({ width, height, data }: Rgba): Uint8ClampedArray<ArrayBuffer> {
  const over = new Uint8ClampedArray(width * height * 4);
  for (let i = 0; i < over.length; i += 4) {
    const [r, g, b] = [data[i]!, data[i + 1]!, data[i + 2]!];
    if (isBlown(r, g, b)) over.set(BLOWN_COLOUR, i);
    else if (isDrowned(r, g, b)) over.set(DROWNED_COLOUR, i);
  }
  return over;
}

/**
 * An overlay made smaller by a whole factor: a spot stays one however small, since what is shown is where something is
 * and not how much of it.
 */
export function pooled(
  over: Uint8ClampedArray<ArrayBuffer>,
  width: number,
  height: number,
  factor: number,
): { width: number; height: number; data: Uint8ClampedArray<ArrayBuffer> } {
  if (factor <= 1) return { width, height, data: over };
  const [w, h] = [Math.max(1, Math.floor(width / factor)), Math.max(1, Math.floor(height / factor))];
  const data = new Uint8ClampedArray(w * h * 4);
  for (let y = 0; y < h * factor && y < height; y++)
    for (let x = 0; x < w * factor && x < width; x++) {
      const from = (y * width + x) * 4;
      if (over[from + 3] === 0) continue;
      const to = (Math.floor(y / factor) * w + Math.floor(x / factor)) * 4;
      data.set(over.subarray(from, from + 4), to);
    }
  return { width: w, height: h, data };
}

/**
 * What the Laplacian must find above what the picture's own grain makes of it (its standard deviation is √20 times the
 * grain's), and at least, in greys: grain of a normal distribution reaches four of these in one pixel of 16,000. The
 * least is a choice: an edge that goes over ten pixels stays below it.
 */
const ABOVE_GRAIN = 4;
const AT_LEAST = 12;

/** Pixels to lay over a picture where its edges are sharp: those that stand out of its grain. */
export function focusOver({ width, height, data }: Rgba): Uint8ClampedArray<ArrayBuffer> {
  const grey = new Float32Array(width * height);
  for (let i = 0; i < grey.length; i++)
    // Rec. 601, as JPEG's own luma.
    grey[i] = 0.299 * data[i * 4]! + 0.587 * data[i * 4 + 1]! + 0.114 * data[i * 4 + 2]!;
  const limit = Math.max(AT_LEAST, ABOVE_GRAIN * Math.sqrt(20) * grainOf(grey, width, height));
  const over = new Uint8ClampedArray(width * height * 4);
  for (let y = 1; y < height - 1; y++)
    for (let x = 1; x < width - 1; x++) {
      const i = y * width + x;
      const laplace = Math.abs(
        4 * grey[i]! - grey[i - 1]! - grey[i + 1]! - grey[i - width]! - grey[i + width]!,
      );
      if (laplace > limit) over.set(SHARP_COLOUR, i * 4);
    }
  return over;
}

/** The standard deviation of the grain, in greys: what a mask finds that is blind to edges and slopes (Immerkær 1996). */
function grainOf(grey: Float32Array, width: number, height: number): number {
  if (width < 3 || height < 3) return 0;
  let sum = 0;
  for (let y = 1; y < height - 1; y++)
    for (let x = 1; x < width - 1; x++) {
      const i = y * width + x;
      const [up, low] = [i - width, i + width];
      const beside = grey[i - 1]! + grey[i + 1]! + grey[up]! + grey[low]!;
      sum += Math.abs(
        grey[up - 1]! + grey[up + 1]! + grey[low - 1]! + grey[low + 1]! - 2 * beside + 4 * grey[i]!,
      );
    }
  return (Math.sqrt(Math.PI / 2) * sum) / (6 * (width - 2) * (height - 2));
}
