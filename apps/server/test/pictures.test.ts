import { readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import sharp from 'sharp';
import { PictureMaker, SCREEN_SIDE, THUMB_SIDE } from '../src/pictures/pictureMaker';
import { removeFolder, temporaryFolder, testCard } from './testArkiv';

describe('making pictures in processes of their own', () => {
  let folder: string;
  let maker: PictureMaker;
  const at = (name: string) => path.join(folder, name);

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
      const fromFacts = await maker.embedded('x', { input: plain, orientation });
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
    const source = path.join(testCard(), 'DCIM/100OCKHM/OCK_9975.JPG');
    const order = {
      input: source,
      orientation: null,
      width: 120,
      height: 80,
      quality: 80,
      sharpen: true,
      exif: { Artist: 'Ada' },
      xmp: null,
    };
    const facts = await sharp(Buffer.from(await maker.render('x', order))).metadata();
    expect([facts.width, facts.height, facts.space, Boolean(facts.icc), facts.xmp]).toEqual([
      120,
      80,
      'srgb',
      true,
      undefined,
    ]);
    expect(facts.exif!.toString('latin1')).toContain('Ada');
    expect(facts.exif!.toString('latin1')).not.toContain('OK5-004217');
    const bare = await sharp(Buffer.from(await maker.render('x', { ...order, exif: {} }))).metadata();
    expect(bare.exif).toBeUndefined();
  });

  it('sharpens only when asked', async () => {
    const source = path.join(testCard(), 'DCIM/100OCKHM/OCK_9975.JPG');
    const order = {
      input: source,
      orientation: null,
      width: 120,
      height: 80,
      quality: 95,
      exif: {},
      xmp: null,
    };
    const spread = async (sharpen: boolean) =>
      (
        await sharp(Buffer.from(await maker.render('x', { ...order, sharpen })))
          .greyscale()
          .stats()
      ).channels[0]!.stdev;
    expect(await spread(true)).toBeGreaterThan(await spread(false));
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
