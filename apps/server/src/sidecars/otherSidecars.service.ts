import path from 'node:path';
import { Injectable, Logger } from '@nestjs/common';
import { ArkivError, baseOf, besideFile, isoTime } from '@arkiv/core';
import { decodeTime } from 'ulid';
import { LongReading } from '../db/longReading';
import { UnitOfWork } from '../db/unitOfWork';
import { Disk, diskErrorCode } from '../disk/disk';
import { Happenings } from '../events/domainEvents';
import { OwnTextsService } from '../frames/ownTexts.service';
import { Parser } from '../metadata/parser';
import type { Volume } from '../volumes/volume.entity';
import { VolumesService } from '../volumes/volumes.service';
import { SidecarWords } from './sidecarWords.service';

/** Sidecars whose time and size are remembered; above, all are forgotten and read once more. */
const MOST_KNOWN = 200_000;

/** A folder on one drive in which files of frames lie. */
interface Folder {
  volume: Volume;
  place: string;
  /** ids of its frames by their files' names without endings, in small letters; asked for where something has changed */
  frames: () => Promise<ReadonlyMap<string, string>>;
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
    private readonly long: LongReading,
    private readonly work: UnitOfWork,
    private readonly volumes: VolumesService,
    private readonly texts: OwnTextsService,
    private readonly parser: Parser,
    private readonly words: SidecarWords,
    private readonly happenings: Happenings,
  ) {}

  /** Takes in what was changed in sidecars of a folder since they were looked at last; `names`: of these alone. */
  async look({ volume, place, frames: ask }: Folder, names: readonly string[] | null = null): Promise<void> {
    const folder = await this.volumes.resolve(volume, place);
    let frames: Promise<ReadonlyMap<string, string>> | null = null;
    for (const name of names ?? (await this.namesIn(folder))) {
      const of = besideFile(name);
      if (of === null) continue;
      const frame = async () => (await (frames ??= ask())).get(baseOf(of));
      try {
        await this.one(volume, `${place}/${name}`, path.join(folder, name), frame);
      } catch (error) {
        // One that cannot be read is looked at again when it has changed; a drive that has just gone, when it is back.
        if (diskErrorCode(error) === null && !(error instanceof ArkivError)) throw error;
        this.log.warn(`${name} could not be read: ${(error as Error).message}`);
      }
    }
  }

  /** `frame`: id of the frame that it belongs to, which is asked for where it has changed. */
  private async one(
    volume: Volume,
    at: string,
    file: string,
    frame: () => Promise<string | undefined>,
  ): Promise<void> {
    const facts = await this.disk.facts(file);
    if (facts?.kind !== 'file') return;
    const stamp = `${facts.mtimeMillis}.${facts.size}.${facts.inode}`;
    if (this.known.get(file) === stamp) return;
    const { text, said, changedOutside } = await this.texts.read(volume, at);
    const frameId = text !== null && changedOutside ? await frame() : undefined;
    // One whose frame is not known yet may have been renamed with it just now.
    if (text !== null && changedOutside && frameId === undefined) return;
    if (this.known.size >= MOST_KNOWN) this.known.clear();
    this.known.set(file, stamp);
    if (text === null || frameId === undefined) return;
    const read = await this.parser.readSidecar(text);
    if (!read.ok) {
      const name = path.basename(file);
      this.log.warn(`${name} could not be read: ${read.reason}`);
      this.happenings.tell('sidecar', {
        ...{ frameId, name: baseOf(besideFile(name)!), volume: volume.name },
        message: `What another program wrote beside it into ${name} on “${volume.name}” cannot be read: ${read.reason}. It is read again when it changes.`,
      });
      return;
    }
    // What lay there before the frame came was read with it, though nobody noted it: what was taken off since stays off.
    const isRead = said === null && facts.mtimeMillis <= decodeTime(frameId);
    // Where it does not say when that was decided, it was when the file was written.
    const metadataDate = read.model.metadataDate ?? isoTime(facts.mtimeMillis);
    if (!isRead) await this.words.takenIn(frameId, { ...read.model, metadataDate }, said);
    await this.work.write((manager) => this.texts.heard(manager, volume.id, at, text, read.model));
  }

  /** Ids of the frames whose originals lie in a folder of a shoot, by their names, in small letters. */
  async framesIn(shootId: string, place: string): Promise<ReadonlyMap<string, string>> {
    const rows = await this.long.rows<{ id: string; name: string }>(
      `SELECT id, name FROM frame_here WHERE "shootId" = ? AND place = ?`,
      [shootId, place],
    );
    return new Map(rows.map(({ id, name }) => [name.toLowerCase(), id]));
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
