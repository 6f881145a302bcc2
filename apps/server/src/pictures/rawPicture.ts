import { createRequire } from 'node:module';
import path from 'node:path';
import { NodeDisk } from '../disk/nodeDisk';

/** RGB, 8 bit, in sRGB, as the sensor lies: nothing is turned. */
export interface DevelopedPicture {
  data: Uint8Array;
  width: number;
  height: number;
}

/** What the module of the package is used for here; it ships types of its worker alone. */
interface LibRaw {
  open(bytes: Uint8Array, settings: Readonly<Record<string, unknown>>): void;
  /** upright by `flip`, whatever is asked for with the picture; bit 2 stands for a quarter turn */
  metadata(full: boolean): { width: number; height: number; flip: number } | undefined;
  /** gives back what it holds */
  delete(): void;
  imageData(): { data: Uint8Array; width: number; height: number; colors: number; bits: number } | undefined;
}
type LibRawModule = (options: {
  wasmBinary: Buffer;
  print: () => void;
  printErr: () => void;
}) => Promise<{ LibRaw: new () => LibRaw }>;

/**
 * One rendering for all frames, so that two of one burst never differ by more than their sensors saw: no brightness and
 * no white level found from the picture itself; white balance as the camera wrote it; sRGB with its own transfer curve
 * (IEC 61966-2-1: power 2.4, slope 12.92). The picture is turned by whoever knows the frame's orientation.
 */
const RENDERING = {
  noAutoBright: true,
  adjustMaximumThr: 0,
  useCameraWb: true,
  outputColor: 1,
  outputBps: 8,
  gamm: [1 / 2.4, 12.92, 0, 0, 0, 0],
  userFlip: 0,
};

const home = path.dirname(createRequire(__filename).resolve('libraw-wasm'));
let binary: Promise<Buffer> | null = null;
/** Bytes: the decoder of today is 1.4 MB. */
const MAX_DECODER = 32 * 1024 * 1024;

/**
 * The decoder's module, loaded once: one for each picture would never be given back (its memory is shared, which the engine keeps; of 60 small
 * raws half a gigabyte stayed). It grows to what the largest picture took. One that broke off in the midst of something is let go of.
 */
let loaded: Promise<{ LibRaw: new () => LibRaw }> | null = null;

async function load(): Promise<{ LibRaw: new () => LibRaw }> {
  binary ??= new NodeDisk().readAll(path.join(home, 'libraw.wasm'), MAX_DECODER);
  const { default: make } = (await import('libraw-wasm/dist/libraw.js')) as { default: LibRawModule };
  return make({ wasmBinary: await binary, print: () => undefined, printErr: () => undefined });
}

/** Each picture has a decoder of its own, which is given back when `work` is done with it. */
async function withDecoder<T>(bytes: Uint8Array, half: boolean, work: (decoder: LibRaw) => T): Promise<T> {
  loaded ??= load();
  const { LibRaw: Decoder } = await loaded.catch((error: unknown) => {
    loaded = null;
    throw error;
  });
  const decoder = new Decoder();
  try {
    said('this raw file is of no kind that can be developed', () =>
      decoder.open(bytes, { ...RENDERING, halfSize: half }),
    );
    return work(decoder);
  } finally {
    said('the decoder cannot be given back', () => decoder.delete());
  }
}

const sizeIn = (decoder: LibRaw): { width: number; height: number } => {
  const { width = 0, height = 0, flip = 0 } = said('it cannot be read', () => decoder.metadata(false)) ?? {};
  if (width === 0 || height === 0) throw new Error('it holds no picture');
  return flip & 4 ? { width: height, height: width } : { width, height };
};

/** Pixels of a raw file's picture, as its sensor lies. Throws an Error with what is wrong in words. */
export const sizeOfRaw = (bytes: Uint8Array): Promise<{ width: number; height: number }> =>
  withDecoder(bytes, true, sizeIn);

/**
 * Develops the sensor's samples of a raw file. Where `side` pixels along the longer side are enough at half its size, each
 * block of four samples gives one pixel: a second for 24 megapixels; whole, some five. Throws an Error with what is wrong
 * in words.
 */
export async function developRaw(
  bytes: Uint8Array,
  { side, pixelLimit }: { side: number; pixelLimit: number },
): Promise<DevelopedPicture> {
  const made = await withDecoder(bytes, true, (decoder) => {
    const { width, height } = sizeIn(decoder);
    if (width * height > pixelLimit) throw new Error('the picture exceeds the limit of pixels');
    return Math.max(width, height) >> 1 < side ? null : pixelsOf(decoder);
  });
  return made ?? withDecoder(bytes, false, pixelsOf);
}

function pixelsOf(decoder: LibRaw): DevelopedPicture {
  const made = said('its samples cannot be developed, or end before the picture does', () =>
    decoder.imageData(),
  );
  if (!made || made.colors !== 3 || made.bits !== 8) throw new Error('its samples give no picture in colour');
  // What the decoder gives lies in its own memory.
  return { data: made.data.slice(), width: made.width, height: made.height };
}

/** What the decoder throws is no Error and has no words. */
function said<T>(words: string, what: () => T): T {
  try {
    return what();
  } catch (error) {
    // It broke off where it stood, and is in no state to go on.
    if ((error as Error | undefined)?.name === 'RuntimeError') loaded = null;
    throw new Error(words, { cause: error });
  }
}
