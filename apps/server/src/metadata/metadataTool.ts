import path from 'node:path';
import { Injectable, Logger, type OnApplicationShutdown } from '@nestjs/common';
import { clipTime, type RawTags } from '@arkiv/core';
import type { ExifTool } from 'exiftool-vendored';
import type { DiskPath } from '../disk/disk';

/** A process whose server was killed ends by itself. Windows knows no parents to ask for. */
const ENDS_WITH_US =
  process.platform === 'win32' ? [] : ['-config', path.resolve(__dirname, '../../exiftool.config')];
/** Milliseconds: a tag takes five, a preview of 100 MB under a second; a card that hangs must not hold the tool. */
const TIME_LIMIT = 20_000;
/** A card of raws that only the tool can read takes half the time with two; more would take it from the copying. */
const PROCESSES = 2;
/** Embedded pictures under the names that makers' notes give them. */
const PREVIEW_TAGS = ['JpgFromRaw', 'PreviewImage', 'OtherImage', 'ThumbnailImage'] as const;
const TAGS = [
  ...['Make', 'Model', 'SerialNumber', 'LensModel', 'DateTimeOriginal', 'SubSecTimeOriginal'],
  ...['OffsetTimeOriginal', 'ExposureTime', 'FNumber', 'ISO', 'FocalLength', 'ImageWidth', 'ImageHeight'],
  ...['Orientation', 'Artist', 'Copyright', 'ImageDescription', 'Duration', 'CreateDate', 'CreationDate'],
  ...['MediaCreateDate', 'AndroidVersion', 'ExposureCompensation'],
  ...['SubjectDistance', 'FocusDistance', 'ApproximateFocusDistance'],
];

const DISTANCES = ['SubjectDistance', 'FocusDistance', 'ApproximateFocusDistance'];
/** As Exif writes it. */
const INFINITY: [number, number] = [0xffffffff, 1];

type Told = Record<string, string | number | undefined>;

/**
 * The metadata tool, kept open in a process of its own, for what our reader of heads does not know: makers' own places,
 * HEIC, clips. It comes with Arkiv; where it cannot run (it needs Perl outside Windows), its answers are missing.
 */
@Injectable()
export class MetadataTool implements OnApplicationShutdown {
  private readonly log = new Logger('Metadata');
  private tool: Promise<ExifTool | null> | null = null;

  /** Tags of a picture or clip; none where the tool cannot read it. Some raws lie in a clip's container. */
  async tags(file: DiskPath, isClip: boolean): Promise<RawTags> {
    const told = await this.told(
      file,
      TAGS.map((tag) => `-${tag}`),
    );
    return told ? tagsOf(told, isClip) : {};
  }

  /** Everything that stands in a file, as `Group:TagName` → value; null where the tool cannot read it. */
  async everything(file: DiskPath): Promise<Record<string, unknown> | null> {
    const name = textOf(file);
    const tool = name === null ? null : await this.opened();
    if (!tool) return null;
    try {
      return { ...(await tool.readRaw(name!, { readArgs: ['-G1', '-a', '-fast'] })) };
    } catch {
      return null;
    }
  }

  /** The largest or smallest picture that a maker's own place holds, or null. */
  async embedded(file: DiskPath, which: 'largest' | 'smallest'): Promise<Buffer | null> {
    const told = await this.told(
      file,
      PREVIEW_TAGS.map((tag) => `-${tag}`),
    );
    const sizes = PREVIEW_TAGS.flatMap((tag) => {
      const bytes = /Binary data (\d+) bytes/.exec(String(told?.[tag] ?? ''))?.[1];
      return bytes === undefined ? [] : [{ tag, bytes: Number(bytes) }];
    }).sort((a, b) => a.bytes - b.bytes);
    const chosen = which === 'largest' ? sizes.at(-1) : sizes[0];
    const name = textOf(file);
    const tool = await this.opened();
    if (!chosen || chosen.bytes > MAX_EMBEDDED || name === null || !tool) return null;
    try {
      const bytes = await tool.extractBinaryTagToBuffer(chosen.tag as 'PreviewImage', name);
      return isJpeg(bytes) ? bytes : null;
    } catch {
      return null;
    }
  }

  async onApplicationShutdown(): Promise<void> {
    await (await this.tool)?.end(false);
  }

  private async told(file: DiskPath, asked: string[]): Promise<Told | null> {
    const name = textOf(file);
    const tool = name === null ? null : await this.opened();
    if (!tool) return null;
    try {
      return (await tool.readRaw(name!, { readArgs: ['-n', ...asked] })) as unknown as Told;
    } catch {
      return null;
    }
  }

  private opened(): Promise<ExifTool | null> {
    this.tool ??= this.open();
    return this.tool;
  }

  private async open(): Promise<ExifTool | null> {
    const { ExifTool, DefaultExiftoolArgs } = await import('exiftool-vendored');
    const exiftoolArgs = [...ENDS_WITH_US, ...DefaultExiftoolArgs];
    const limits = { maxProcs: PROCESSES, taskTimeoutMillis: TIME_LIMIT, taskRetries: 0 };
    const tool = new ExifTool({ ...limits, exiftoolArgs });
    try {
      await tool.version();
      return tool;
    } catch (error) {
      this.log.warn(`The metadata tool does not run: ${(error as Error).message}. Clips have no times then.`);
      await tool.end(false);
      return null;
    }
  }
}

/** As for every embedded picture: a full-size JPEG of a 150-megapixel camera at best quality is under 100 MB. */
export const MAX_EMBEDDED = 100 * 1024 * 1024;

export const isJpeg = (bytes: Uint8Array): boolean => bytes[0] === 0xff && bytes[1] === 0xd8;

/** The tool takes names as text: one that is no UTF-8 cannot be given to it. */
function textOf(file: DiskPath): string | null {
  if (typeof file === 'string') return file;
  const text = file.toString('utf8');
  return Buffer.from(text, 'utf8').equals(file) ? text : null;
}

function tagsOf(told: Told, isClip: boolean): RawTags {
  const text = (tag: string) => (told[tag] === undefined ? undefined : String(told[tag]));
  const number = (tag: string) => (typeof told[tag] === 'number' ? told[tag] : undefined);
  const ratio = (tag: string): [number, number] | undefined => {
    const value = number(tag);
    return value === undefined ? undefined : [value, 1];
  };
  const time = isClip
    ? clipTime({
        creationDate: text('CreationDate'),
        dateTimeOriginal: text('DateTimeOriginal'),
        createDate: text('CreateDate') ?? text('MediaCreateDate'),
        phone: told.AndroidVersion !== undefined,
      })
    : {
        dateTimeOriginal: text('DateTimeOriginal'),
        subSec: text('SubSecTimeOriginal'),
        offset: text('OffsetTimeOriginal'),
      };
  return {
    ...time,
    make: text('Make'),
    model: text('Model'),
    serial: text('SerialNumber'),
    lens: text('LensModel'),
    exposureTime: ratio('ExposureTime'),
    fNumber: ratio('FNumber'),
    iso: number('ISO'),
    focalLength: ratio('FocalLength'),
    exposureBias: ratio('ExposureCompensation'),
    // What makers write in places of their own comes under names of the tool.
    subjectDistance: DISTANCES.map((tag) => (told[tag] === 'inf' ? INFINITY : ratio(tag))).find(
      (value) => value !== undefined,
    ),
    width: number('ImageWidth'),
    height: number('ImageHeight'),
    orientation: number('Orientation'),
    artist: text('Artist'),
    copyright: text('Copyright'),
    imageDescription: text('ImageDescription'),
    rating: number('Rating'),
    label: text('Label'),
    duration: isClip ? number('Duration') : undefined,
  };
}
