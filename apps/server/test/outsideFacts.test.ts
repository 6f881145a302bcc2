import { execFileSync } from 'node:child_process';
import { readFileSync, rmSync } from 'node:fs';
import path from 'node:path';
import { factsFromTags, findEmbeddedJpegs, kindOf } from '@arkiv/core';
import sharp from 'sharp';
import { NodeDisk } from '../src/disk/nodeDisk';
import { listCard, scanCard } from '../src/readers/cardScan';
import { Contents } from '../src/metadata/contents.service';
import { MetadataTool } from '../src/metadata/metadataTool';
import { Parser } from '../src/metadata/parser';
import { readTags } from '../src/metadata/tags';
import { filesBelow, temporaryFolder, testCard } from './testArkiv';

interface Reference {
  SourceFile: string;
  DateTimeOriginal: string;
  SubSecTimeOriginal: number;
  OffsetTimeOriginal: string;
  ExposureTime: number;
  FNumber: number;
  ISO: number;
  FocalLength: number;
  Model: string;
  SerialNumber: string;
  LensModel: string;
  Orientation: number;
}

describe('facts of the demo card, held against the reference metadata tool', () => {
  const card = testCard();
  const pictures = filesBelow(card).filter((f) => kindOf(f).role === 'original');
  const reference = JSON.parse(
    execFileSync('exiftool', ['-j', '-n', '-IFD0:all', '-ExifIFD:all', ...pictures], {
      cwd: card,
      encoding: 'utf8',
      maxBuffer: 1e8,
      stdio: ['ignore', 'pipe', 'ignore'],
    }),
  ) as Reference[];

  it('covers raw files and JPEGs', () =>
    expect([reference.length, pictures.filter((p) => p.endsWith('DNG')).length]).toEqual([70, 13]));

  it('gives all that a camera wrote, and nothing of where the file lies', async () => {
    const tool = new MetadataTool();
    try {
      const contents = new Contents(new NodeDisk(), new Parser(), tool);
      const raw = path.join(
        card,
        pictures.find((p) => p.endsWith('DNG'))!,
      );
      const groups = (await contents.everything(raw))!;
      const told = JSON.parse(
        execFileSync('exiftool', ['-j', '-G1', '-a', raw], { encoding: 'utf8', maxBuffer: 1e8 }),
      ) as Record<string, unknown>[];
      // Which further groups the tool makes up itself differs from version to version.
      const wanted = Object.keys(told[0]!).filter((key) => key.startsWith('ExifIFD:'));
      const exif = groups.find(({ name }) => name === 'Exif')!.facts;
      expect([exif.length, wanted.length > 10]).toEqual([wanted.length, true]);
      expect(exif).toContainEqual({ name: 'Exposure Time', value: String(told[0]!['ExifIFD:ExposureTime']) });
      expect(JSON.stringify(groups)).not.toContain(path.dirname(raw));
      expect(await contents.everything(path.join(card, 'nothing.jpg'))).toBeNull();
    } finally {
      await tool.onApplicationShutdown();
    }
  });

  it('reads the same times, exposure and body from each', () => {
    for (const wanted of reference) {
      const facts = factsFromTags(
        readTags(readFileSync(path.join(card, wanted.SourceFile)).subarray(0, 65536)),
      );
      const subSec = String(wanted.SubSecTimeOriginal).padStart(3, '0');
      expect(facts).toMatchObject({
        capture: {
          local: wanted.DateTimeOriginal.replace(/^(\d+):(\d+):(\d+) /, '$1-$2-$3T'),
          millis: Number(subSec),
          offsetMinutes: 120,
        },
        iso: wanted.ISO,
        focalLength: wanted.FocalLength,
        model: wanted.Model,
        serial: wanted.SerialNumber,
        lens: wanted.LensModel,
        orientation: wanted.Orientation,
      });
      expect(facts.exposure!.value).toBeCloseTo(wanted.ExposureTime, 6);
      expect(facts.aperture!.value).toBeCloseTo(wanted.FNumber, 6);
    }
  });

  it('reads what brackets are told by as the tool wrote it: bias below zero, and what the lens was focused on', async () => {
    const folder = temporaryFolder();
    const picture = path.join(
      card,
      pictures.find((p) => p.endsWith('.JPG'))!,
    );
    const tool = new MetadataTool();
    const facts = async (...told: string[]) => {
      const file = path.join(folder, 'told.jpg');
      rmSync(file, { force: true });
      execFileSync('exiftool', ['-q', '-o', file, ...told, picture]);
      const own = factsFromTags(readTags(readFileSync(file).subarray(0, 65536)));
      const tools = factsFromTags(await tool.tags(file, false));
      expect([own.exposureBias, own.focus]).toEqual([tools.exposureBias, tools.focus]);
      return [own.exposureBias, own.focus];
    };
    try {
      expect(await facts('-ExposureCompensation=-1.33', '-SubjectDistance=0.4')).toEqual([-1.33, 2.5]);
      expect(await facts('-ExposureCompensation=0', '-SubjectDistance=inf')).toEqual([0, 0]);
      expect(await facts('-SubjectDistance=0', '-ExposureCompensation=+2')).toEqual([2, null]);
      expect(await facts('-XMP-aux:ApproximateFocusDistance=0.5')).toEqual([null, 2]);
    } finally {
      await tool.onApplicationShutdown();
      rmSync(folder, { recursive: true });
    }
  });

  it('finds the embedded pictures where the tool finds them', async () => {
    const dng = pictures.find((p) => p.endsWith('.DNG'))!;
    const bytes = readFileSync(path.join(card, dng));
    const found = findEmbeddedJpegs(bytes.subarray(0, 65536)).sort((a, b) => a.length - b.length);
    const previews = ['-IFD0:PreviewImage', '-SubIFD1:PreviewImage'].map((tag) =>
      execFileSync('exiftool', ['-b', tag, dng], { cwd: card, maxBuffer: 1e8 }),
    );
    expect(found.map((f) => f.length)).toEqual(previews.map((p) => p.length));
    for (const [i, f] of found.entries())
      expect(bytes.subarray(f.offset, f.offset + f.length).equals(previews[i]!)).toBe(true);
    const jpeg = readFileSync(
      path.join(
        card,
        pictures.find((p) => p.endsWith('.JPG'))!,
      ),
    );
    const [thumb, preview] = findEmbeddedJpegs(jpeg.subarray(0, 65536));
    for (const f of [thumb!, preview!])
      expect((await sharp(jpeg.subarray(f.offset, f.offset + f.length)).metadata()).format).toBe('jpeg');
  });

  const disk = new NodeDisk();
  const parser = new Parser();
  const contents = new Contents(disk, parser, new MetadataTool());
  afterAll(() => parser.onApplicationShutdown());

  it('goes over from the last number of one folder to the first of the next, in the order of time', async () => {
    const scan = await scanCard(disk, contents, card, await listCard(disk, card));
    const names = scan.frames.map((f) => f.base);
    expect(names.indexOf('OCK_0001')).toBe(names.indexOf('OCK_9999') + 1);
    const times = scan.frames.map(
      (f) => `${f.facts.capture!.local}.${String(f.facts.capture!.millis).padStart(3, '0')}`,
    );
    expect(times).toEqual([...times].sort());
    expect(scan.frames.filter((f) => f.files.some((x) => x.role === 'note'))).toHaveLength(1);
  });
});
