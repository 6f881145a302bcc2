import { Injectable } from '@nestjs/common';
import { toSql } from '@arkiv/core';
import { LongReading } from '../db/longReading';
import { PICTURE } from '../frames/frameColumns';
import type { NewItem } from '../jobs/jobStore';
import { TravellingPreviews } from '../previews/travellingPreviews.service';
import { SettingsService } from '../settings/settings.service';
import { textFolders } from '../shoots/shoot.entity';
import { ShootsService } from '../shoots/shoots.service';
import { VolumesService } from '../volumes/volumes.service';
import type { Volume } from '../volumes/volume.entity';
import type { CopiesAsked } from './whileMoving';

/** Frames looked at for one part of a job: some milliseconds. */
const PART = 200;
/** Bytes of a frame's previews, as a rule (165 kB of the demo's): by them a job says how far it is. */
const BYTES = 165_000;

/** A frame of which previews go to a drive that does not get its picture. */
export interface PreviewAlone {
  frameId: string;
  name: string;
  picture: string;
}

/** What is to be put beside a shoot, of one frame. */
export interface PreviewItem {
  frameId: string;
  picture: string;
  volumeId: string;
}
export const isPreview = (data: unknown): data is PreviewItem => (data as PreviewItem).picture !== undefined;

/** Previews that go to a drive with a part of a shoot, of the frames whose pictures do not go there. */
@Injectable()
export class PreviewsAlong {
  constructor(
    private readonly long: LongReading,
    private readonly volumes: VolumesService,
    private readonly settings: SettingsService,
    private readonly shoots: ShootsService,
    private readonly travelling: TravellingPreviews,
  ) {}

  /** Those that are not there yet, by their ids: after one of them, `most` or some more. */
  async frames(asked: CopiesAsked, after = '', most = Infinity): Promise<PreviewAlone[]> {
    const { shootId, to, keepers, previews } = asked;
    if (!previews || to === undefined || shootId === undefined) return [];
    const [folder] = textFolders(await this.shoots.get(shootId));
    const there = await this.travelling.there(await this.volumes.get(to), folder!);
    const kept = keepers
      ? toSql((await this.settings.all()).rules.keeper)
      : { where: 'FALSE', parameters: [] };
    const found: PreviewAlone[] = [];
    for (let last = after; ;) {
      const rows = await this.long.rows<PreviewAlone>(
        `SELECT f.id AS "frameId", f.name, ${PICTURE} AS picture FROM frame_here f
         WHERE f."shootId" = ? AND f.id > ? AND ${PICTURE} IS NOT NULL AND NOT COALESCE((${kept.where}), FALSE)
           AND NOT EXISTS (SELECT 1 FROM copy c WHERE c."assetId" = f."shownBy" AND c."volumeId" = ?)
         ORDER BY f.id LIMIT ?`,
        [shootId, last, ...kept.parameters, to, PART],
      );
      found.push(...rows.filter(({ picture }) => !there.has(picture)));
      if (rows.length < PART || found.length >= most) return found;
      last = rows.at(-1)!.frameId;
    }
  }

  /** How many go, and some bytes for them. */
  async total(asked: CopiesAsked): Promise<{ files: number; bytes: number }> {
    const files = (await this.frames(asked)).length;
    return { files, bytes: files * BYTES };
  }

  /** Items of a job for the next of them, after those of a frame. */
  async items(asked: CopiesAsked, after: string): Promise<NewItem[]> {
    return (await this.frames(asked, after, PART)).map(({ name, ...frame }) => ({
      ...{ size: BYTES, name, shootId: asked.shootId! },
      data: { ...frame, volumeId: asked.to! } satisfies PreviewItem,
    }));
  }

  /** Throws as making a preview does, and as writing to a drive does. */
  async put(volume: Volume, shootId: string, { picture }: PreviewItem, job: string): Promise<void> {
    const [folder] = textFolders(await this.shoots.get(shootId));
    await this.travelling.put(volume, folder!, picture, job);
  }
}
