import path from 'node:path';
import { Injectable } from '@nestjs/common';
import { ArkivError, besideFile } from '@arkiv/core';
import { UnitOfWork } from '../db/unitOfWork';
import { Disk } from '../disk/disk';
import { FramesService } from '../frames/frames.service';
import { OwnTextsService, type FoundText } from '../frames/ownTexts.service';
import type { Handed } from '../ledger/handoff.entity';
import { OutLedger } from '../ledger/outLedger';
import { OtherSidecars } from '../sidecars/otherSidecars.service';
import { SidecarWords } from '../sidecars/sidecarWords.service';
import { InsideCopies } from './insideCopies';
import type { Volume } from '../volumes/volume.entity';
import { volumeError, VolumesService } from '../volumes/volumes.service';

/** A file that a hand-off would put to a place. */
export interface Going {
  frameId: string | null;
  /** null: a sidecar */
  assetId: string | null;
  sha256: string | null;
  size: number;
  from: string;
  to: string;
}

/** What lies with editing on a drive, beside what would go there by now. */
export interface Compared<T extends Going> {
  /** what is not there yet, or is another one by now */
  fresh: T[];
  /** of these, sidecars that are there and say something else by now */
  sidecars: number;
  /** of these, what is there and would only say something else: sidecars, and JPEGs inside */
  words: number;
  /** what lies there and would not go there any more, by frame */
  gone: { frameId: string; name: string; paths: string[]; why: 'no keeper' | 'another name' }[];
}

/** A file with editing that cannot be read. */
export interface Problem {
  /** below its drive */
  path: string;
  message: string;
}

/** What was taken in of what editors wrote. */
export interface Heard {
  /** frames into whose copies another program had written */
  frames: number;
  problems: Problem[];
}

/** What lies with editing: compared with the keepers of now, and what editors wrote into the copies' sidecars. */
@Injectable()
export class WithEditing {
  constructor(
    private readonly disk: Disk,
    private readonly work: UnitOfWork,
    private readonly ledger: OutLedger,
    private readonly frames: FramesService,
    private readonly texts: OwnTextsService,
    private readonly words: SidecarWords,
    private readonly others: OtherSidecars,
    private readonly inside: InsideCopies,
    private readonly volumes: VolumesService,
  ) {}

  /** By what is written down: no file is read. */
  async compare<T extends Going>(
    { shootId, volumeId, inside }: { shootId: string; volumeId: string; inside: string },
    going: readonly T[],
  ): Promise<Compared<T>> {
    const all = await this.ledger.handed(shootId, volumeId);
    const there = new Map([...all].filter(([at]) => path.posix.dirname(at).endsWith(`/${inside}`)));
    const changed = await this.changedWords(there, going);
    const fresh = going.filter(({ sha256, to }) => {
      const its = there.get(to);
      if (!its) return true;
      return its.sha256 !== sha256 || changed.has(to);
    });
    const wanted = new Set(going.map(({ to }) => to));
    const keepers = new Set(going.map(({ frameId }) => frameId));
    const byFrame = new Map<string, string[]>();
    for (const { path: at, frameId } of there.values())
      if (!wanted.has(at)) byFrame.set(frameId, [...(byFrame.get(frameId) ?? []), at]);
    return {
      fresh,
      sidecars: fresh.filter(({ assetId, to }) => assetId === null && there.has(to)).length,
      words: fresh.filter(({ sha256, to }) => there.get(to)?.sha256 === sha256).length,
      gone: [...byFrame].map(([frameId, paths]) => ({
        ...{ frameId, paths: paths.sort() },
        name: path.posix.parse(paths[0]!).name,
        why: keepers.has(frameId) ? 'another name' : 'no keeper',
      })),
    };
  }

  /**
   * Takes what editors wrote into the copies' sidecars, beside them, and into JPEGs themselves into the frames' marks. Nothing is written
   * there: somebody may be at work on it. A JPEG into which somebody wrote is not written to any more. `names`: files of these alone.
   */
  async hear(shootId: string, volumeId: string, names: ReadonlySet<string> | null = null): Promise<Heard> {
    const volume = await this.volumes.get(volumeId);
    await this.volumes.check(volume);
    const problems: Problem[] = [];
    const frames = new Set<string>();
    const all = [...(await this.ledger.handed(shootId, volumeId)).values()];
    for (const its of all) {
      if (names !== null && !names.has(path.posix.basename(its.path))) continue;
      try {
        if (await this.hearOne(volume, its)) frames.add(its.frameId);
      } catch (error) {
        const shown = error instanceof ArkivError ? error : volumeError(error, volume, its.path, 0, 0);
        problems.push({ path: its.path, message: `${shown.message} ${shown.body().next}` });
      }
    }
    await this.hearBeside(volume, all, names);
    return { frames: frames.size, problems };
  }

  /** Whether another program has written something into it. */
  private async hearOne(volume: Volume, its: Handed): Promise<boolean> {
    // A picture's copy that says nothing inside is the picture alone.
    if (its.sha256 !== null && its.packet === null) return false;
    const facts = await this.disk.facts(await this.volumes.resolve(volume, its.path));
    if (facts?.kind !== 'file') return false;
    const { size, mtimeMillis } = facts;
    if (size === its.size && mtimeMillis === its.mtimeMillis) return false;
    // A frame that is in the archive no more has no marks to take anything in.
    if ((await this.frames.frame(its.frameId))?.state !== 'here') return false;
    if (its.sha256 !== null) {
      const changed = await this.inside.changed(volume, its);
      if (!changed) return false;
      const { xmp: text, ...now } = changed;
      await this.words.takenFromCopy(its.frameId, { text, changedOutside: true }, its.said, its.path);
      await this.work.write((manager) => this.ledger.heard(manager, its, now));
      return true;
    }
    const found = await this.texts.read(volume, its.path);
    const { text, changedOutside } = found;
    if (text === null) return false;
    if (!changedOutside) {
      await this.work.write((manager) => this.ledger.heard(manager, its, { size, mtimeMillis }));
      return false;
    }
    const { said, foreign } = await this.words.takenFromCopy(
      its.frameId,
      { ...found, text },
      its.said,
      its.path,
    );
    await this.work.write(async (manager) => {
      await this.texts.noted(manager, volume.id, its.path, text, foreign);
      await this.ledger.heard(manager, its, { said, size, mtimeMillis });
    });
    return true;
  }

  /** What other programs say beside single files of the copies, in sidecars of their own. */
  private async hearBeside(
    volume: Volume,
    all: readonly Handed[],
    names: ReadonlySet<string> | null,
  ): Promise<void> {
    const folders = new Map<string, Map<string, string>>();
    for (const { path: at, frameId } of all) {
      const { dir, name } = path.posix.parse(at);
      const frames = folders.get(dir) ?? new Map<string, string>();
      folders.set(dir, frames.set(name.toLowerCase(), frameId));
    }
    const beside = names && [...names].filter((name) => besideFile(name) !== null);
    for (const [place, frames] of folders)
      await this.others.look({ volume, place, frames: () => Promise.resolve(frames) }, beside);
  }

  /** Writes what is said of the frame by now into a copy's sidecar; what was changed there is taken in, and all else in it stays. */
  async bringUpToDate(
    volume: Volume,
    its: Handed,
    found: FoundText & { text: string },
    job: string,
  ): Promise<void> {
    const { text, model, foreign } = await this.words.textInCopy(its.frameId, found, its.said, its.path);
    if (!(await this.texts.replace(volume, its.path, text, found.text, job, foreign)))
      throw new ArkivError('file.exists', { file: its.path });
    await this.handed(volume, { ...its, said: model });
  }

  /** A sidecar lies with editing from now on. */
  async handed(volume: Volume, its: Handed): Promise<void> {
    const facts = await this.disk.facts(await this.volumes.resolve(volume, its.path));
    const { size, mtimeMillis } = facts ?? { size: its.size, mtimeMillis: null };
    await this.work.write((manager) => this.ledger.hand(manager, { ...its, size, mtimeMillis }));
  }

  /** Places of what says something of its frame, which by now would say something else there. */
  private async changedWords(
    there: ReadonlyMap<string, Handed>,
    going: readonly Going[],
  ): Promise<Set<string>> {
    const sidecars = new Map<string, Handed>();
    const pictures: Handed[] = [];
    for (const { assetId, to } of going) {
      const its = there.get(to);
      if (its && assetId === null) sidecars.set(its.frameId, its);
      // What somebody wrote into stays as it is.
      else if (its?.written) pictures.push(its);
    }
    const ofSidecars = await this.words.differing(
      new Map([...sidecars].map(([frameId, { said }]) => [frameId, said])),
    );
    const ofPictures = await this.words.differing(
      new Map(pictures.map(({ frameId, said }) => [frameId, said])),
    );
    return new Set([
      ...[...sidecars.values()].flatMap(({ path: to, frameId }) => (ofSidecars.has(frameId) ? to : [])),
      ...pictures.flatMap(({ path: to, frameId }) => (ofPictures.has(frameId) ? to : [])),
    ]);
  }
}
