import { execFileSync } from 'node:child_process';
import { cpSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import sharp from 'sharp';
import {
  filesBelow,
  outsideManifest,
  removeFolder,
  startArkiv,
  temporaryFolder,
  testCard,
  volumeOf,
  type TestArkiv,
} from './testArkiv';

interface Card {
  fingerprint: string;
  frames: {
    key: string;
    base: string;
    files: { path: string; role: string; format: string; raw: boolean }[];
    facts: { capture: { local: string; offsetMinutes: number | null } | null; seconds: number | null };
  }[];
  extras: { path: string }[];
}

const FIXTURES = path.join(__dirname, 'fixtures');
const WIDTH = 320;
const HEIGHT = 240;

/** White square at the upper left, amber on the left, slate on the right: shows turns, colours and where a file ends. */
function pattern(): sharp.Sharp {
  const data = Buffer.alloc(WIDTH * HEIGHT * 3);
  for (let y = 0; y < HEIGHT; y++)
    for (let x = 0; x < WIDTH; x++)
      data.set(
        x < 60 && y < 60 ? [250, 250, 250] : x < WIDTH / 2 ? [200, 140, 40] : [50, 70, 110],
        (y * WIDTH + x) * 3,
      );
  return sharp(data, { raw: { width: WIDTH, height: HEIGHT, channels: 3 } });
}

// The way to four inks and back takes up to 34 from these colours; JPEG alone a few.
const INKS = 36;
const near = (found: readonly number[], wanted: readonly number[], by = 12): boolean =>
  wanted.every((value, i) => Math.abs(value - found[i]!) <= by);
const AMBER = [200, 140, 40];
const SLATE = [50, 70, 110];
const WHITE = [250, 250, 250];

async function pixel(bytes: Buffer, x: number, y: number): Promise<number[]> {
  const { data, info } = await sharp(bytes).removeAlpha().raw().toBuffer({ resolveWithObject: true });
  const at = (Math.round(y * info.height) * info.width + Math.round(x * info.width)) * info.channels;
  return [...data.subarray(at, at + 3)];
}

/** A TIFF-like raw whose directory lies behind its picture, and whose picture lies at the end of a file of 1.5 MB. */
function rawWithPictureAtTheEnd(jpeg: Buffer, atEnd: boolean): Buffer {
  const before = 1_500_000;
  const ifd = Buffer.alloc(2 + 4 * 12 + 4);
  ifd.writeUInt16LE(4, 0);
  const entry = (i: number, tag: number, value: number) => {
    ifd.writeUInt16LE(tag, 2 + i * 12);
    ifd.writeUInt16LE(4, 4 + i * 12);
    ifd.writeUInt32LE(1, 6 + i * 12);
    ifd.writeUInt32LE(value, 10 + i * 12);
  };
  entry(0, 0x0100, WIDTH);
  entry(1, 0x0101, HEIGHT);
  entry(2, 0x0201, before);
  entry(3, 0x0202, jpeg.length);
  const head = Buffer.alloc(8);
  head.write('II*\0', 'latin1');
  head.writeUInt32LE(atEnd ? before + jpeg.length : 8, 4);
  const filling = Buffer.alloc(before - 8 - (atEnd ? 0 : ifd.length), 0x11);
  return atEnd ? Buffer.concat([head, filling, jpeg, ifd]) : Buffer.concat([head, ifd, filling, jpeg]);
}

describe('a card with pictures of every format', () => {
  let arkiv: TestArkiv;
  let data: string;
  let root: string;
  let reader: string;
  const inside = (name: string) => path.join(root, 'DCIM/100OCKHM', name);

  beforeAll(async () => {
    data = temporaryFolder();
    root = path.join(data, 'card');
    mkdirSync(path.join(root, 'DCIM/100OCKHM'), { recursive: true });
    await pattern().png().toFile(inside('IMG_0001.PNG'));
    await pattern().webp({ quality: 95 }).toFile(inside('IMG_0002.WEBP'));
    await pattern().avif({ quality: 90 }).toFile(inside('IMG_0003.AVIF'));
    await pattern().toColourspace('rgb16').tiff({ compression: 'lzw' }).toFile(inside('IMG_0004.TIF'));
    await pattern().toColourspace('cmyk').tiff().toFile(inside('IMG_0005.TIFF'));
    await pattern().gif().toFile(inside('IMG_0006.GIF'));
    const page = await pattern().raw().toBuffer();
    const pages = Buffer.concat([page, Buffer.alloc(page.length, 9)]);
    await sharp(pages, { raw: { width: WIDTH, height: HEIGHT * 2, channels: 3, pageHeight: HEIGHT } })
      .tiff()
      .toFile(inside('IMG_0007.TIF'));
    cpSync(path.join(FIXTURES, 'turned-p3.heic'), inside('IMG_0008.HEIC'));
    // The brands of a bare JPEG XL codestream and container (ISO/IEC 18181-2); nothing here decodes them.
    writeFileSync(inside('IMG_0009.JXL'), Buffer.concat([Buffer.from([0xff, 0x0a]), Buffer.alloc(500, 7)]));
    const whole = await pattern().jpeg({ quality: 95 }).toBuffer();
    writeFileSync(inside('IMG_0010.JPG'), whole.subarray(0, Math.round(whole.length * 0.5)));
    writeFileSync(inside('IMG_0011.NEF'), rawWithPictureAtTheEnd(whole, false));
    writeFileSync(inside('IMG_0012.PEF'), rawWithPictureAtTheEnd(whole, true));
    writeFileSync(inside('IMG_0013.X3F'), Buffer.concat([Buffer.from('FOVb'), Buffer.alloc(900, 3)]));
    // The directory names a picture beyond the end: the card's last file when its battery went.
    writeFileSync(inside('IMG_0014.NEF'), rawWithPictureAtTheEnd(whole, false).subarray(0, 1_400_000));
    // A telephone's JPEG under the name of a HEIC, and a drawing under the name of a JPEG.
    await pattern().jpeg({ quality: 95 }).toFile(inside('IMG_0015.HEIC'));
    writeFileSync(inside('IMG_0016.JPG'), '<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"/>');
    for (const [name, from] of Object.entries({
      MP4: 'mp4',
      MOV: 'mov',
      MTS: 'm2ts',
      AVI: 'avi',
      MXF: 'mxf',
    }))
      cpSync(path.join(FIXTURES, `clip.${from}`), inside(`CLIP_${name}.${name}`));
    // Some makers' raws lie in the container of a clip: here a clip's own file stands for one.
    cpSync(path.join(FIXTURES, 'clip.mov'), inside('RAW_0001.CR3'));
    cpSync(path.join(testCard(), 'DCIM/100OCKHM/OCK_9975.JPG'), inside('OCK_9975.JPG'));
    arkiv = await startArkiv(data);
    reader = (await arkiv.post<{ id: string }>('/readers', { root, name: 'A folder' })).id;
  });
  afterAll(async () => {
    await arkiv.stop();
    removeFolder(data);
  });

  const card = () => arkiv.get<Card>(`/readers/${reader}/card`);
  const onCard = async (name: string, size: 'thumb' | 'large' = 'thumb') => {
    const query = `size=${size}&path=${encodeURIComponent(`DCIM/100OCKHM/${name}`)}`;
    const response = await fetch(`${arkiv.base}/api/readers/${reader}/picture?${query}`);
    return {
      status: response.status,
      type: response.headers.get('content-type'),
      bytes: Buffer.from(await response.arrayBuffer()),
    };
  };

  it('tells part, format and raw of each file apart', async () => {
    const kinds = (await card()).frames.flatMap((f) => f.files.map((x) => [x.role, x.format, x.raw]));
    const told = (format: string) => kinds.find(([, f]) => f === format);
    expect(told('tiff')).toEqual(['original', 'tiff', false]);
    expect(told('png')).toEqual(['original', 'png', false]);
    expect(told('nef')).toEqual(['original', 'nef', true]);
    expect(told('mxf')).toEqual(['clip', 'mxf', false]);
    expect((await card()).extras).toEqual([]);
  });

  it.each([
    'IMG_0001.PNG',
    'IMG_0002.WEBP',
    'IMG_0003.AVIF',
    'IMG_0004.TIF',
    'IMG_0005.TIFF',
    'IMG_0006.GIF',
    'IMG_0007.TIF',
    'IMG_0011.NEF',
    'IMG_0012.PEF',
    'IMG_0015.HEIC',
  ])('shows %s on the card’s sheet, as the JPEG that it says it is', async (name) => {
    for (const size of ['thumb', 'large'] as const) {
      const { status, type, bytes } = await onCard(name, size);
      expect([status, type]).toEqual([200, 'image/jpeg']);
      expect((await sharp(bytes).metadata()).format).toBe('jpeg');
      const by = name.endsWith('TIFF') ? INKS : undefined;
      expect(near(await pixel(bytes, 0.35, 0.6), AMBER, by)).toBe(true);
      expect(near(await pixel(bytes, 0.8, 0.6), SLATE, by)).toBe(true);
    }
  });

  it('shows a HEIC upright and in its own colours, never as the file it is', async () => {
    const { status, type, bytes } = await onCard('IMG_0008.HEIC', 'large');
    const { format, width, height } = await sharp(bytes).metadata();
    expect([status, type, format, width, height]).toEqual([200, 'image/jpeg', 'jpeg', HEIGHT, WIDTH]);
    // Turned to the right: what was at the upper left is at the upper right.
    expect(near(await pixel(bytes, 0.95, 0.05), WHITE)).toBe(true);
    // Display P3 taken for sRGB would come out with a red under 195 and a blue over 55.
    const [red, , blue] = await pixel(bytes, 0.4, 0.2);
    expect([red! > 196, blue! < 50]).toEqual([true, true]);
    expect(near(await pixel(bytes, 0.4, 0.9), SLATE)).toBe(true);
  });

  it.each([
    ['IMG_0009.JXL', 404, /JPEG XL is not decoded/],
    ['IMG_0013.X3F', 404, /X3F is not decoded/],
    ['IMG_0016.JPG', 422, /cannot be decoded/],
  ])('says of %s why it shows nothing', async (name, status, words) => {
    const answer = await onCard(name);
    expect(answer.status).toBe(status);
    expect(JSON.parse(answer.bytes.toString()).message).toMatch(words);
  });

  it.each([
    ['CLIP_MP4', 2, '2031-04-18T20:05:10'],
    ['CLIP_MOV', 2, '2031-04-18T20:05:10'],
    ['CLIP_MXF', 1, '2031-04-18T20:05:10'],
    ['CLIP_AVI', 2, null],
    ['CLIP_MTS', 2, null],
  ])('reads length and time of %s from its own headers', async (base, seconds, local) => {
    const { facts } = (await card()).frames.find((f) => f.base === base)!;
    expect(Math.round(facts.seconds!)).toBe(seconds);
    expect(facts.capture?.local ?? null).toBe(local);
  });

  it('takes no raw for a clip, whatever its container says', async () => {
    const { facts } = (await card()).frames.find((f) => f.base === 'RAW_0001')!;
    expect(facts.seconds).toBeNull();
  });

  it('takes it all in, shows what can be shown, and says which files are incomplete', async () => {
    const { fingerprint } = await card();
    const volumes = await arkiv.get<{ id: string; role: string }[]>('/volumes');
    const { folders } = await arkiv.get<{ folders: object }>('/settings');
    const { body } = await arkiv.ask<{ jobId: string; shootId: string }>('POST', '/intakes', {
      readerId: reader,
      fingerprint,
      title: 'Every format',
      date: '2031-04-18',
      client: '',
      place: '',
      pattern: '{original}',
      folders,
      seqStart: 1,
      zoneMinutes: 0,
      targets: volumes.filter((v) => v.role !== 'edit').map((v) => v.id),
    });
    expect((await arkiv.rest(body.jobId)).failures).toEqual([]);
    const kept = new Set(outsideManifest(volumeOf(data, 'working')).values());
    for (const sum of outsideManifest(root).values()) expect(kept).toContain(sum);
    const frames = await arkiv.frames(body.shootId);
    const at = (name: string) => frames.name.indexOf(name);
    const preview = (name: string, size: string) =>
      fetch(`${arkiv.base}/api/previews/v2/${frames.picture[at(name)]}/${size}`);
    for (const n of [1, 2, 3, 4, 5, 6, 7, 8, 10, 11, 12, 15]) {
      const name = `IMG_00${String(n).padStart(2, '0')}`;
      const [thumb, screen] = [await preview(name, 'thumb'), await preview(name, 'screen')];
      expect([name, thumb.status, screen.status]).toEqual([name, 200, 200]);
      const bytes = Buffer.from(await screen.arrayBuffer());
      if (n !== 8) expect(near(await pixel(bytes, 0.35, 0.1), AMBER, n === 5 ? INKS : undefined)).toBe(true);
    }
    expect((await preview('IMG_0009', 'screen')).status).toBe(404);
    expect((await preview('IMG_0014', 'screen')).status).toBe(404);
    const after = (await arkiv.frames(body.shootId)) as unknown as Record<string, unknown[]>;
    const signed = (after.name as string[]).filter((_, i) => after.sign![i] !== null);
    expect(signed.sort()).toEqual(['IMG_0010', 'IMG_0014']);
    expect(after.sign![at('IMG_0010')]).toBe('incomplete file');
    // They sort where they belong: a clip stands after the pictures that were taken before it.
    expect(at('CLIP_MP4')).toBeGreaterThan(at('IMG_0008'));
    expect(after.seconds![at('CLIP_MP4')]).toBe(2);
    expect([after.role![at('CLIP_MP4')], after.raw![at('IMG_0011')], after.format![at('IMG_0004')]]).toEqual([
      'clip',
      'only',
      'tiff',
    ]);
  });

  const ffmpeg = (() => {
    try {
      execFileSync('ffmpeg', ['-version'], { stdio: 'ignore' });
      return true;
    } catch {
      return false;
    }
  })();

  it(`shows ${ffmpeg ? 'a poster of a clip' : 'no poster of a clip where the machine has no ffmpeg, and says so'}`, async () => {
    const { status, bytes } = await onCard('CLIP_MP4.MP4', 'large');
    if (!ffmpeg) {
      expect([status, JSON.parse(bytes.toString()).code]).toEqual([404, 'picture.clip']);
      return;
    }
    const { width, height } = await sharp(bytes).metadata();
    expect([status, width, height]).toEqual([200, 96, 64]);
  });

  it('changes nothing on the card', () => {
    expect(filesBelow(root)).toHaveLength(23);
    expect(
      readFileSync(inside('IMG_0008.HEIC')).equals(readFileSync(path.join(FIXTURES, 'turned-p3.heic'))),
    ).toBe(true);
  });
});
