import { execFileSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import path from 'node:path';
import { filesBelow, removeFolder, ROOT, temporaryFolder } from './testArkiv';

const CARDS = ['press-night-a', 'press-night-b', 'catalogue', 'regatta-1', 'regatta-2'] as const;
type Card = (typeof CARDS)[number];

interface Tags {
  SourceFile: string;
  DateTimeOriginal?: string;
  SubSecTimeOriginal?: string;
  OffsetTimeOriginal?: string;
  SerialNumber?: string;
  LensModel?: string;
  ExposureTime?: string;
  FNumber?: number;
  ISO?: number;
  Orientation?: string;
  ThumbnailImage?: string;
  PreviewImage?: string;
  MPImage2?: string;
  Warning?: string;
}

function make(card: Card, out: string, ...more: string[]): void {
  execFileSync(process.execPath, [
    path.join(ROOT, 'tools/demo/make-card.mjs'),
    '--out',
    out,
    '--card',
    card,
    '--side',
    '96',
    ...more,
  ]);
}

const digest = (file: string) => createHash('sha256').update(readFileSync(file)).digest('hex');

describe('the demo’s season', () => {
  const root = temporaryFolder();
  const tags = new Map<Card, Tags[]>();
  const files = new Map<Card, string[]>();

  beforeAll(() => {
    for (const card of CARDS) {
      make(card, path.join(root, card));
      files.set(card, filesBelow(path.join(root, card)));
      // The reference metadata tool reads what our writer wrote.
      const json = execFileSync(
        'exiftool',
        ['-j', '-r', '-ext', 'jpg', '-ext', 'dng', path.join(root, card)],
        {
          encoding: 'utf8',
          maxBuffer: 1e8,
        },
      );
      tags.set(card, JSON.parse(json) as Tags[]);
    }
  });
  afterAll(() => removeFolder(root));

  const all = () => CARDS.flatMap((card) => tags.get(card)!);
  const named = (card: Card, end: string) => files.get(card)!.filter((file) => file.endsWith(end));
  const seconds = (tag: Tags) =>
    Date.parse(`${tag.DateTimeOriginal!.replace(/^(\d+):(\d+):(\d+) /, '$1-$2-$3T')}Z`) / 1000;

  it('is about three hundred frames on five cards', () => {
    const jpegs = CARDS.map((card) => named(card, '.JPG').length);
    expect(jpegs[0]).toBe(57);
    expect(jpegs.reduce((a, b) => a + b)).toBeGreaterThan(270);
    expect(jpegs.reduce((a, b) => a + b)).toBeLessThan(330);
  });

  it('has full Exif in every picture, and a thumbnail and a preview inside', () => {
    for (const tag of all()) {
      expect(tag.Warning).toBeUndefined();
      expect(tag.DateTimeOriginal).toMatch(/^2026:(09|10):\d\d \d\d:\d\d:\d\d$/);
      expect(String(tag.SubSecTimeOriginal)).toMatch(/^\d{1,3}$/);
      expect(tag.OffsetTimeOriginal).toBe('+02:00');
      expect(tag.SerialNumber).toMatch(/^OK[35]-\d{6}$/);
      expect(tag.LensModel).toMatch(/^Ockham/);
      expect([tag.FNumber, tag.ISO, tag.ExposureTime].every(Boolean)).toBe(true);
      if (tag.SourceFile.endsWith('.JPG')) {
        expect(tag.ThumbnailImage).toMatch(/^\(Binary data/);
        expect(tag.MPImage2 ?? tag.PreviewImage).toMatch(/^\(Binary data/);
      }
    }
  });

  it('has two bodies at the theatre, whose clocks differ by three and a half minutes', () => {
    const [a, b] = [tags.get('press-night-a')!, tags.get('press-night-b')!];
    expect(new Set(a.map((t) => t.SerialNumber))).toEqual(new Set(['OK5-004217']));
    expect(new Set(b.map((t) => t.SerialNumber))).toEqual(new Set(['OK3-001186']));
    // The bow at the evening's end was taken by both at the same moment.
    const last = (list: Tags[]) => Math.max(...list.map(seconds));
    expect(last(a) - last(b)).toBeGreaterThan(150);
    expect(last(a) - last(b)).toBeLessThan(260);
  });

  it('has equal file names on two cards of one shoot, with different pictures', () => {
    const twice = (one: Card, two: Card) =>
      named(one, '.JPG').filter((file) => named(two, '.JPG').includes(file));
    expect(twice('press-night-a', 'press-night-b').length).toBeGreaterThan(10);
    const equal = twice('regatta-1', 'regatta-2');
    expect(equal.length).toBeGreaterThan(10);
    for (const file of equal)
      expect(digest(path.join(root, 'regatta-1', file))).not.toBe(digest(path.join(root, 'regatta-2', file)));
  });

  it('has exact doubles, raw and JPEG pairs, a clip and voice notes', () => {
    const sums = named('catalogue', '.JPG').map((file) => digest(path.join(root, 'catalogue', file)));
    expect(sums.length - new Set(sums).size).toBe(3);
    for (const card of ['press-night-a', 'catalogue', 'regatta-1'] as const)
      for (const raw of named(card, '.DNG')) expect(files.get(card)).toContain(raw.replace(/\.DNG$/, '.JPG'));
    expect(CARDS.map((card) => named(card, '.WAV').length)).toEqual([1, 0, 0, 1, 0]);
    const [clip] = named('regatta-1', '.MOV');
    const facts = execFileSync(
      'exiftool',
      ['-s3', '-ImageSize', '-CompressorID', '-Duration#', '-FileType', path.join(root, 'regatta-1', clip!)],
      { encoding: 'utf8' },
    );
    expect(facts.trim().split('\n')).toEqual(['960x540', 'jpeg', '2', 'MOV']);
  });

  it('has bursts, brackets in both directions, and portraits lying on their side', () => {
    const times = tags.get('regatta-1')!.map((t) => seconds(t) + Number(`0.${t.SubSecTimeOriginal}`));
    expect(
      times.sort((x, y) => x - y).filter((t, i) => i > 0 && t - times[i - 1]! < 0.3).length,
    ).toBeGreaterThan(20);
    const bracket = tags
      .get('catalogue')!
      .slice(0, 6)
      .map((t) => t.ExposureTime);
    expect(new Set(bracket).size).toBeGreaterThan(2);
    expect(all().filter((t) => t.Orientation === 'Rotate 270 CW').length).toBeGreaterThan(10);
  });

  it('comes out the same for the same seed, and otherwise for another', () => {
    const sums = (folder: string) => filesBelow(folder).map((file) => digest(path.join(folder, file)));
    make('regatta-2', path.join(root, 'again'));
    make('regatta-2', path.join(root, 'other'), '--seed', '2');
    expect(sums(path.join(root, 'again'))).toEqual(sums(path.join(root, 'regatta-2')));
    expect(sums(path.join(root, 'other'))).not.toEqual(sums(path.join(root, 'regatta-2')));
  });

  it('can be made large: as many frames as asked for, no two alike', () => {
    make('catalogue', path.join(root, 'large'), '--frames', '250');
    const sums = filesBelow(path.join(root, 'large')).map((file) => digest(path.join(root, 'large', file)));
    expect(sums).toHaveLength(250);
    expect(new Set(sums).size).toBe(250);
  });

  it('names the cards there are when another is asked for', () => {
    expect(() =>
      execFileSync(
        process.execPath,
        [path.join(ROOT, 'tools/demo/make-card.mjs'), '--out', path.join(root, 'x'), '--card', 'nope'],
        { stdio: 'pipe' },
      ),
    ).toThrow(/There is no card “nope”: choose one of press-night-a, press-night-b/);
  });
});
