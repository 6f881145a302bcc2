import path from 'node:path';
import { Injectable } from '@nestjs/common';
import { ArkivError } from '@arkiv/core';
import { UnitOfWork } from '../db/unitOfWork';
import { FramesService } from '../frames/frames.service';
import { OwnTextsService, type FoundText } from '../frames/ownTexts.service';
import type { Handed } from '../ledger/handoff.entity';
import { OutLedger } from '../ledger/outLedger';
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

export interface ReadBack {
  /** frames whose copies' sidecars another program had changed */
  frames: number;
  /** why some could not be read */
  problems: string[];
}

/** What lies with editing: compared with the keepers of now, and what editors wrote into the copies' sidecars. */
@Injectable()
export class WithEditing {
  constructor(
    private readonly work: UnitOfWork,
    private readonly ledger: OutLedger,
    private readonly frames: FramesService,
    private readonly texts: OwnTextsService,
    private readonly words: SidecarWords,
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

  /** How many frames' copies another program has written words into: each sidecar is read, and each JPEG that is not as it was. */
  async edited(shootId: string, volumeId: string): Promise<number> {
    const volume = await this.volumes.get(volumeId);
    if (!(await this.volumes.isOnline(volume))) return 0;
    const edited = new Set<string>();
    for (const { path: at, frameId } of await this.sidecarsThere(shootId, volumeId))
      if ((await this.texts.read(volume, at)).changedOutside) edited.add(frameId);
    for (const its of await this.saidInside(shootId, volumeId))
      if (await this.inside.changed(volume, its)) edited.add(its.frameId);
    return edited.size;
  }

  /**
   * Takes what editors wrote into the copies' sidecars, and into JPEGs themselves, into the frames' marks. The sidecars say then what
   * the frames say; a JPEG into which somebody wrote is not written to any more.
   */
  async readBack(shootId: string, volumeId: string): Promise<ReadBack> {
    const volume = await this.volumes.get(volumeId);
    await this.volumes.check(volume);
    const problems: string[] = [];
    const frames = new Set<string>();
    const attempt = async (its: Handed, read: () => Promise<boolean>): Promise<void> => {
      try {
        // A frame that is in the archive no more has no marks to take anything in.
        if ((await this.frames.frame(its.frameId))?.state !== 'here') return;
        if (await read()) frames.add(its.frameId);
      } catch (error) {
        const shown = error instanceof ArkivError ? error : volumeError(error, volume, its.path, 0, 0);
        problems.push(`${shown.message} ${shown.body().next}`);
      }
    };
    for (const its of await this.saidInside(shootId, volumeId))
      await attempt(its, async () => {
        const changed = await this.inside.changed(volume, its);
        if (!changed) return false;
        const { xmp, ...now } = changed;
        await this.words.textInCopy(its.frameId, { text: xmp, changedOutside: true }, its.said, its.path);
        await this.work.write((manager) => this.ledger.hand(manager, { ...its, ...now }));
        return true;
      });
    for (const its of await this.sidecarsThere(shootId, volumeId))
      await attempt(its, async () => {
        const found = await this.texts.read(volume, its.path);
        if (!found.changedOutside || found.text === null) return false;
        await this.bringUpToDate(volume, its, { ...found, text: found.text }, 'read-back');
        return true;
      });
    return { frames: frames.size, problems };
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
    await this.work.write((manager) => this.ledger.hand(manager, { ...its, said: model }));
  }

  private async sidecarsThere(shootId: string, volumeId: string): Promise<Handed[]> {
    return [...(await this.ledger.handed(shootId, volumeId)).values()].filter(
      ({ sha256 }) => sha256 === null,
    );
  }

  /** JPEGs that say something inside. */
  private async saidInside(shootId: string, volumeId: string): Promise<Handed[]> {
    return [...(await this.ledger.handed(shootId, volumeId)).values()].filter(
      ({ packet }) => packet !== null,
    );
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
