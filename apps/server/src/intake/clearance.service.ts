import path from 'node:path';
import { Injectable } from '@nestjs/common';
import {
  clearanceOf,
  countDevices,
  mayShare,
  type CardFileProof,
  type ClearanceReport,
  type Disks,
} from '@arkiv/core';
import { Reading } from '../db/unitOfWork';
import { Disk } from '../disk/disk';
import { ArrivalLedger } from '../ledger/arrivalLedger';
import type { FileAs } from '../ledger/saidAs';
import { ReadersService } from '../readers/readers.service';
import { SettingsService } from '../settings/settings.service';
import type { Volume } from '../volumes/volume.entity';
import { disksOf, VolumesService } from '../volumes/volumes.service';

/** What an arrival says of a file of its card. */
interface Said {
  sha256: string;
  size: number;
  mtimeMillis: number;
}

/** Says of a card how much of it is proven elsewhere, by what was written down of it. Clearing itself reads again. */
@Injectable()
export class ClearanceService {
  constructor(
    private readonly disk: Disk,
    private readonly reading: Reading,
    private readonly ledger: ArrivalLedger,
    private readonly readers: ReadersService,
    private readonly volumes: VolumesService,
    private readonly settings: SettingsService,
  ) {}

  /** Whether the card in a reader may be cleared, checked against what lies on it and on the volumes now. */
  async of(readerId: string): Promise<ClearanceReport> {
    const { files, notFollowed, fingerprint } = await this.readers.files(readerId);
    const { card } = await this.readers.get(readerId);
    const { requiredCopies } = await this.settings.all();
    const taken = await this.takenIn(files, { fingerprint, name: card });
    const known = files.map(
      (file) => taken.get(`${file.path}\0${file.size}\0${file.mtimeMillis}`) ?? taken.get(file.path),
    );
    const ownDisks = await this.readers.disksOf(readerId);
    const devices = await this.devicesBy(
      ownDisks,
      known.flatMap((entry) => (entry ? [entry.sha256] : [])),
    );
    const proofs = files.map(({ path: at, size, mtimeMillis }, i): CardFileProof => {
      const entry = known[i];
      if (!entry) return { path: at, size, devices: null, unchanged: true };
      const unchanged = entry.mtimeMillis === mtimeMillis && entry.size === size;
      return { path: at, size, devices: devices.get(sizedKey(entry.sha256, size)) ?? 0, unchanged };
    });
    return clearanceOf(proofs, requiredCopies, notFollowed);
  }

  /** What earlier intakes of this card say of its files: by path and facts, and the newest by path alone. */
  private async takenIn(
    files: readonly FileAs[],
    card: { fingerprint: string; name: string | null },
  ): Promise<Map<string, Said>> {
    const map = new Map<string, Said>();
    for (const entry of await this.ledger.saidOf(card, files)) {
      const { from, size, mtimeMillis } = entry;
      const said = { ...entry, sha256: entry.sha256! };
      map.set(from, said).set(`${from}\0${size}\0${mtimeMillis}`, said);
    }
    return map;
  }

  /** How many devices other than the card's own hold a verified copy of each content and size, and still do. */
  private async devicesBy(card: Disks, sums: readonly string[]): Promise<Map<string, number>> {
    const copies: { sha256: string; volumeId: string; path: string }[] = await this.reading.source.query(
      `SELECT c.sha256, c."volumeId", c."at" AS path FROM copy_at c
       WHERE c.sha256 IN (SELECT value FROM json_each(?)) AND c."verifiedAt" IS NOT NULL`,
      [JSON.stringify([...new Set(sums)])],
    );
    const volumes = new Map<string, Volume>();
    for (const volume of await this.volumes.all())
      if (!mayShare(card, disksOf(volume)) && (await this.volumes.isOnline(volume)))
        volumes.set(volume.id, volume);
    const folders = new Map<string, Promise<string>>();
    const devices = new Map<string, Set<string>>();
    const look = async ({ sha256, volumeId, path: at }: (typeof copies)[number]): Promise<void> => {
      const volume = volumes.get(volumeId);
      if (!volume) return;
      // The way to a folder is looked at once, not for each of its thousands of files.
      const [folder, name] = [path.posix.dirname(at), path.posix.basename(at)];
      const key = `${volumeId}/${folder}`;
      const place = folders.get(key) ?? this.volumes.resolve(volume, folder);
      folders.set(key, place);
      const facts = await this.disk.facts(path.join(await place, name));
      if (facts?.kind !== 'file') return;
      const sized = sizedKey(sha256, facts.size);
      devices.set(sized, (devices.get(sized) ?? new Set()).add(volume.device));
    };
    for (let i = 0; i < copies.length; i += AT_ONCE)
      await Promise.all(copies.slice(i, i + AT_ONCE).map(look));
    return new Map([...devices].map(([key, found]) => [key, countDevices(found)]));
  }
}

/** Files looked at together: more than the threads that look, so that none of them waits. */
const AT_ONCE = 64;

const sizedKey = (sha256: string, size: number): string => `${sha256} ${size}`;
