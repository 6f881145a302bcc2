import { Injectable } from '@nestjs/common';
import { ArkivError } from '@arkiv/core';
import type { PlacedAsset } from '../frames/asset.entity';
import { FramesService } from '../frames/frames.service';
import { OutLedger } from '../ledger/outLedger';
import { SettingsService, type Program } from '../settings/settings.service';
import { VolumesService } from '../volumes/volumes.service';
import { folderCommand, Launcher, programCommand } from './launcher';

/** A file on one drive. */
export interface LyingFile {
  assetId: string;
  volumeId: string;
  volume: string;
  online: boolean;
  name: string;
  /** its place below the drive */
  path: string;
  /** its whole path on this computer; null: who asks sits elsewhere, or the drive is away */
  whole: string | null;
}

/** Frames that are handed to a program at once: more windows than that open nobody wants. */
export const MOST_OPENED = 200;

/** A frame of which another one is a copy. */
export interface CopyOf {
  id: string;
  shootId: string;
  name: string;
}

/** Where files lie on this computer, and how other programs on it get them. */
@Injectable()
export class OpeningService {
  constructor(
    private readonly frames: FramesService,
    private readonly volumes: VolumesService,
    private readonly ledger: OutLedger,
    private readonly settings: SettingsService,
    private readonly launcher: Launcher,
  ) {}

  /** All files of a frame on all drives. `here`: who asks sits at this computer. */
  async files(frameId: string, here: boolean): Promise<LyingFile[]> {
    if (!(await this.frames.frame(frameId)))
      throw new ArkivError('not-found', { what: 'frame', id: frameId });
    const files: LyingFile[] = [];
    for (const { id } of await this.frames.originals([frameId]))
      for (const { copy, volume } of await this.frames.copiesOf(id)) {
        const online = await this.volumes.isOnline(volume);
        files.push({
          ...{ assetId: id, volumeId: volume.id, volume: volume.name, online },
          ...{ name: copy.at.slice(copy.at.lastIndexOf('/') + 1), path: copy.at },
          whole: here && online ? await this.volumes.resolve(volume, copy.at) : null,
        });
      }
    return files;
  }

  /** The frame that one is a copy of, as far as it is still here. */
  async copyOf(frameId: string): Promise<CopyOf | null> {
    const of = (await this.frames.frame(frameId))?.derivedFrom;
    const first = of ? await this.frames.frame(of) : null;
    return first?.state === 'here' ? { id: first.id, shootId: first.shootId, name: first.name } : null;
  }

  /** Shows a file in its folder. */
  async showFolder(assetId: string, volumeId: string): Promise<void> {
    const placed = (await this.frames.copiesOf(assetId)).find(({ volume }) => volume.id === volumeId);
    if (!placed) throw new ArkivError('not-found', { what: 'file', id: assetId });
    const { copy, volume } = placed;
    if (!(await this.volumes.isOnline(volume)))
      throw new ArkivError('volume.offline', { volume: volume.name });
    await this.launcher.start(
      folderCommand(await this.volumes.resolve(volume, copy.at), this.launcher.platform),
    );
  }

  /** Hands frames to a program: of each its raw, or its picture where it has none, or where the program wants that. */
  async open(frameIds: readonly string[], name: string): Promise<{ files: number }> {
    const program = (await this.programs()).find((one) => one.name === name);
    if (!program) throw new ArkivError('not-found', { what: 'program', id: name });
    const files: string[] = [];
    for (const id of frameIds) {
      const wanted = chosen(await this.frames.originals([id]), program.takes);
      if (wanted) files.push((await this.frames.locate(wanted.id)).file);
    }
    if (files.length === 0) throw new ArkivError('opening.nothing', {});
    await this.launcher.start(programCommand(program.command, program.args, files));
    return { files: files.length };
  }

  /** Hands the copies of frames that lie with editing on a drive to a program, as it takes raws or pictures. */
  async openCopies(frameIds: readonly string[], volumeId: string, name: string): Promise<{ files: number }> {
    const program = (await this.programs()).find((one) => one.name === name);
    if (!program) throw new ArkivError('not-found', { what: 'program', id: name });
    const volume = await this.volumes.get(volumeId);
    if (!(await this.volumes.isOnline(volume)))
      throw new ArkivError('volume.offline', { volume: volume.name });
    const files: string[] = [];
    for (const id of frameIds) {
      const there = await this.ledger.handedOf(id, volumeId);
      const copied = (await this.frames.originals([id])).filter(({ sha256 }) =>
        there.some((one) => one.sha256 !== null && one.sha256 === sha256),
      );
      const wanted = chosen(copied, program.takes);
      const copy = wanted && there.find(({ sha256 }) => sha256 === wanted.sha256);
      if (copy) files.push(await this.volumes.resolve(volume, copy.path));
    }
    if (files.length === 0) throw new ArkivError('opening.nothing', {});
    await this.launcher.start(programCommand(program.command, program.args, files));
    return { files: files.length };
  }

  async programs(): Promise<Program[]> {
    return (await this.settings.all()).programs;
  }

  async setPrograms(programs: readonly Program[]): Promise<void> {
    await this.settings.set({ programs: [...programs] });
  }
}

function chosen(originals: readonly PlacedAsset[], takes: Program['takes']): PlacedAsset | undefined {
  const pictures = originals.filter(({ role }) => role === 'original' || role === 'clip');
  const wanted = pictures.find(({ raw }) => raw === (takes === 'raw'));
  return wanted ?? pictures[0];
}
