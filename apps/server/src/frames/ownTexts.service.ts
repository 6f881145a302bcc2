import path from 'node:path';
import { Injectable } from '@nestjs/common';
import { ArkivError, isoTime, type SidecarModel } from '@arkiv/core';
import type { EntityManager } from 'typeorm';
import { Reading, UnitOfWork } from '../db/unitOfWork';
import { Disk } from '../disk/disk';
import { discard, placeNew, readOwnBytes, replaceOwn, sha256Of } from '../disk/place';
import { temporaryName } from '../disk/temporary';
import { Clock } from '../system/clock';
import { VolumesService } from '../volumes/volumes.service';
import type { Volume } from '../volumes/volume.entity';
import { OwnText } from './ownText.entity';

export interface FoundText {
  text: string | null;
  /** the file is not what we last wrote */
  changedOutside: boolean;
  /** key of what other programs kept in it when we last wrote it; null: nobody noted that */
  foreign: string | null;
  /** what it said when we last read it, where it is another program's; null: it is ours, or nobody has read it */
  said: SidecarModel | null;
}

/** Texts that Arkiv writes and may replace, but only while nobody else has touched them. */
@Injectable()
export class OwnTextsService {
  constructor(
    private readonly disk: Disk,
    private readonly reading: Reading,
    private readonly work: UnitOfWork,
    private readonly volumes: VolumesService,
    private readonly clock: Clock,
  ) {}

  async read(volume: Volume, path: string): Promise<FoundText> {
    const bytes = await readOwnBytes(this.disk, await this.volumes.resolve(volume, path));
    const text = bytes === null ? null : utf8(bytes, path);
    const row = await this.reading.manager.findOneBy(OwnText, { volumeId: volume.id, path });
    const { foreign = null, said = null } = row ?? {};
    const ours = [row?.sha256, row?.placing];
    return { text, foreign, said, changedOutside: bytes !== null && !ours.includes(sha256Of(bytes)) };
  }

  /**
   * Puts `text` in the place of `seen` (null: nothing was there). False when the file changed meanwhile. `foreign`: key of what other
   * programs find in it.
   */
  async replace(
    volume: Volume,
    path: string,
    text: string,
    seen: string | null,
    job: string,
    foreign: string | null = null,
  ): Promise<boolean> {
    const file = await this.volumes.resolve(volume, path);
    if (seen !== text) {
      const done = await replaceOwn(this.disk, file, text, seen === null ? null : sha256Of(seen), job);
      if (!done) return false;
    }
    // A run that was killed right after it gave the text its name has left the temporary one.
    else await discard(this.disk, temporaryName(file, job));
    await this.work.write((manager) =>
      manager.save(OwnText, {
        ...{ volumeId: volume.id, path, sha256: sha256Of(text), foreign, said: null, placing: null },
      }),
    );
    return true;
  }

  private placing(manager: EntityManager, volumeId: string, path: string, sha256: string): Promise<unknown> {
    return manager.query(
      `INSERT INTO own_text ("volumeId", path, sha256, placing) VALUES (?, ?, '', ?)
       ON CONFLICT ("volumeId", path) DO UPDATE SET placing = excluded.placing`,
      [volumeId, path, sha256],
    );
  }

  /** What lies there is known as it is, though somebody else wrote it; `foreign`: key of what other programs find in it. */
  async noted(
    manager: EntityManager,
    volumeId: string,
    path: string,
    text: string,
    foreign: string | null,
  ): Promise<void> {
    await manager.save(OwnText, { volumeId, path, sha256: sha256Of(text), foreign, said: null });
  }

  /** What another program wrote beside one file of a frame is read, and known as it is. */
  async heard(
    manager: EntityManager,
    volumeId: string,
    path: string,
    text: string,
    said: SidecarModel,
  ): Promise<void> {
    await manager.save(OwnText, { volumeId, path, sha256: sha256Of(text), foreign: null, said });
  }

  /** A text lies elsewhere now: on all drives that have it, or on one. */
  async renamed(manager: EntityManager, from: string, to: string, volumeId?: string): Promise<void> {
    for (const text of await manager.findBy(OwnText, { path: from, ...(volumeId && { volumeId }) })) {
      await manager.delete(OwnText, { volumeId: text.volumeId, path: text.path });
      await manager.save(OwnText, { ...text, path: to });
    }
  }

  /** A text that was deleted with its frame. */
  async forgotten(manager: EntityManager, path: string, volumeId: string): Promise<void> {
    await manager.delete(OwnText, { volumeId, path });
  }

  /** Takes a text of ours away, with what a job that wrote it has left half-written; not where somebody has changed it. False: it stayed. */
  async remove(volume: Volume, relative: string, job: string): Promise<boolean> {
    const file = await this.volumes.resolve(volume, relative);
    await discard(this.disk, temporaryName(file, job));
    const found = await this.read(volume, relative);
    if (found.text !== null && found.changedOutside) return false;
    if (found.text !== null) {
      await this.disk.unlink(file);
      await this.disk.syncFolder(path.dirname(file));
    }
    await this.work.write((manager) => manager.delete(OwnText, { volumeId: volume.id, path: relative }));
    return true;
  }

  /** Replaces our text; one that somebody changed is kept beside it under another name first. */
  async keepTrue(volume: Volume, relative: string, text: string, job: string): Promise<void> {
    const found = await this.read(volume, relative);
    if (found.text !== null && found.changedOutside && found.text !== text) {
      const { dir, name, ext } = path.posix.parse(relative);
      const aside = `${dir}/${name}_found-${isoTime(this.clock.now()).replace(/[:.]/g, '-')}${ext}`;
      await placeNew(this.disk, await this.volumes.resolve(volume, aside), Buffer.from(found.text), job);
    }
    // Sidecars go without this: what stands in one that nobody has noted is taken in, and is what it was.
    if (found.text !== text)
      await this.work.write((manager) => this.placing(manager, volume.id, relative, sha256Of(text)));
    await this.replace(volume, relative, text, found.text, job);
  }
}

/** A text's characters. Another program may have written it in another encoding: then it is left as it is, and named. */
function utf8(bytes: Buffer, path: string): string {
  try {
    // The mark at a text's beginning stays, so that the text written back is the one that was read.
    return new TextDecoder('utf-8', { fatal: true, ignoreBOM: true }).decode(bytes);
  } catch {
    throw new ArkivError('sidecar.malformed', { file: path, reason: 'it is not UTF-8 text' });
  }
}
