import { readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import sharp from 'sharp';
import { DEFAULT_OUTPUT_SPEC } from '@arkiv/core';
import type { PictureSource, RenderOrder } from '../src/pictures/picture.worker';
import { PictureMaker, SCREEN_SIDE, THUMB_SIDE } from '../src/pictures/pictureMaker';
import { makeRaw, RAW_PATCHES } from './madeRaw';
import { removeFolder, temporaryFolder, testCard } from './testArkiv';

describe('making pictures in processes of their own', () => {
  let folder: string;
  let maker: PictureMaker;
  const at = (name: string) => path.join(folder, name);
  /** A JPEG that is made of a picture, by a spec that differs in this from the usual one. */
  const finished = async (source: PictureSource, more: Partial<RenderOrder>): Promise<Uint8Array> => {
    const usual = {
      ...DEFAULT_OUTPUT_SPEC,
      format: 'jpeg',
      sharpen: 'none',
      mark: null,
      exif: {},
      xmp: null,
    } as const;
    return (await maker.render('x', source, [{ ...usual, ...more }], ''))[0]!.bytes;
  };

  beforeEach(() => {
    folder = temporaryFolder();
    maker = new PictureMaker();
  });
  afterEach(async () => {
    await maker.onApplicationShutdown();
    removeFolder(folder);
  });

  /** A picture whose left half is red and right half is blue. */
  async function halves(name: string, width: number, height: number, orientation?: number): Promise<string> {
    const blue = await sharp({ create: { width: width / 2, height, channels: 3, background: '#0000ff' } })
      .png()
      .toBuffer();
    const image = sharp({ create: { width, height, channels: 3, background: '#ff0000' } }).composite([
      { input: blue, left: width / 2, top: 0 },
    ]);
    await (orientation ? image.withMetadata({ orientation }) : image).jpeg({ quality: 95 }).toFile(at(name));
    return at(name);
  }

  /** Mean of a corner of a picture: [red, green, blue]. */
  async function corner(bytes: Uint8Array, left: number, top: number): Promise<number[]> {
    const { data } = await sharp(Buffer.from(bytes))
      .extract({ left, top, width: 4, height: 4 })
      .resize(1, 1)
      .raw()
      .toBuffer({ resolveWithObject: true });
    return [...data.subarray(0, 3)];
  }
  const isRed = ([r, , b]: number[]) => r! > 200 && b! < 60;
  const isBlue = ([r, , b]: number[]) => b! > 200 && r! < 60;

  it('gives thumbnail and screen preview at their sizes, from one decode', async () => {
    const made = await maker.previews(
      'x',
      { input: await halves('x.jpg', 3000, 2000), orientation: null },
      THUMB_SIDE,
      SCREEN_SIDE,
    );
    const [thumb, screen] = await Promise.all(
      [made.thumb, made.screen].map((bytes) => sharp(Buffer.from(bytes)).metadata()),
    );
    expect([thumb!.format, thumb!.width, screen!.format, screen!.width]).toEqual([
      'webp',
      THUMB_SIDE,
      'jpeg',
      SCREEN_SIDE,
    ]);
    expect(isRed(await corner(made.screen, 10, 10))).toBe(true);
    expect(isBlue(await corner(made.screen, SCREEN_SIDE - 20, 10))).toBe(true);
  });

  /** Exif that says no more than DCF's optional colour space: R03, and no profile. */
  const R03 = Buffer.from(
    'ffe10046457869660000' +
      '49492a0008000000' +
      '010069870400010000001a00000000000000' +
      '010005a00400010000002c00000000000000' +
      '010001000200040000005230330000000000',
    'hex',
  );
  /** Values of the optional space, and what they are in sRGB by the reference converter (`transicc -t1`), cut to 0…255. */
  const PATCHES: [number[], number[]][] = [
    [
      [200, 100, 50],
      [227, 100, 42],
    ],
    [
      [220, 200, 180],
      [228, 201, 181],
    ],
    [
      [128, 128, 128],
      [129, 129, 129],
    ],
    [
      [30, 60, 200],
      [0, 57, 205],
    ],
  ];

  it('shows the colours that a camera means by Exif alone, in every size and in what is delivered', async () => {
    const SIDE = 64;
    const pixels = Buffer.alloc(PATCHES.length * SIDE * SIDE * 3);
    for (let y = 0; y < SIDE; y++)
      for (let x = 0; x < PATCHES.length * SIDE; x++)
        pixels.set(PATCHES[Math.floor(x / SIDE)]![0], (y * PATCHES.length * SIDE + x) * 3);
    const plain = await sharp(pixels, { raw: { width: PATCHES.length * SIDE, height: SIDE, channels: 3 } })
      .jpeg({ quality: 100, chromaSubsampling: '4:4:4' })
      .toBuffer();
    const file = at('optional.jpg');
    writeFileSync(file, Buffer.concat([plain.subarray(0, 2), R03, plain.subarray(2)]));
    writeFileSync(at('plain.jpg'), plain);
    const middles = async (bytes: Uint8Array, side = SIDE) =>
      Promise.all(PATCHES.map((_, i) => corner(bytes, i * side + side / 2 - 2, side / 2 - 2)));
    const close = (found: number[][], wanted: number[][]) =>
      found.map((rgb, i) => rgb.map((v, c) => (Math.abs(v - wanted[i]![c]!) <= 3 ? wanted[i]![c]! : v)));
    const [given, meant] = [PATCHES.map(([v]) => v), PATCHES.map(([, v]) => v)];
    const source = { input: file, orientation: null };
    const { thumb, screen } = await maker.previews('x', source, THUMB_SIDE, SCREEN_SIDE);
    const rendered = await finished(source, { size: { by: 'long', pixels: 256 }, quality: 100 });
    for (const bytes of [screen, rendered]) expect(close(await middles(bytes), meant)).toEqual(meant);
    // 320 pixels for four patches.
    expect(close(await middles(thumb, THUMB_SIDE / PATCHES.length), meant)).toEqual(meant);
    // Without Exif's word the same values are sRGB, and stay.
    const other = await maker.previews(
      'y',
      { input: at('plain.jpg'), orientation: null },
      THUMB_SIDE,
      SCREEN_SIDE,
    );
    expect(close(await middles(other.screen), given)).toEqual(given);
  });

  it('never blows a small picture up', async () => {
    const made = await maker.previews(
      'x',
      { input: await halves('x.jpg', 200, 100), orientation: null },
      THUMB_SIDE,
      SCREEN_SIDE,
    );
    expect([made.width, made.height]).toEqual([200, 100]);
  });

  // CIPA DC-008, 4.6.4 A: 6 = the 0th row is the visual right-hand side; 8 = the visual left-hand side.
  it.each([
    [1, [10, 10], [190, 10]],
    [3, [190, 90], [10, 90]],
    [6, [90, 10], [90, 190]],
    [8, [10, 190], [10, 10]],
  ] as const)(
    'turns orientation %i upright, as written in the file or beside it',
    async (orientation, red, blue) => {
      const written = await halves('written.jpg', 200, 100, orientation);
      const plain = readFileSync(await halves('plain.jpg', 200, 100));
      const fromFile = await maker.previews(
        'x',
        { input: written, orientation: null },
        THUMB_SIDE,
        SCREEN_SIDE,
      );
      const fromFacts = await maker.whole('x', { input: plain, orientation });
      for (const bytes of [fromFile.screen, fromFacts]) {
        const { width, height } = await sharp(Buffer.from(bytes)).metadata();
        expect([width, height]).toEqual(orientation >= 5 ? [100, 200] : [200, 100]);
        expect(isRed(await corner(bytes, Math.min(red[0], width - 6), Math.min(red[1], height - 6)))).toBe(
          true,
        );
        expect(isBlue(await corner(bytes, Math.min(blue[0], width - 6), Math.min(blue[1], height - 6)))).toBe(
          true,
        );
      }
    },
  );

  it.each([
    ['cut off in its head', (jpeg: Buffer) => jpeg.subarray(0, 100)],
    ['no picture', () => Buffer.from('not a picture at all')],
    ['empty', () => Buffer.alloc(0)],
  ])('names a file that is %s, and goes on with the next', async (_, spoil) => {
    writeFileSync(at('bad.jpg'), spoil(readFileSync(await halves('x.jpg', 600, 400))));
    await expect(
      maker.previews('bad.jpg', { input: at('bad.jpg'), orientation: null }, THUMB_SIDE, SCREEN_SIDE),
    ).rejects.toMatchObject({
      code: 'picture.undecodable',
      details: { file: 'bad.jpg' },
    });
    expect(
      (await maker.previews('x', { input: at('x.jpg'), orientation: null }, THUMB_SIDE, SCREEN_SIDE)).width,
    ).toBe(600);
  });

  it('shows what decodes of a file that is cut off, and says that it is not all', async () => {
    const whole = readFileSync(await halves('x.jpg', 600, 400, 6));
    writeFileSync(at('half.jpg'), whole.subarray(0, whole.length >> 1));
    const order = (name: string) => ({ input: at(name), orientation: null });
    const made = await maker.previews('half.jpg', order('half.jpg'), THUMB_SIDE, SCREEN_SIDE);
    expect([made.incomplete, made.width, made.height]).toEqual([true, 400, 600]);
    // What was its left is above now; of that the upper half of the file has what lies on the right.
    expect(isRed(await corner(made.screen, 390, 10))).toBe(true);
    expect((await maker.previews('x.jpg', order('x.jpg'), THUMB_SIDE, SCREEN_SIDE)).incomplete).toBe(false);
  });

  describe('of a raw file with nothing but a thumbnail inside', () => {
    const raw = (orientation = 1, instead: Uint8Array | null = null) => ({
      ...{ raw: at('only.dng'), orientation, instead },
    });
    /** The patches' middles, in a picture in which they stand side by side. */
    const patches = async (bytes: Uint8Array): Promise<number[][]> => {
      const { width, height } = await sharp(Buffer.from(bytes)).metadata();
      const each = width / RAW_PATCHES.length;
      return Promise.all(
        RAW_PATCHES.map((_, i) => corner(bytes, Math.round((i + 0.5) * each) - 2, height >> 1)),
      );
    };
    /** Steps of 8 bits: JPEG at quality 80 alone moves a flat colour by two. */
    const STEPS = 3;
    const near = (found: number[][]) =>
      found.map((rgb, i) =>
        rgb.map((v, c) => (Math.abs(v - RAW_PATCHES[i]![c]!) <= STEPS ? RAW_PATCHES[i]![c] : v)),
      );

    it('develops its samples in the colours that its sensor saw, smaller and in all its pixels', async () => {
      makeRaw(at('only.dng'));
      const made = await maker.previews('only.dng', raw(), THUMB_SIDE, 640);
      expect([made.developed, made.incomplete, made.width, made.height]).toEqual([true, false, 640, 320]);
      expect(near(await patches(made.screen))).toEqual(RAW_PATCHES);
      const whole = await maker.whole('only.dng', raw());
      expect(await sharp(Buffer.from(whole)).metadata()).toMatchObject({ width: 1600, height: 800 });
      expect(near(await patches(whole))).toEqual(RAW_PATCHES);
      const rendered = await finished(raw(), { size: { by: 'long', pixels: 800 }, quality: 95 });
      expect(near(await patches(rendered))).toEqual(RAW_PATCHES);
    });

    it('turns it upright, and measures it without developing it', async () => {
      makeRaw(at('only.dng'), { orientation: 6 });
      const made = await maker.previews('only.dng', raw(6), THUMB_SIDE, 640);
      expect([made.width, made.height]).toEqual([320, 640]);
      // What was its left, the white, is above now.
      expect(await corner(made.screen, 160, 20)).toEqual([255, 255, 255]);
      expect(await maker.measure('only.dng', raw(6))).toEqual({ width: 800, height: 1600 });
    });

    it('shows the thumbnail where the samples cannot be developed, and says what is wrong without one', async () => {
      makeRaw(at('whole.dng'));
      const bytes = readFileSync(at('whole.dng'));
      writeFileSync(at('only.dng'), bytes.subarray(0, bytes.length >> 1));
      const small = await sharp({ create: { width: 160, height: 80, channels: 3, background: '#ff0000' } })
        .jpeg()
        .toBuffer();
      const made = await maker.previews('only.dng', raw(1, small), THUMB_SIDE, 640);
      expect([made.developed, made.width]).toEqual([false, 160]);
      expect(isRed(await corner(made.screen, 80, 40))).toBe(true);
      await expect(maker.previews('only.dng', raw(), THUMB_SIDE, 640)).rejects.toMatchObject({
        code: 'picture.undecodable',
        details: { reason: expect.stringContaining('cannot be developed') as string },
      });
    });
  });

  it('turns a picture of 500 megapixels away at once', async () => {
    // A PNG header that claims 25,000 × 20,000 pixels.
    const png = await sharp({ create: { width: 1, height: 1, channels: 3, background: '#000' } })
      .png()
      .toBuffer();
    png.writeUInt32BE(25_000, 16);
    png.writeUInt32BE(20_000, 20);
    writeFileSync(at('bomb.png'), png);
    await expect(
      maker.previews('bomb.png', { input: at('bomb.png'), orientation: null }, THUMB_SIDE, SCREEN_SIDE),
    ).rejects.toMatchObject({ code: 'picture.undecodable' });
  });

  it('delivers the size, profile and metadata that were ordered, and nothing of the original’s', async () => {
    const input = path.join(testCard(), 'DCIM/100OCKHM/OCK_9975.JPG');
    const source = { input, orientation: null };
    const order = { sharpen: 'screen', exif: { Artist: 'Ada' }, size: { by: 'long', pixels: 120 } } as const;
    const facts = await sharp(Buffer.from(await finished(source, order))).metadata();
    expect([facts.width, facts.height, facts.space, Boolean(facts.icc), facts.xmp]).toEqual([
      120,
      80,
      'srgb',
      true,
      undefined,
    ]);
    expect(facts.exif!.toString('latin1')).toContain('Ada');
    expect(facts.exif!.toString('latin1')).not.toContain('OK5-004217');
    const bare = await sharp(Buffer.from(await finished(source, { ...order, exif: {} }))).metadata();
    expect(bare.exif).toBeUndefined();
  });

  it('sharpens only when asked, and for paper more than for a screen', async () => {
    const source = { input: path.join(testCard(), 'DCIM/100OCKHM/OCK_9975.JPG'), orientation: null };
    const spread = async (sharpen: RenderOrder['sharpen']) => {
      const bytes = await finished(source, { sharpen, quality: 95, size: { by: 'long', pixels: 120 } });
      return (await sharp(Buffer.from(bytes)).greyscale().stats()).channels[0]!.stdev;
    };
    const [none, screen, paper] = [await spread('none'), await spread('screen'), await spread('paper')];
    expect(screen).toBeGreaterThan(none);
    expect(paper).toBeGreaterThan(screen);
  });

  it('measures the upright size', async () => {
    expect(
      await maker.measure('x', { input: await halves('x.jpg', 200, 100, 6), orientation: null }),
    ).toEqual({ width: 100, height: 200 });
    expect(
      await maker.measure('x', { input: readFileSync(await halves('y.jpg', 200, 100)), orientation: 8 }),
    ).toEqual({ width: 100, height: 200 });
  });

  it('does nothing more once the server stops', async () => {
    await maker.onApplicationShutdown();
    await expect(maker.measure('x', { input: Buffer.alloc(0), orientation: null })).rejects.toMatchObject({
      code: 'picture.undecodable',
    });
  });
});
