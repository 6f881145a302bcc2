import path from 'node:path';
import { Injectable } from '@nestjs/common';
import { kindOfExtension } from '@arkiv/core';
import { In } from 'typeorm';
import { Reading } from '../db/unitOfWork';
import { Disk, diskErrorCode } from '../disk/disk';
import { isTemporary } from '../disk/temporary';
import { Shoot, workFolders } from '../shoots/shoot.entity';
import { VolumesService } from '../volumes/volumes.service';
import type { Volume } from '../volumes/volume.entity';
import { ReturnStore } from './returnStore';

/** A folder in which edits come back, on a drive that is here. */
export interface ReturnPlace {
  volume: Volume;
  /** below the volume */
  path: string;
}

/** A picture's file in such a folder. */
export interface FoundFile extends ReturnPlace {
  size: number;
  mtimeMillis: number;
}

/** Folders within each other that are looked into: editors sort by day, by version, by client; no deeper tree was seen. */
const DEEPEST = 5;

/** Where edits of a shoot come back, and what lies there. */
@Injectable()
export class ReturnPlaces {
  constructor(
    private readonly disk: Disk,
    private readonly reading: Reading,
    private readonly store: ReturnStore,
    private readonly volumes: VolumesService,
  ) {}

  /** The folder for edits in each of the shoot's, on every drive that has anything of it or was given copies; and those that were named. */
  async of(shoot: Shoot): Promise<ReturnPlace[]> {
    const { id } = shoot;
    const held: { volumeId: string }[] = await this.reading.source.query(
      `SELECT "volumeId" FROM shoot_volume WHERE "shootId" = ? UNION SELECT "volumeId" FROM handed WHERE "shootId" = ?`,
      [id, id],
    );
    const named = await this.store.folders(id);
    const own = editsOf(shoot);
    // Whoever edits saves where it was before, whatever became of that shoot.
    for (const merged of await this.mergedInto(id)) own.push(...editsOf(merged));
    const wanted = [...held.flatMap(({ volumeId }) => own.map((at) => ({ volumeId, path: at }))), ...named];
    const places = new Map<string, ReturnPlace>();
    for (const { volumeId, path: at } of wanted) {
      const volume = await this.volumes.get(volumeId);
      if (await this.volumes.isOnline(volume)) places.set(`${volumeId}/${at}`, { volume, path: at });
    }
    return [...places.values()];
  }

  /** Shoots that went into one, and those that had gone into these. */
  private async mergedInto(id: string): Promise<Shoot[]> {
    const all: Shoot[] = [];
    for (let last = [id]; last.length > 0;) {
      const next = await this.reading.manager.findBy(Shoot, { mergedInto: In(last) });
      all.push(...next);
      last = next.map((shoot) => shoot.id);
    }
    return all;
  }

  /** The folders to be watched for what comes into a place: itself, and all within; where it is not there yet, the one above it. */
  async watched(place: ReturnPlace): Promise<string[]> {
    const root = await this.volumes.resolve(place.volume, place.path);
    if ((await this.disk.facts(root))?.kind !== 'folder') return [path.dirname(root)];
    const folders: string[] = [];
    await this.walk(root, place.path, DEEPEST, (folder) => folders.push(folder));
    return folders;
  }

  /** The pictures in a place. What begins with a dot, or is half written, is no picture. */
  async files(place: ReturnPlace): Promise<FoundFile[]> {
    const root = await this.volumes.resolve(place.volume, place.path);
    const found: FoundFile[] = [];
    await this.walk(root, place.path, DEEPEST, undefined, (at, { size, mtimeMillis }) =>
      found.push({ volume: place.volume, path: at, size, mtimeMillis }),
    );
    return found;
  }

  private async walk(
    folder: string,
    at: string,
    deep: number,
    onFolder?: (folder: string) => void,
    onPicture?: (at: string, facts: { size: number; mtimeMillis: number }) => void,
  ): Promise<void> {
    let names: Buffer[];
    try {
      names = await this.disk.names(folder);
    } catch (error) {
      if (diskErrorCode(error) === null) throw error;
      return;
    }
    onFolder?.(folder);
    for (const bytes of names.sort(Buffer.compare)) {
      const name = bytes.toString();
      if (name.startsWith('.') || isTemporary(name) || !Buffer.from(name).equals(bytes)) continue;
      const below = path.join(folder, name);
      const facts = await this.disk.facts(below);
      if (facts?.kind === 'folder' && deep > 1)
        await this.walk(below, `${at}/${name}`, deep - 1, onFolder, onPicture);
      if (facts?.kind === 'file' && onPicture && isEdit(name)) onPicture(`${at}/${name}`, facts);
    }
  }
}

/** Whether a file's name is that of a finished picture: what cameras write, and layered files of a program's own, are none. */
function isEdit(name: string): boolean {
  const kind = kindOfExtension(path.extname(name).slice(1));
  return kind?.role === 'original' && !kind.raw;
}

/** The folders for edits in a shoot's own. Where a plan names one folder for two things, what lies in it may be anything. */
const editsOf = (shoot: Shoot): string[] => {
  const { plan } = shoot;
  return [plan.originals, plan.selects, plan.delivery, plan.rejects].includes(plan.edits)
    ? []
    : workFolders(shoot).map((folder) => `${folder}/${plan.edits}`);
};
