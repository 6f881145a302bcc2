import { Injectable } from '@nestjs/common';
import { standingFilter } from '@arkiv/core';
import { FramesService } from '../frames/frames.service';
import { SettingsService } from '../settings/settings.service';

/** Which frames of a shoot are meant where rejects are done away with. */
export interface Unwanted {
  /** these, whatever their marks; otherwise the rejects by the studio's rules */
  frameIds?: readonly string[];
  /** not the rejects alone, but what is undecided too */
  undecided?: boolean;
}

/** The rejects of a shoot by the studio's rules. */
@Injectable()
export class Rejects {
  constructor(
    private readonly archive: FramesService,
    private readonly settings: SettingsService,
  ) {}

  /** Ids of frames that are here. */
  async of(shootId: string, { frameIds, undecided = false }: Unwanted): Promise<Set<string>> {
    if (frameIds) {
      const here = await this.archive.ofShoot(shootId);
      const named = new Set(frameIds);
      return new Set(here.flatMap(({ id }) => (named.has(id) ? [id] : [])));
    }
    const { rules } = await this.settings.all();
    const rejects = standingFilter('reject', rules);
    const filter = undecided ? { any: [rejects, standingFilter('left', rules)] } : rejects;
    return new Set((await this.archive.select(shootId, filter)).map(({ id }) => id));
  }
}
