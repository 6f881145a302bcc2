import path from 'node:path';
import {
  Injectable,
  Logger,
  type BeforeApplicationShutdown,
  type OnApplicationBootstrap,
} from '@nestjs/common';
import { BIN_FOLDER, inBin } from '@arkiv/core';
import { UnitOfWork } from '../db/unitOfWork';
import { Disk } from '../disk/disk';
import { hashFile } from '../disk/verifiedCopy';
import { Happenings } from '../events/domainEvents';
import { FramesService } from '../frames/frames.service';
import { CopyStore } from '../frames/copyStore';
import { FrameStore } from '../frames/frameStore';
import { OwnTextsService } from '../frames/ownTexts.service';
import { Companions } from '../moves/companions';
import { FileWays, frameNameOf, sidecarEndings, type Way } from '../moves/fileWays';
import { SidecarsService } from '../sidecars/sidecars.service';
import { Clock } from '../system/clock';
import type { Volume } from '../volumes/volume.entity';
import { VolumesService } from '../volumes/volumes.service';
import type { BinnedCopy } from './binned.entity';
import { BinStore } from './binStore';
import { BinTexts } from './binTexts.service';

/** Where what lies in a bin lay before. */
const outOfBin = (place: string): string => place.split('/').slice(2).join('/');

/** Drives that were away when frames were binned, brought back or deleted catch up with it when they return. */
@Injectable()
export class BinAway implements OnApplicationBootstrap, BeforeApplicationShutdown {
  private readonly log = new Logger('bin');
  private working: Promise<void> = Promise.resolve();
  private stopping = false;

  constructor(
    private readonly disk: Disk,
    private readonly ways: FileWays,
    private readonly companions: Companions,
    private readonly work: UnitOfWork,
    private readonly archive: FramesService,
    private readonly store: FrameStore,
    private readonly copyStore: CopyStore,
    private readonly bins: BinStore,
    private readonly binTexts: BinTexts,
    private readonly texts: OwnTextsService,
    private readonly volumes: VolumesService,
    private readonly sidecars: SidecarsService,
    private readonly happenings: Happenings,
    private readonly clock: Clock,
  ) {
    happenings.on('volumes', () => this.soon());
    // What was taken back or deleted while a drive was away may concern one that has returned meanwhile.
    happenings.on('bin', () => this.soon());
  }

  onApplicationBootstrap(): void {
    this.soon();
  }

  async beforeApplicationShutdown(): Promise<void> {
    this.stopping = true;
    await this.working;
  }

  /** Returns when what drives owe by now was tried. */
  settled(): Promise<void> {
    this.soon();
    return this.working;
  }

  private soon(): void {
    this.working = this.working
      .then(() => this.catchUp())
      .catch((error: unknown) => this.log.error((error as Error).stack));
  }

  private async catchUp(): Promise<void> {
    for (const volume of await this.volumes.all()) {
      const due = await this.bins.due(volume.id);
      // Nothing is done on a drive that another archive had, until it is said what becomes of what lies there.
      if (due.length === 0 || volume.heldBy !== null || !(await this.volumes.isOnline(volume))) continue;
      this.companions.forget();
      const touched = new Set<string>();
      for (const copy of due) {
        if (this.stopping) return;
        try {
          await this.sidecars.without(() => this.one(copy, volume));
          touched.add(copy.binId);
        } catch (error) {
          // The others are done all the same; it stays due and is tried when the drive comes again.
          this.log.warn(`${copy.due} on “${volume.name}”: ${(error as Error).message}`);
        }
      }
      for (const id of touched) await this.binTexts.owe(id);
      if (touched.size === 0) continue;
      await this.binTexts.write();
      this.happenings.tell('bin', {});
    }
  }

  private one(copy: BinnedCopy, volume: Volume): Promise<void> {
    if (copy.due === 'bin') return this.intoBin(copy, volume);
    return copy.due === 'back' ? this.comeBack(copy, volume) : this.remove(copy, volume);
  }

  private async intoBin(copy: BinnedCopy, volume: Volume): Promise<void> {
    const bin = (await this.bins.bin(copy.binId))!;
    const way: Way = {
      ...{ volume, from: copy.path, to: inBin(bin.folder, copy.path), sha256: copy.sha256 },
    };
    if (!(await this.isOurs(way, copy))) {
      // Somebody put another file there, or took it away: nothing of the archive lies on this drive.
      return this.work.write((manager) => this.bins.settled(manager, copy));
    }
    const ways = [
      way,
      ...(await this.beside(copy, way)),
      ...(await this.settingsInto(copy, bin.folder, volume)),
    ];
    await this.ways.go(ways, () =>
      this.work.write(async (manager) => {
        await this.bins.lies(manager, copy, way.to);
        for (const { from, to, sha256 } of ways)
          if (sha256 === null) await this.texts.renamed(manager, from, to, volume.id);
      }),
    );
  }

  private async comeBack(copy: BinnedCopy, volume: Volume): Promise<void> {
    const asset = await this.archive.asset(copy.assetId);
    if (!asset) return this.work.write((manager) => this.bins.settled(manager, copy));
    const way: Way = { volume, from: copy.path, to: asset.at, sha256: copy.sha256 };
    if (!(await this.ways.there(way, 'from')) && !(await this.ways.there(way, 'to')))
      return this.work.write((manager) => this.bins.settled(manager, copy));
    const ways =
      way.from === way.to
        ? []
        : [way, ...(await this.beside(copy, way)), ...(await this.settingsBack(copy, volume, way.to))];
    await this.ways.go(ways, async () => {
      const found = (await hashFile(this.disk, await this.volumes.resolve(volume, way.to))).sha256;
      await this.work.write(async (manager) => {
        const { assetId, volumeId } = copy;
        const at = this.clock.now();
        if (copy.sha256 === null || found === copy.sha256)
          await this.copyStore.verified(manager, assetId, volumeId, { verifiedAt: at, pastCache: false });
        else
          await this.copyStore.damaged(manager, assetId, volumeId, {
            ...{ found, at, reason: 'it changed while it lay in the bin' },
          });
        // Its frame was moved in the meantime: it lies where it was brought.
        if ((await this.archive.asset(assetId))?.at !== way.to)
          await this.copyStore.liesAt(manager, assetId, volumeId, way.to);
        await this.bins.settled(manager, copy);
        await this.store.due(manager, [copy.frameId]);
        for (const { from, to, sha256 } of ways)
          if (sha256 === null) await this.texts.renamed(manager, from, to, volumeId);
      });
    });
  }

  private async remove(copy: BinnedCopy, volume: Volume): Promise<void> {
    await this.binTexts.deleteCopy(copy, volume);
    const base = frameNameOf(copy.path);
    for (const ending of sidecarEndings([copy.path]))
      await this.binTexts.deleteText(volume, base + ending, copy.frameId);
    // What another program kept there is not deleted, and lies again where it lay.
    for (const way of await this.settingsBack(copy, volume, outOfBin(copy.path)))
      await this.ways.go([way], () => Promise.resolve());
    await this.work.write(async (manager) => {
      await this.bins.settled(manager, copy);
      for (const ending of sidecarEndings([copy.path]))
        await this.texts.forgotten(manager, base + ending, volume.id);
    });
  }

  /** Its frame's sidecars on this drive, which go with the first of its files that goes. */
  private async beside(copy: BinnedCopy, way: Way): Promise<Way[]> {
    const frame = await this.archive.frame(copy.frameId);
    if (!frame) return [];
    const found = await this.ways.beside(way);
    const its: Way[] = [];
    for (const one of found)
      if (await this.binTexts.mayBeOf(way.volume, one.from, copy.frameId)) its.push(one);
    return its;
  }

  /** What other programs keep beside a frame on this drive, which goes with the first of its files that goes. */
  private async settingsInto(copy: BinnedCopy, folder: string, volume: Volume): Promise<Way[]> {
    const frame = await this.archive.frame(copy.frameId);
    if (frame?.state !== 'binned') return [];
    const { id, name, place, shootId } = frame;
    const files = (await this.bins.files(id)).map(({ assetId, at }) => ({
      assetId,
      from: at,
      to: inBin(folder, at),
    }));
    const from = { name, folder: frame.folder, place };
    return this.companions.onDrive(
      volume,
      { id, from, to: { ...from, place: inBin(folder, place) }, files },
      shootId,
    );
  }

  /** The same in a bin, on the way out of it; what cannot come to its place stays there. */
  private async settingsBack(copy: BinnedCopy, volume: Volume, to: string): Promise<Way[]> {
    const from = copy.path;
    if (!from.startsWith(`${BIN_FOLDER}/`)) return [];
    const at = (file: string) => ({
      ...{ name: path.posix.basename(frameNameOf(file)), folder: '' },
      place: path.posix.dirname(file),
    });
    const its = (await this.bins.copies(copy.frameId)).filter(({ volumeId }) => volumeId === volume.id);
    const files = its.map(({ assetId, path: lies }) => ({ assetId, from: lies, to: lies }));
    const move = { id: copy.frameId, from: at(from), to: at(to), files };
    const names = async () => (await this.bins.names(copy.binId)).add(move.from.name);
    const ways: Way[] = [];
    for (const way of await this.companions.outOf(volume, move, names))
      if (!(await this.ways.isTaken(way))) ways.push(way);
    return ways;
  }

  private async isOurs(way: Way, copy: BinnedCopy): Promise<boolean> {
    if (await this.ways.there(way, 'to')) return true;
    if (!(await this.ways.there(way, 'from'))) return false;
    const file = await this.volumes.resolve(way.volume, way.from);
    return copy.sha256 === null || (await hashFile(this.disk, file)).sha256 === copy.sha256;
  }
}
