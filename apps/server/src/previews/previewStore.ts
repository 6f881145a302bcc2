import path from 'node:path';
import { Injectable, Logger, type OnApplicationBootstrap } from '@nestjs/common';
import { ArkivError, LOOK_VERSION, MAKER_VERSION, type PreviewSize } from '@arkiv/core';
import { ArkivConfig } from '../config/config';
import { Reading } from '../db/unitOfWork';
import { Disk, diskErrorCode } from '../disk/disk';
import { placeNew } from '../disk/place';
import { Happenings } from '../events/domainEvents';
import { isJpeg } from '../metadata/metadataTool';
import { Clock } from '../system/clock';
import { SettingsService } from '../settings/settings.service';
import { VolumesService } from '../volumes/volumes.service';

/**
 * What is kept of a picture: its previews, what it is compared by, and until its own thumbnail is made the one that the camera, or
 * who processed it, put into the file.
 */
export type KeptSize = PreviewSize | 'look' | 'quick';
/** What a frame is known by: never lost while its drives are away. */
const isThumb = (size: KeptSize): boolean => size === 'thumb' || size === 'quick';
/** Small enough to be kept while anything else goes. */
const isSmall = (size: KeptSize): boolean => isThumb(size) || size === 'look';

const FILE: Readonly<Record<KeptSize, string>> = {
  thumb: 'thumb.webp',
  quick: 'quick.webp',
  screen: 'screen.jpg',
  embedded: 'embedded.jpg',
  full: 'full.jpg',
  look: `look-${LOOK_VERSION}`,
};
const SIZE_OF: Readonly<Record<string, KeptSize>> = {
  'thumb.webp': 'thumb',
  'quick.webp': 'quick',
  'screen.jpg': 'screen',
  'embedded.jpg': 'embedded',
  'full.jpg': 'full',
  [FILE.look]: 'look',
};
/** How a preview's file is called, in the store and elsewhere. */
export const previewFile = (key: string, size: KeptSize): string => `${key}.${FILE[size]}`;
/** The preview that a file of this name is; null: it is none. */
export function previewNamed(name: string): { key: string; size: KeptSize } | null {
  const [key = '', ...rest] = name.split('.');
  const size = SIZE_OF[rest.join('.')];
  return size ? { key, size } : null;
}
/** Whether bytes begin as previews do: JPEG, or WebP (RIFF). */
export const isImage = (bytes: Buffer): boolean =>
  isJpeg(bytes) || (bytes.toString('latin1', 0, 4) === 'RIFF' && bytes.toString('latin1', 8, 12) === 'WEBP');

/** An embedded full-size picture of a 150-megapixel camera stays under 100 MB. */
export const MAX_PREVIEW = 100 * 1024 * 1024;
/** A use is written down once a day: which previews are old is a matter of weeks. */
const DAY = 24 * 60 * 60 * 1000;
/** Parts of the limit that are freed at once, and that may come in before the next look. */
const FREED = 0.1;
const BETWEEN_LOOKS = 0.05;
const GIGABYTE = 1e9;
/** Previews that the archive is asked about at once: some milliseconds of a query. */
const PART = 200;

interface Kept {
  file: string;
  key: string;
  size: KeptSize;
  bytes: number;
  usedAt: number;
  /** made by an earlier maker: served only while nothing better can be made */
  old: boolean;
}

/** A use is written down once a day, so no finer order is known. */
const dayOf = ({ usedAt }: Kept): number => Math.floor(usedAt / DAY);

/**
 * Where previews lie, by content. They can be made again, so the store has a limit: what was not used for longest goes
 * first, large ones before thumbnails, and never the thumbnail of a frame whose drives are away.
 */
@Injectable()
export class PreviewStore implements OnApplicationBootstrap {
  private readonly log = new Logger('previews');
  private readonly placing = new Map<string, Promise<void>>();
  private tidying: Promise<void> | null = null;
  private again = false;
  private bytesSince = 0;
  /** bytes of all that is kept; null: not counted yet */
  private total: number | null = null;

  constructor(
    private readonly config: ArkivConfig,
    private readonly disk: Disk,
    private readonly reading: Reading,
    private readonly volumes: VolumesService,
    private readonly settings: SettingsService,
    private readonly clock: Clock,
    happenings: Happenings,
  ) {
    happenings.on('settings', () => void this.tidySoon());
  }

  onApplicationBootstrap(): void {
    void this.tidySoon();
  }

  /** A preview that is kept, or null. */
  async read(key: string, size: KeptSize): Promise<Buffer | null> {
    const file = this.place(key, size);
    const facts = await this.disk.facts(file);
    if (!facts) return null;
    if (this.clock.now() - facts.mtimeMillis > DAY) await this.disk.touch(file).catch(() => undefined);
    return this.readFile(file);
  }

  async has(key: string, size: KeptSize): Promise<boolean> {
    return (await this.disk.facts(this.place(key, size))) !== null;
  }

  /** A thumbnail of an earlier maker: better than nothing while its drive is away. */
  async older(key: string): Promise<Buffer | null> {
    for (let version = MAKER_VERSION - 1; version > 0; version--) {
      const found = await this.readFile(this.place(key, 'thumb', version));
      if (found) return found;
    }
    return null;
  }

  /** Made twice at once, it is kept once: the second finds the first one's file, or waits for it. */
  async keep(key: string, size: KeptSize, bytes: Uint8Array): Promise<void> {
    const place = this.place(key, size);
    const under = this.placing.get(place) ?? this.placeOnce(place, bytes);
    this.placing.set(place, under);
    await under.finally(() => this.placing.delete(place));
    const { previewGigabytes } = await this.settings.all();
    if (this.bytesSince > previewGigabytes * GIGABYTE * BETWEEN_LOOKS) void this.tidySoon();
  }

  /** What something better stands for now. */
  async drop(key: string, size: KeptSize): Promise<void> {
    const file = this.place(key, size);
    const facts = await this.disk.facts(file);
    if (!facts) return;
    await this.disk.unlink(file);
    if (this.total !== null) this.total -= facts.size;
  }

  /** Bytes of all that is kept: counted when the server starts and at each tidying, in between kept in step. */
  async bytes(): Promise<number> {
    if (this.total === null) await this.tidySoon();
    return this.total ?? 0;
  }

  /** Brings the store below its limit. Runs once at a time; what is asked for meanwhile comes after it. */
  tidySoon(): Promise<void> {
    this.again = true;
    this.tidying ??= this.tidyAsOften().finally(() => (this.tidying = null));
    return this.tidying;
  }

  private async tidyAsOften(): Promise<void> {
    while (this.again) {
      this.again = false;
      await this.tidy().catch((error: unknown) =>
        this.log.warn(`previews could not be tidied: ${(error as Error).message}`),
      );
    }
  }

  /** Goes over the files again for each kind that is to go: a list of a million previews would not fit into memory. */
  private async tidy(): Promise<void> {
    this.bytesSince = 0;
    const limit = (await this.settings.all()).previewGigabytes * GIGABYTE;
    const large = new Map<number, number>();
    const thumbs = new Map<number, number>();
    let total = 0;
    let old = false;
    for await (const kept of this.all()) {
      total += kept.bytes;
      old ||= kept.old;
      const days = isSmall(kept.size) ? thumbs : large;
      if (!kept.old) days.set(dayOf(kept), (days.get(dayOf(kept)) ?? 0) + kept.bytes);
    }
    // What comes in while it is tidied is added by whoever brings it.
    this.total = total;
    const over = () => this.total! - (total > limit ? limit * (1 - FREED) : limit);
    // Earlier makers' go in any case; the rest while there is too much of it.
    if (old) await this.free((kept) => kept.old, Infinity);
    for (const [days, small] of [
      [large, false],
      [thumbs, true],
    ] as const) {
      const rest = [...days].sort(([a], [b]) => a - b);
      while (over() > 0 && rest.length > 0) {
        const going = new Set<number>();
        for (let bytes = 0; bytes < over() && rest.length > 0;) {
          const [day, ofDay] = rest.shift()!;
          going.add(day);
          bytes += ofDay;
        }
        await this.free((k) => !k.old && isSmall(k.size) === small && going.has(dayOf(k)), over());
      }
    }
  }

  /** Unlinks those of `which` that may go, until `bytes` are freed. */
  private async free(which: (kept: Kept) => boolean, bytes: number): Promise<void> {
    let left = bytes;
    let part: Kept[] = [];
    const online = (await this.volumes.list()).flatMap(({ volume, online: here }) => (here ? volume.id : []));
    const unlink = async () => {
      const may = await this.mayGo(part, online);
      for (const kept of may) {
        if (left <= 0) break;
        try {
          await this.disk.unlink(kept.file);
          left -= kept.bytes;
          this.total! -= kept.bytes;
        } catch (error) {
          if (diskErrorCode(error) !== 'ENOENT') throw error;
        }
      }
      part = [];
    };
    for await (const kept of this.all()) {
      if (left <= 0) return;
      if (which(kept) && part.push(kept) === PART) await unlink();
    }
    await unlink();
  }

  /** Those that can be made again now, or that are no thumbnail, or that nothing in the archive is shown by. */
  private async mayGo(part: Kept[], online: readonly string[]): Promise<Kept[]> {
    const thumbs = part.filter((kept) => isThumb(kept.size)).map((kept) => kept.key);
    if (thumbs.length === 0) return part;
    const rows: { key: string; here: number }[] = await this.reading.source.query(
      `SELECT w.value AS key, MAX(c."volumeId" IN (SELECT value FROM json_each(?))) AS here
       FROM json_each(?) w
       JOIN asset a ON a.id IN (SELECT id FROM asset WHERE picture = w.value
         UNION ALL SELECT id FROM asset WHERE sha256 = w.value AND picture IS NULL)
       LEFT JOIN copy c ON c."assetId" = a.id WHERE a.role IN ('original', 'clip', 'edit') GROUP BY 1`,
      [JSON.stringify(online), JSON.stringify(thumbs)],
    );
    const away = new Set(rows.filter((row) => !row.here).map((row) => row.key));
    return part.filter((kept) => !isThumb(kept.size) || !away.has(kept.key));
  }

  private async *all(): AsyncGenerator<Kept> {
    for (const version of await this.namesIn(this.root)) {
      const number = Number(/^v(\d+)$/.exec(version)?.[1] ?? NaN);
      if (Number.isNaN(number)) continue;
      for (const group of await this.namesIn(path.join(this.root, version)))
        for (const name of await this.namesIn(path.join(this.root, version, group))) {
          const named = previewNamed(name);
          if (!named) continue;
          const file = path.join(this.root, version, group, name);
          const facts = await this.disk.facts(file);
          if (facts?.kind === 'file')
            yield {
              ...{ ...named, file, bytes: facts.size, usedAt: facts.mtimeMillis },
              old: number < MAKER_VERSION,
            };
        }
    }
  }

  private async namesIn(folder: string): Promise<string[]> {
    try {
      return (await this.disk.names(folder)).map(String);
    } catch (error) {
      if (['ENOENT', 'ENOTDIR'].includes(diskErrorCode(error) ?? '')) return [];
      throw error;
    }
  }

  private async readFile(file: string): Promise<Buffer | null> {
    try {
      return await this.disk.readAll(file, MAX_PREVIEW);
    } catch (error) {
      if (diskErrorCode(error) === 'ENOENT') return null;
      throw error;
    }
  }

  private async placeOnce(place: string, bytes: Uint8Array): Promise<void> {
    try {
      await placeNew(this.disk, place, bytes, 'preview');
      this.bytesSince += bytes.byteLength;
      if (this.total !== null) this.total += bytes.byteLength;
    } catch (error) {
      // Made twice at once: the same picture is there already.
      if (!(error instanceof ArkivError && error.code === 'file.exists')) throw error;
    }
  }

  private get root(): string {
    return path.join(this.config.dataDir, 'previews');
  }

  private place(key: string, size: KeptSize, version = MAKER_VERSION): string {
    return path.join(this.root, `v${version}`, key.slice(0, 2), previewFile(key, size));
  }
}
