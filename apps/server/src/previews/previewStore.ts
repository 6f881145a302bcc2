import path from 'node:path';
import { Injectable, Logger, type OnApplicationBootstrap } from '@nestjs/common';
import { ArkivError, MAKER_VERSION, type PreviewSize } from '@arkiv/core';
import { ArkivConfig } from '../config/config';
import { Reading } from '../db/unitOfWork';
import { Disk, diskErrorCode } from '../disk/disk';
import { placeNew } from '../disk/place';
import { pictureKeySql } from '../frames/asset.entity';
import { Happenings } from '../events/domainEvents';
import { Clock } from '../system/clock';
import { SettingsService } from '../settings/settings.service';
import { VolumesService } from '../volumes/volumes.service';

const FILE = {
  thumb: 'thumb.webp',
  screen: 'screen.jpg',
  embedded: 'embedded.jpg',
  full: 'full.jpg',
} as const;
const SIZE_OF: Readonly<Record<string, PreviewSize>> = {
  'thumb.webp': 'thumb',
  'screen.jpg': 'screen',
  'embedded.jpg': 'embedded',
  'full.jpg': 'full',
};
/** An embedded full-size picture of a 150-megapixel camera stays under 100 MB. */
const MAX_PREVIEW = 100 * 1024 * 1024;
/** A use is written down once a day: which previews are old is a matter of weeks. */
const DAY = 24 * 60 * 60 * 1000;
/** Parts of the limit that are freed at once, and that may come in before the next look. */
const FREED = 0.1;
const BETWEEN_LOOKS = 0.05;
const GIGABYTE = 1e9;

interface Kept {
  file: string;
  key: string;
  size: PreviewSize;
  bytes: number;
  usedAt: number;
  /** made by an earlier maker: served only while nothing better can be made */
  old: boolean;
}

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
  async read(key: string, size: PreviewSize): Promise<Buffer | null> {
    const file = this.place(key, size);
    const facts = await this.disk.facts(file);
    if (!facts) return null;
    if (this.clock.now() - facts.mtimeMillis > DAY) await this.disk.touch(file).catch(() => undefined);
    return this.readFile(file);
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
  async keep(key: string, size: PreviewSize, bytes: Uint8Array): Promise<void> {
    const place = this.place(key, size);
    const under = this.placing.get(place) ?? this.placeOnce(place, bytes);
    this.placing.set(place, under);
    await under.finally(() => this.placing.delete(place));
    const { previewGigabytes } = await this.settings.all();
    if (this.bytesSince > previewGigabytes * GIGABYTE * BETWEEN_LOOKS) void this.tidySoon();
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

  private async tidy(): Promise<void> {
    this.bytesSince = 0;
    const limit = (await this.settings.all()).previewGigabytes * GIGABYTE;
    const kept = await this.all();
    let total = kept.reduce((sum, { bytes }) => sum + bytes, 0);
    // What comes in while it is tidied is added by whoever brings it.
    this.total = total;
    const old = kept.filter((k) => k.old);
    if (old.length === 0 && total <= limit) return;
    const here = await this.picturesHere();
    const mayGo = (k: Kept) => k.size !== 'thumb' || here.has(k.key) || !here.known.has(k.key);
    const byUse = kept.filter((k) => !k.old).sort((a, b) => a.usedAt - b.usedAt);
    // Earlier makers' go in any case; the rest while there is too much of it.
    const going = [
      ...old.filter(mayGo),
      ...byUse.filter((k) => k.size !== 'thumb'),
      ...byUse.filter((k) => k.size === 'thumb' && mayGo(k)),
    ];
    const goal = total > limit ? limit * (1 - FREED) : limit;
    for (const k of going) {
      if (!k.old && total <= goal) break;
      try {
        await this.disk.unlink(k.file);
        total -= k.bytes;
        this.total -= k.bytes;
      } catch (error) {
        if (diskErrorCode(error) !== 'ENOENT') throw error;
      }
    }
  }

  /** Pictures that could be made again now; `known`: all that the archive has at all. */
  private async picturesHere(): Promise<Set<string> & { known: Set<string> }> {
    const online: string[] = [];
    for (const { volume, online: here } of await this.volumes.list()) if (here) online.push(volume.id);
    const rows: { key: string; here: number }[] = await this.reading.source.query(
      `SELECT ${pictureKeySql('a')} AS key, MAX(c."volumeId" IN (SELECT value FROM json_each(?))) AS here
       FROM asset a LEFT JOIN copy c ON c."assetId" = a.id WHERE a.role IN ('original', 'clip') GROUP BY 1`,
      [JSON.stringify(online)],
    );
    const here = new Set(rows.filter((row) => row.here).map((row) => row.key));
    return Object.assign(here, { known: new Set(rows.map((row) => row.key)) });
  }

  private async all(): Promise<Kept[]> {
    const kept: Kept[] = [];
    for (const version of await this.namesIn(this.root)) {
      const number = Number(/^v(\d+)$/.exec(version)?.[1] ?? NaN);
      if (Number.isNaN(number)) continue;
      for (const group of await this.namesIn(path.join(this.root, version)))
        for (const name of await this.namesIn(path.join(this.root, version, group))) {
          const [key = '', ...rest] = name.split('.');
          const size = SIZE_OF[rest.join('.')];
          if (!size) continue;
          const file = path.join(this.root, version, group, name);
          const facts = await this.disk.facts(file);
          if (facts?.kind === 'file')
            kept.push({
              ...{ file, key, size, bytes: facts.size, usedAt: facts.mtimeMillis },
              old: number < MAKER_VERSION,
            });
        }
    }
    return kept;
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

  private place(key: string, size: PreviewSize, version = MAKER_VERSION): string {
    return path.join(this.root, `v${version}`, key.slice(0, 2), `${key}.${FILE[size]}`);
  }
}
