// Turns a plate into one frame of a card: crop and drift, focus and motion blur, exposure, grain.
import sharp from 'sharp';
import { seeded } from './random.mjs';

const GRAIN_SIDE = 1021; // a prime, so that the tile's repeats never line up with the picture's rows
let grain;

/** One tile of normally distributed noise (Box–Muller) in steps of 1/256, the same for every run. */
function grainTile() {
  if (grain) return grain;
  const random = seeded(77);
  grain = new Int16Array(GRAIN_SIDE * GRAIN_SIDE);
  for (let i = 0; i < grain.length; i += 2) {
    const r = 256 * Math.sqrt(-2 * Math.log(1 - random()));
    const a = 2 * Math.PI * random();
    grain[i] = r * Math.cos(a);
    if (i + 1 < grain.length) grain[i + 1] = r * Math.sin(a);
  }
  return grain;
}

function motionKernel(length) {
  const width = length % 2 ? length : length + 1;
  const kernel = new Array(width * 3).fill(0);
  for (let i = 0; i < width; i++) kernel[width + i] = 1;
  return { width, height: 3, kernel };
}

/** Exposure in stops, as it would be in linear light (sRGB transfer, IEC 61966-2-1). */
export function exposureTable(stops) {
  return Float32Array.from({ length: 256 }, (_, v) => {
    const s = v / 255;
    const linear = (s <= 0.04045 ? s / 12.92 : ((s + 0.055) / 1.055) ** 2.4) * 2 ** stops;
    const e = linear <= 0.0031308 ? 12.92 * linear : 1.055 * linear ** (1 / 2.4) - 0.055;
    return Math.min(255, 255 * e);
  });
}

/** Pixels of a card's width from which its pictures are sharpened: a third of a plate's. */
const SHARPENED = 480;

/** Pixels of a card's width below which it is there for its facts alone. */
const TINY = 120;

/** Upright pixels of a shot: { data [width × height × 3], width, height }. */
export async function developPixels(plate, shot, width, height) {
  const { width: pw, height: ph } = await sharp(plate).metadata();
  const portrait = shot.orientation === 8 || shot.orientation === 6;
  const aspect = portrait ? height / width : width / height;
  const base = Math.min(pw, ph * aspect);
  const cw = Math.floor((base / shot.zoom) * 0.98);
  const ch = Math.floor(cw / aspect);
  const left = Math.round((pw - cw) * Math.min(1, Math.max(0, shot.x)));
  const top = Math.round((ph - ch) * Math.min(1, Math.max(0, shot.y)));
  const [ow, oh] = portrait ? [height, width] : [width, height];
  let image = sharp(plate).extract({ left, top, width: cw, height: ch });
  // Blur is done at the plate's own size, in plain pixels between the steps.
  const pixels = async (from) => {
    const { data, info } = await from.raw().toBuffer({ resolveWithObject: true });
    return sharp(data, { raw: { width: info.width, height: info.height, channels: info.channels } });
  };
  if (shot.defocus) image = (await pixels(image)).blur(shot.defocus);
  if (shot.shake) image = (await pixels(image)).convolve(motionKernel(shot.shake));
  // As cameras do: plates are rendered smooth, and are made larger here. Of small cards' pictures nothing would be left of it.
  if (width >= SHARPENED) image = await pixels((await pixels(image)).sharpen({ sigma: 0.8 }));
  const data = await image.resize(ow, oh, { kernel: 'cubic', fit: 'fill' }).removeAlpha().raw().toBuffer();
  const exposed = exposureTable(shot.stops);
  const tile = grainTile();
  const amount = 1.1 + 0.0011 * shot.iso ** 0.95;
  // More in the middle tones than in the blackest and whitest, as sensors show it after the tone curve. Whole numbers
  // of 1/65,536 step: eighteen million of them a frame are twice as quick as floating ones.
  const table = Int32Array.from(exposed, (v) => Math.round((v + 0.5) * 65536));
  const grainAt = Int32Array.from(exposed, (v) =>
    Math.round(256 * amount * (0.35 + 2.6 * (v / 255) * (1 - v / 255))),
  );
  const shift = Math.floor(shot.seed * 7919) % tile.length;
  // A clamped array cuts to 0…255 by itself.
  const out = new Uint8ClampedArray(data.buffer, data.byteOffset, data.byteLength);
  for (let y = 0; y < oh; y++) {
    const row = ((y + shift) % GRAIN_SIDE) * GRAIN_SIDE;
    let i = shift % GRAIN_SIDE;
    let j = (shift + 313) % GRAIN_SIDE;
    for (let p = y * ow * 3, end = p + ow * 3; p < end; p += 3) {
      const n = tile[row + i];
      const c = tile[row + j] >> 1;
      const r = data[p];
      const g = data[p + 1];
      const b = data[p + 2];
      out[p] = (table[r] + grainAt[r] * (n - c)) >> 16;
      out[p + 1] = (table[g] + grainAt[g] * n) >> 16;
      out[p + 2] = (table[b] + grainAt[b] * (n + c)) >> 16;
      if (++i === GRAIN_SIDE) i = 0;
      if ((j += 2) >= GRAIN_SIDE) j -= GRAIN_SIDE;
    }
  }
  return { data, width: ow, height: oh };
}

/** The sensor's pixels: a portrait is stored lying on its side, with the orientation written beside it. */
export async function developShot(plate, shot, width, height) {
  const upright = await developPixels(plate, shot, width, height);
  const raw = { width: upright.width, height: upright.height, channels: 3 };
  const turn = { 8: 90, 6: 270 }[shot.orientation] ?? 0;
  const { data } = await sharp(upright.data, { raw })
    .rotate(turn)
    .raw()
    .toBuffer({ resolveWithObject: true });
  const lying = { raw: { width, height, channels: 3 } };
  const options = { chromaSubsampling: '4:2:0' };
  // Nothing of a tiny card's pictures is gained by making them larger, and half of the time would go into that.
  const fit = (side) => [side, side, { fit: 'inside', withoutEnlargement: width < TINY }];
  const full = sharp(data, lying)
    .jpeg({ quality: 90, ...options })
    .toBuffer();
  const preview = await sharp(data, lying)
    .resize(...fit(1620))
    .jpeg({ quality: 82, ...options })
    .toBuffer();
  const thumb = await sharp(preview)
    .resize(...fit(160))
    .jpeg({ quality: 70, ...options })
    .toBuffer();
  return { data, full: await full, preview, thumb };
}

/** Bayer samples (RGGB, 14 bit over a black level of 512) as a sensor would have read them, as 16-bit words. */
export function bayer(data, width, height) {
  const table = Uint16Array.from({ length: 256 }, (_, v) => {
    const s = v / 255;
    const linear = s <= 0.04045 ? s / 12.92 : ((s + 0.055) / 1.055) ** 2.4;
    return 512 + Math.round(linear * 15000);
  });
  const out = new Uint16Array(width * height);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const channel = (y % 2) + (x % 2);
      out[y * width + x] = table[data[(y * width + x) * 3 + channel]];
    }
  }
  return Buffer.from(out.buffer);
}
