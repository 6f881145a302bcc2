import path from 'node:path';
import { Injectable } from '@nestjs/common';
import { ADOPTED_TEXTS, ArkivError, recordHead, SHOOT_FOLDER, type RecordHead } from '@arkiv/core';
import { Disk, diskErrorCode } from '../disk/disk';
import { ARCHIVE_RECORDS, HISTORY, RECORDS } from '../record/recordTexts.service';
import type { Volume } from '../volumes/volume.entity';
import { VolumesService } from '../volumes/volumes.service';

/** A file that holds a part of a record, on one drive. */
export interface FoundFile {
  volumeId: string;
  /** below its drive */
  path: string;
  /** bytes */
  size: number;
}
export type FoundPart = FoundFile & { head: RecordHead };
/** A history, and the shoot that it is of. */
export type FoundHistory = FoundFile & { shoot: string };

/** The newest first: lines are only ever added to a history. */
export const newestHistories = (histories: readonly FoundHistory[]): FoundHistory[] =>
  histories.toSorted((a, b) => b.size - a.size);

/** What lies on the drives that are here, of one archive. */
export interface FoundArchive {
  id: string;
  name: string;
  /** names of the drives */
  drives: string[];
  parts: FoundPart[];
  histories: FoundHistory[];
  /** files that ought to be records and cannot be read, with the reason */
  unreadable: { path: string; drive: string; reason: string }[];
}

/** Deeper than any folder plan reaches: eight levels, and some for folders that a drive was begun in. */
const DEEPEST = 16;
/** A first line is some two hundred bytes, and as long as the archive's name. */
const HEAD_BYTES = 16 * 1024;

/** Finds what archives have written of themselves on drives. Reads first lines alone; nothing is changed. */
@Injectable()
export class FoundRecords {
  constructor(
    private readonly disk: Disk,
    private readonly volumes: VolumesService,
  ) {}

  /** All archives of which a drive that is here holds a record, those of which most is there first. `only`: of one drive. */
  async all(only?: Volume): Promise<FoundArchive[]> {
    const archives = new Map<string, FoundArchive>();
    const lost: FoundArchive['unreadable'] = [];
    for (const volume of only ? [only] : await this.volumes.all()) {
      if (!(await this.volumes.isOnline(volume))) continue;
      for (const folder of await this.recordFolders(volume))
        await this.lookInto(volume, folder, archives, lost);
    }
    const found = [...archives.values()].sort((a, b) => b.parts.length - a.parts.length);
    // Whose it was nobody can tell: it is said with the archive that most is known of.
    found[0]?.unreadable.push(...lost);
    return found;
  }

  private async lookInto(
    volume: Volume,
    folder: string,
    archives: Map<string, FoundArchive>,
    lost: FoundArchive['unreadable'],
  ): Promise<void> {
    const heads: RecordHead[] = [];
    /** all that wrote here: parts that one found as it would write them are still the other's for a while */
    const writers = new Set<FoundArchive>();
    for (const name of await this.names(volume, folder)) {
      if (!name.endsWith('.jsonl') || name === HISTORY) continue;
      const at = `${folder}/${name}`;
      const file = await this.volumes.resolve(volume, at);
      const facts = await this.disk.facts(file);
      if (facts?.kind !== 'file') continue;
      try {
        const head = recordHead((await this.disk.readPart(file, 0, HEAD_BYTES)).toString('utf8'), at);
        const { id, name: called } = head.archive;
        const archive = archives.get(id) ?? {
          id,
          name: called,
          drives: [],
          parts: [],
          histories: [],
          unreadable: [],
        };
        archives.set(id, archive);
        writers.add(archive);
        if (!archive.drives.includes(volume.name)) archive.drives.push(volume.name);
        archive.parts.push({ volumeId: volume.id, path: at, size: facts.size, head });
        heads.push(head);
      } catch (error) {
        if (!(error instanceof ArkivError) && diskErrorCode(error) === null) throw error;
        lost.push({ path: at, drive: volume.name, reason: (error as Error).message });
      }
    }
    const shoot = heads.find((head) => head.shoot !== null)?.shoot;
    if (shoot == null) return;
    // Beside the records of a shoot; of one that went into another, among them.
    for (const at of [`${path.posix.dirname(folder)}/${HISTORY}`, `${folder}/${HISTORY}`]) {
      const facts = await this.disk.facts(await this.volumes.resolve(volume, at));
      if (facts?.kind === 'file')
        for (const archive of writers)
          archive.histories.push({ volumeId: volume.id, path: at, size: facts.size, shoot });
    }
  }

  /** Folders that hold records: the archives' at the root, and one in each shoot's folder, below which there is no other. */
  private async recordFolders(volume: Volume): Promise<string[]> {
    const found: string[] = [];
    const archive = async (folder: string, deep: number): Promise<void> => {
      if (!(await this.isFolder(volume, folder))) return;
      found.push(folder);
      if (deep === 0) return;
      for (const name of await this.names(volume, folder)) await archive(`${folder}/${name}`, deep - 1);
    };
    await archive(ARCHIVE_RECORDS, 2);
    const below = async (folder: string, deep: number): Promise<void> => {
      const names = await this.names(volume, folder);
      if (names.includes(SHOOT_FOLDER)) {
        const records = `${folder}/${SHOOT_FOLDER}/${RECORDS}`;
        if (await this.isFolder(volume, records)) found.push(records);
        return;
      }
      if (deep === 0) return;
      for (const name of names) {
        const at = folder === '' ? name : `${folder}/${name}`;
        if (!name.startsWith('.') && (await this.isFolder(volume, at))) await below(at, deep - 1);
      }
    };
    await below('', DEEPEST);
    // Of shoots that lie in folders which are not the archive's own.
    await below(ADOPTED_TEXTS, 1);
    return found;
  }

  private async isFolder(volume: Volume, at: string): Promise<boolean> {
    // The system's own folders at a drive's root may be closed to everybody.
    const place = await this.placed(volume, at);
    return place !== null && (await this.disk.facts(place))?.kind === 'folder';
  }

  private async names(volume: Volume, at: string): Promise<string[]> {
    const place = at === '' ? volume.root : await this.placed(volume, at);
    if (place === null) return [];
    try {
      return (await this.disk.names(place)).map((name) => name.toString('utf8')).sort();
    } catch (error) {
      if (diskErrorCode(error) === null) throw error;
      return [];
    }
  }

  /** Null for what is no place of an archive's: its name is no text, or a link leads away. */
  private placed(volume: Volume, at: string): Promise<string | null> {
    return this.volumes.resolve(volume, at).catch((error: unknown) => {
      if (error instanceof ArkivError || diskErrorCode(error) !== null) return null;
      throw error;
    });
  }
}
