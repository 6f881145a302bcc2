import { Injectable } from '@nestjs/common';
import {
  cameraFacts,
  factsFromTags,
  withProfileOf,
  type FactGroup,
  type FileKind,
  type FrameFacts,
} from '@arkiv/core';
import { Disk, diskErrorCode, type DiskPath } from '../disk/disk';
import { isJpeg, MAX_EMBEDDED, MetadataTool } from './metadataTool';
import { Parser } from './parser';

/** Facts stand in the first 64 kB of nearly every picture; 1 MB serves raw files with large maker notes. */
export const HEAD_BYTES = 64 * 1024;
const LONG_HEAD_BYTES = 1024 * 1024;
/**
 * Pixels of the longer side, and bytes, below which a raw's embedded picture counts as its thumbnail: makers' screen
 * pictures begin at 1,600 pixels and some 200 kB, thumbnails end at 640 and 60.
 */
const SMALL_SIDE = 1000;
const SMALL_BYTES = 100_000;

/** A picture inside a file. */
export interface Embedded {
  bytes: Buffer | null;
  /** false where the file ends before it does */
  whole: boolean;
  /** none, or no larger than a thumbnail */
  small: boolean;
  /** pixels of its longer side; 0: not known */
  side: number;
}

/** What stands inside a picture or clip: its facts, and the pictures that its camera put in. */
@Injectable()
export class Contents {
  constructor(
    private readonly disk: Disk,
    private readonly parser: Parser,
    private readonly tool: MetadataTool,
  ) {}

  /** Nothing where the file cannot be read: it is still listed, and tried when copying. `head`: its first {@link HEAD_BYTES}, where somebody has read them. */
  async facts(
    file: DiskPath,
    kind: FileKind,
    head: Buffer | null = null,
  ): Promise<{ facts: FrameFacts; unreadable: boolean }> {
    let facts = factsFromTags({});
    try {
      if (kind.role === 'clip')
        return { facts: factsFromTags(await this.tool.tags(file, true)), unreadable: false };
      for (const length of [HEAD_BYTES, LONG_HEAD_BYTES]) {
        const isRead = head !== null && (head.length >= length || head.length < HEAD_BYTES);
        const bytes = isRead ? head : await this.disk.readPart(file, 0, length);
        facts = factsFromTags(await this.parser.tags(bytes!, !isRead));
        if (facts.capture) break;
      }
      if (!facts.capture && mayHideTags(kind)) {
        const told = factsFromTags(await this.tool.tags(file, false));
        if (told.capture || told.model) facts = told;
      }
      return { facts, unreadable: false };
    } catch (error) {
      if (diskErrorCode(error) === null) throw error;
      return { facts, unreadable: true };
    }
  }

  /** Everything that its camera wrote into a file, by group; null where it cannot be read. */
  async everything(file: DiskPath): Promise<FactGroup[] | null> {
    const told = await this.tool.everything(file);
    return told && cameraFacts(told);
  }

  /** Whether a JPEG says of itself how it is to be turned. */
  async isTurned(jpeg: Buffer): Promise<boolean> {
    return ((await this.parser.tags(jpeg.subarray(0, HEAD_BYTES))).orientation ?? 1) !== 1;
  }

  /** The largest or smallest JPEG that the camera put into a file. */
  async embedded(file: DiskPath, kind: FileKind, which: 'largest' | 'smallest'): Promise<Embedded> {
    const none = { bytes: null, small: true, side: 0 };
    if (kind.role !== 'original' && kind.role !== 'edit') return { ...none, whole: true };
    const head = await this.disk.readPart(file, 0, LONG_HEAD_BYTES);
    const found = (await this.parser.embedded(head)).sort((a, b) => a.length - b.length);
    const chosen = which === 'largest' ? found.at(-1) : found[0];
    const side = Math.max(chosen?.width ?? 0, chosen?.height ?? 0);
    const small = !chosen || isSmall(side, chosen.length);
    // Without a profile of its own it means the one that the file means, wherever it lies in it.
    const meant = (bytes: Buffer) => Buffer.from(withProfileOf(head, bytes));
    if (small && mayHidePictures(kind) && (which === 'largest' || !chosen)) {
      const bytes = await this.tool.embedded(file, which);
      if (bytes && bytes.length > (chosen?.length ?? 0))
        return { bytes: meant(bytes), whole: true, small: isSmall(0, bytes.length), side: 0 };
    }
    if (!chosen || chosen.length > MAX_EMBEDDED) return { ...none, whole: true };
    const bytes = await this.disk.readPart(file, chosen.offset, chosen.length);
    const whole = bytes.length === chosen.length;
    return isJpeg(bytes) ? { bytes: meant(bytes), whole, small, side } : { ...none, whole };
  }
}

const isSmall = (side: number, bytes: number): boolean => side < SMALL_SIDE && bytes < SMALL_BYTES;

/** Formats whose tags may lie where a head does not show them. */
const mayHideTags = ({ raw, format }: FileKind): boolean => raw || ['heic', 'avif', 'jxl'].includes(format);
const mayHidePictures = ({ raw, format }: FileKind): boolean => raw || ['jxl', 'jp2'].includes(format);
