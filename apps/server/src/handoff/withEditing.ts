import path from 'node:path';
import { Injectable } from '@nestjs/common';
import { ArkivError } from '@arkiv/core';
import { UnitOfWork } from '../db/unitOfWork';
import { FramesService } from '../frames/frames.service';
import { OwnTextsService } from '../frames/ownTexts.service';
import type { Handed } from '../ledger/handoff.entity';
import { OutLedger } from '../ledger/outLedger';
import { SidecarsService } from '../sidecars/sidecars.service';
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
    private readonly sidecars: SidecarsService,
    private readonly volumes: VolumesService,
  ) {}

  /** By what is written down: no file is read. */
  async compare<T extends Going>(
    { shootId, volumeId, inside }: { shootId: string; volumeId: string; inside: string },
    going: readonly T[],
  ): Promise<Compared<T>> {
    const all = await this.ledger.handed(shootId, volumeId);
    const there = new Map([...all].filter(([at]) => path.posix.dirname(at).endsWith(`/${inside}`)));
    const changed = await this.changedSidecars(there, going);
    const fresh = going.filter(({ assetId, sha256, to }) => {
      const its = there.get(to);
      if (!its) return true;
      return assetId === null ? changed.has(to) : its.sha256 !== sha256;
    });
    const wanted = new Set(going.map(({ to }) => to));
    const keepers = new Set(going.map(({ frameId }) => frameId));
    const byFrame = new Map<string, string[]>();
    for (const { path: at, frameId } of there.values())
      if (!wanted.has(at)) byFrame.set(frameId, [...(byFrame.get(frameId) ?? []), at]);
    return {
      fresh,
      sidecars: fresh.filter(({ assetId, to }) => assetId === null && there.has(to)).length,
      gone: [...byFrame].map(([frameId, paths]) => ({
        ...{ frameId, paths: paths.sort() },
        name: path.posix.parse(paths[0]!).name,
        why: keepers.has(frameId) ? 'another name' : 'no keeper',
      })),
    };
  }

  /** How many copies' sidecars another program has changed: each is read. */
  async edited(shootId: string, volumeId: string): Promise<number> {
    const volume = await this.volumes.get(volumeId);
    if (!(await this.volumes.isOnline(volume))) return 0;
    let edited = 0;
    for (const { path: at } of await this.sidecarsThere(shootId, volumeId))
      if ((await this.texts.read(volume, at)).changedOutside) edited += 1;
    return edited;
  }

  /** Takes what editors wrote into the copies' sidecars into the frames' marks; the copies say then what the frames say. */
  async readBack(shootId: string, volumeId: string): Promise<ReadBack> {
    const volume = await this.volumes.get(volumeId);
    await this.volumes.check(volume);
    const problems: string[] = [];
    let frames = 0;
    for (const its of await this.sidecarsThere(shootId, volumeId)) {
      try {
        const found = await this.texts.read(volume, its.path);
        if (!found.changedOutside || found.text === null) continue;
        // A frame that is in the archive no more has no marks to take anything in.
        if ((await this.frames.frame(its.frameId))?.state !== 'here') continue;
        await this.bringUpToDate(volume, its, { ...found, text: found.text }, 'read-back');
        frames += 1;
      } catch (error) {
        const shown = error instanceof ArkivError ? error : volumeError(error, volume, its.path, 0, 0);
        problems.push(`${shown.message} ${shown.body().next}`);
      }
    }
    return { frames, problems };
  }

  /** Writes what is said of the frame by now into a copy's sidecar; what was changed there is taken in, and all else in it stays. */
  async bringUpToDate(
    volume: Volume,
    its: Handed,
    found: { text: string; changedOutside: boolean },
    job: string,
  ): Promise<void> {
    const { text, model } = await this.sidecars.textInCopy(its.frameId, found, its.said, its.path);
    if (!(await this.texts.replace(volume, its.path, text, found.text, job)))
      throw new ArkivError('file.exists', { file: its.path });
    await this.work.write((manager) => this.ledger.hand(manager, { ...its, said: model }));
  }

  private async sidecarsThere(shootId: string, volumeId: string): Promise<Handed[]> {
    return [...(await this.ledger.handed(shootId, volumeId)).values()].filter(
      ({ sha256 }) => sha256 === null,
    );
  }

  /** Places of sidecars whose frames say something else by now than when they were written there. */
  private async changedSidecars(
    there: ReadonlyMap<string, Handed>,
    going: readonly Going[],
  ): Promise<Set<string>> {
    const pairs = going.flatMap(({ assetId, to }) => {
      const its = assetId === null ? there.get(to) : undefined;
      return its ? [its] : [];
    });
    const differing = await this.sidecars.differing(
      new Map(pairs.map(({ frameId, said }) => [frameId, said])),
    );
    return new Set(pairs.flatMap(({ path: to, frameId }) => (differing.has(frameId) ? to : [])));
  }
}
