import path from 'node:path';
import { Injectable } from '@nestjs/common';
import {
  ArkivError,
  kindOfExtension,
  readInside,
  withInside,
  type Inside,
  type SidecarModel,
} from '@arkiv/core';
import { Disk, type DiskPath } from '../disk/disk';
import { md5Of, sha256Of } from '../disk/place';
import { OtherContent, placeProven, readProven } from '../disk/provenBytes';
import type { Handed } from '../ledger/handoff.entity';
import { SidecarWords } from '../sidecars/sidecarWords.service';
import type { Volume } from '../volumes/volume.entity';
import { VolumesService } from '../volumes/volumes.service';

/** What is known of a copy that says something inside; see {@link Handed}. */
export type SaidInside = Pick<Handed, 'said' | 'written' | 'packet' | 'mtimeMillis' | 'size'>;

/** What a copy says inside of itself by now, where another program has written there. */
export interface SaidByOthers extends SaidInside {
  /** the text of its packet */
  xmp: string;
}

/**
 * Bytes that are read of a copy to see what it says: three segments of the greatest length before its picture, and as much again for
 * what other programs put before them.
 */
const HEAD = 512 * 1024;

/**
 * Copies of JPEGs that carry inside what is said of their frames, as many programs read no sidecar beside a JPEG. The picture and all
 * else in the file stay byte for byte; what is written is read back. The archive's own file is never written to.
 */
@Injectable()
export class InsideCopies {
  constructor(
    private readonly disk: Disk,
    private readonly words: SidecarWords,
    private readonly volumes: VolumesService,
  ) {}

  /** Whether a file can carry it. */
  can(name: string): boolean {
    return kindOfExtension(path.extname(name).slice(1).toLowerCase())?.format === 'jpeg';
  }

  /**
   * Makes a copy of `source`, whose checksum must be `expected`, or brings one up to date that nobody changed since. Null: nothing can
   * be put into it, and nothing was written. Throws `handoff.changed` where what lies there is not what was put there, `file.exists` where nothing ever was.
   */
  async copy(
    source: DiskPath,
    expected: string,
    to: { frameId: string; volume: Volume; path: string; known: Handed | null },
    { job, signal }: { job: string; signal: AbortSignal },
  ): Promise<SaidInside | null> {
    const bytes = await readProven(this.disk, source, expected, to.path);
    const made = await this.made(bytes, to.frameId, to.path);
    if (!made) return null;
    const final = await this.volumes.resolve(to.volume, to.path);
    try {
      // A copy of before, in which nothing was said, is brought up to date too.
      const over = [expected, ...(to.known?.written ? [to.known.written] : [])];
      const written = await placeProven(this.disk, final, made.bytes, { job, over, signal });
      return {
        ...{ written, packet: made.packet, said: made.said, size: made.bytes.length },
        mtimeMillis: (await this.disk.facts(final))?.mtimeMillis ?? null,
      };
    } catch (error) {
      if (!(error instanceof OtherContent)) throw error;
      throw to.known
        ? new ArkivError('handoff.changed', { file: to.path })
        : new ArkivError('file.exists', { file: to.path });
    }
  }

  /** What another program wrote into a copy; null: nothing, or the file is gone. Throws where it cannot be read any more. */
  async changed(volume: Volume, its: Handed): Promise<SaidByOthers | null> {
    if (its.packet === null) return null;
    const file = await this.volumes.resolve(volume, its.path);
    const facts = await this.disk.facts(file);
    if (!facts || (facts.size === its.size && facts.mtimeMillis === its.mtimeMillis)) return null;
    const xmp = readInside(await this.disk.readPart(file, 0, HEAD))?.xmp ?? null;
    if (xmp === null || sha256Of(xmp) === its.packet) return null;
    const { size, mtimeMillis } = facts;
    // It is the editor's file now: nothing is written to it any more.
    return {
      xmp,
      written: null,
      packet: sha256Of(xmp),
      said: await this.words.saidIn(xmp),
      size,
      mtimeMillis,
    };
  }

  /** The bytes of a copy with what is said of its frame inside; null: it cannot be put there. */
  private async made(
    source: Uint8Array,
    frameId: string,
    path: string,
  ): Promise<{ bytes: Buffer; packet: string; said: SidecarModel } | null> {
    const { text, model } = await this.packetFor(frameId, readInside(source), path);
    const made = withInside(source, text, model, md5Of);
    if (!made.ok) return null;
    const bytes = Buffer.concat([made.head, source.subarray(made.replaces)]);
    if (readInside(bytes)?.xmp !== text) return null;
    return { bytes, packet: sha256Of(text), said: model };
  }

  /** What is said of a frame, put into the packet that its camera wrote; one that cannot be read is left behind. */
  private async packetFor(
    frameId: string,
    inside: Inside | null,
    path: string,
  ): Promise<{ text: string; model: SidecarModel }> {
    const there = { text: inside?.xmp ?? null, changedOutside: false };
    try {
      return await this.words.textInCopy(frameId, there, null, path);
    } catch (error) {
      if (!(error instanceof ArkivError)) throw error;
      return this.words.textInCopy(frameId, { ...there, text: null }, null, path);
    }
  }
}
