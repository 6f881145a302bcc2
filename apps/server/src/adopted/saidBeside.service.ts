import path from 'node:path';
import { Injectable } from '@nestjs/common';
import {
  firstSaid,
  readInside,
  saidIn,
  sidecarOf,
  sidecarsAmong,
  type CardFrameFile,
  type Foreign,
  type SidecarModel,
  type SidecarNames,
} from '@arkiv/core';
import { Disk, diskErrorCode } from '../disk/disk';
import { readOwn } from '../disk/place';
import { HEAD_BYTES } from '../metadata/contents.service';
import { Parser } from '../metadata/parser';

/** Bytes in which what a JPEG says of itself stands as a rule, and always but for what a made one could hold. */
const HEADS = [HEAD_BYTES, 8 * HEAD_BYTES];

/** What was said of a frame before anybody adopted it. */
export interface SaidBefore {
  said: SidecarModel;
  /** the frame's own sidecar: where both sides begin; null: there is none that can be read */
  sidecar: { name: string; text: string; model: SidecarModel; foreign: Foreign } | null;
  /** sidecars that other programs wrote for one file of several */
  others: { name: string; text: string; model: SidecarModel }[];
  /** names of collections that it is in, as anything beside its pictures, or one of them, says */
  collections: string[];
  /** something beside its pictures says anything, and not its pictures alone */
  beside: boolean;
  /** sidecars that cannot be read */
  bad: { name: string; reason: string }[];
}

/** Reads what sidecars beside pictures and texts inside of them say. Nothing is changed. */
@Injectable()
export class SaidBeside {
  constructor(
    private readonly disk: Disk,
    private readonly parser: Parser,
  ) {}

  /** `place`: the folder on this machine; `sidecars`: those in it; `main`: the file that shows the frame, and its beginning. */
  async of(
    place: string,
    sidecars: SidecarNames,
    base: string,
    files: readonly CardFrameFile[],
    { main, head }: { main: CardFrameFile | null; head: Buffer | null },
  ): Promise<SaidBefore> {
    const models: Partial<SidecarModel>[] = [];
    const found: SaidBefore = {
      ...{ said: firstSaid([]), sidecar: null, others: [], beside: false, bad: [], collections: [] },
    };
    const own = path.posix.basename(sidecarOf('', base));
    const pictures = files.map((file) => file.path).filter((name) => !/\.xmp$/i.test(name));
    for (const name of sidecarsAmong(base, pictures, sidecars)) {
      const text = await this.text(path.join(place, name));
      if (text === null) continue;
      const read = await this.parser.readSidecar(text);
      if (!read.ok) {
        found.bad.push({ name, reason: read.reason });
        continue;
      }
      models.push(read.model);
      found.collections.push(...read.collections);
      if (name === own)
        found.sidecar = { name, text, model: read.model, foreign: await this.parser.foreignIn(text) };
      else found.others.push({ name, text, model: read.model });
    }
    found.beside = models.length > 0;
    if (main?.format === 'jpeg') {
      const inside = await this.inside(path.join(place, main.path), head, found);
      // Marks that were taken off beside a picture still stand in it.
      models.push(found.beside ? { ...inside, verdict: 'undecided', stars: 0, label: null } : inside);
    }
    found.said = firstSaid(models);
    return found;
  }

  private async text(file: string): Promise<string | null> {
    return readOwn(this.disk, file).catch((error: unknown) => {
      if (diskErrorCode(error) === null) throw error;
      return null;
    });
  }

  /** XMP first, then the old model; Exif last, of which cameras fill the caption with their own names. */
  private async inside(
    file: string,
    first: Buffer | null,
    found: SaidBefore,
  ): Promise<Partial<SidecarModel>> {
    for (const length of HEADS) {
      const isRead = first !== null && length === HEADS[0];
      const head = isRead ? first : await this.disk.readPart(file, 0, length).catch(() => null);
      const inside = head && readInside(head);
      if (!inside) {
        if (head === null || head.length < length) return {};
        continue;
      }
      const xmp = inside.xmp === null ? null : await this.parser.readSidecar(inside.xmp);
      if (xmp?.ok) found.collections.push(...xmp.collections);
      const exif = { creator: told(inside.exif?.creator), rights: told(inside.exif?.rights) };
      return firstSaid([...(xmp?.ok ? [xmp.model] : []), inside.iim ?? {}, exif]);
    }
    return {};
  }
}

/** Cameras fill the places of texts with blanks. */
const told = (text: string | null | undefined): string | null => saidIn(text?.trim() ?? '');
