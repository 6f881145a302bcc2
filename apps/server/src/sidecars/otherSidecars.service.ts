import path from 'node:path';
import { Injectable, Logger } from '@nestjs/common';
import { ArkivError, baseOf, besideFile, isoTime } from '@arkiv/core';
import { decodeTime } from 'ulid';
import { Reading, UnitOfWork } from '../db/unitOfWork';
import { Disk, diskErrorCode } from '../disk/disk';
import { OwnTextsService } from '../frames/ownTexts.service';
import { Parser } from '../metadata/parser';
import type { Volume } from '../volumes/volume.entity';
import { VolumesService } from '../volumes/volumes.service';
import { SidecarWords } from './sidecarWords.service';

/** Sidecars whose time and size are remembered; above, all are forgotten and read once more. */
const MOST_KNOWN = 200_000;

/** A folder with originals of one shoot, on one drive. */
interface Folder {
  volume: Volume;
  shootId: string;
  place: string;
}

/**
 * What other programs say beside single files of frames, in `<base>.<ext>.xmp`: never written to. What such a sidecar said is kept, so
 * that what was changed in it since is told from what was decided here.
 */
@Injectable()
export class OtherSidecars {
  private readonly log = new Logger('sidecars');
  /** time and size of a sidecar when it was last looked at, by file */
  private readonly known = new Map<string, string>();

  constructor(
    private readonly disk: Disk,
    private readonly reading: Reading,
    private readonly work: UnitOfWork,
    private readonly volumes: VolumesService,
    private readonly texts: OwnTextsService,
    private readonly parser: Parser,
    private readonly words: SidecarWords,
  ) {}

  /** Takes in what was changed in sidecars of a folder since they were looked at last; `names`: of these alone. */
  async look({ volume, shootId, place }: Folder, names: readonly string[] | null = null): Promise<void> {
    const folder = await this.volumes.resolve(volume, place);
    for (const name of names ?? (await this.namesIn(folder))) {
      const of = besideFile(name);
      if (of === null) continue;
      try {
        await this.one({ volume, shootId, place }, path.join(folder, name), name, baseOf(of));
      } catch (error) {
        // One that cannot be read is looked at again when it has changed; a drive that has just gone, when it is back.
        if (diskErrorCode(error) === null && !(error instanceof ArkivError)) throw error;
        this.log.warn(`${name} could not be read: ${(error as Error).message}`);
      }
    }
  }

  private async one(
    { volume, shootId, place }: Folder,
    file: string,
    name: string,
    base: string,
  ): Promise<void> {
    const facts = await this.disk.facts(file);
    if (facts?.kind !== 'file') return;
    const stamp = `${facts.mtimeMillis}.${facts.size}.${facts.inode}`;
    if (this.known.get(file) === stamp) return;
    const [frame]: { id: string }[] = await this.reading.source.query(
      `SELECT id FROM frame_here WHERE "shootId" = ? AND place = ? AND name = ? COLLATE NOCASE LIMIT 1`,
      [shootId, place, base],
    );
    if (!frame) return;
    const at = `${place}/${name}`;
    const { text, said, changedOutside } = await this.texts.read(volume, at);
    if (this.known.size >= MOST_KNOWN) this.known.clear();
    this.known.set(file, stamp);
    if (text === null || !changedOutside) return;
    const read = await this.parser.readSidecar(text);
    if (!read.ok) {
      this.log.warn(`${name} could not be read: ${read.reason}`);
      return;
    }
    // What lay there before the frame came was read with it, though nobody noted it: what was taken off since stays off.
    const isRead = said === null && facts.mtimeMillis <= decodeTime(frame.id);
    // Where it does not say when that was decided, it was when the file was written.
    const metadataDate = read.model.metadataDate ?? isoTime(facts.mtimeMillis);
    if (!isRead) await this.words.takenIn(frame.id, { ...read.model, metadataDate }, said);
    await this.work.write((manager) => this.texts.heard(manager, volume.id, at, text, read.model));
  }

  private async namesIn(folder: string): Promise<string[]> {
    try {
      // Of tens of thousands of names few are sidecars: only these become text.
      return (await this.disk.names(folder))
        .filter((name) => name.toString('latin1', Math.max(0, name.length - 4)).toLowerCase() === '.xmp')
        .map((name) => name.toString('utf8'));
    } catch (error) {
      if (diskErrorCode(error) === null) throw error;
      return [];
    }
  }
}
