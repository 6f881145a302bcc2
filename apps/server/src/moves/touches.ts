import { Injectable } from '@nestjs/common';
import { Reading } from '../db/unitOfWork';
import { VolumesService } from '../volumes/volumes.service';

/** What something that is done with files has to do with. */
export interface Touched {
  /** of one copy of each file */
  bytes: number;
  /** names of the drives that hold copies */
  volumes: string[];
  /** those of them that are not connected */
  away: string[];
  /** frames that went to hand-off */
  handedOff: number;
  /** frames that were delivered */
  delivered: number;
}

/** Says before frames are touched how much it is, where it lies, and who has it already. */
@Injectable()
export class Touches {
  constructor(
    private readonly reading: Reading,
    private readonly volumes: VolumesService,
  ) {}

  async of(frameIds: readonly string[], assetIds: readonly string[]): Promise<Touched> {
    const frames = JSON.stringify(frameIds);
    const assets = JSON.stringify(assetIds);
    const [touched]: [Pick<Touched, 'bytes' | 'handedOff' | 'delivered'>] = await this.reading.source.query(
      `SELECT (SELECT COALESCE(SUM(size), 0) FROM asset WHERE id IN (SELECT value FROM json_each(?))) AS bytes,
         (SELECT COUNT(DISTINCT "frameId") FROM handoff_file WHERE fate = 'copied' AND "frameId" IN
           (SELECT value FROM json_each(?))) AS "handedOff",
         (SELECT COUNT(DISTINCT "frameId") FROM delivery_file WHERE fate = 'made' AND "frameId" IN
           (SELECT value FROM json_each(?))) AS delivered`,
      [assets, frames, frames],
    );
    const holding: { id: string }[] = await this.reading.source.query(
      `SELECT DISTINCT "volumeId" AS id FROM copy WHERE "assetId" IN (SELECT value FROM json_each(?))`,
      [assets],
    );
    const volumes: string[] = [];
    const away: string[] = [];
    for (const volume of await this.volumes.all()) {
      if (!holding.some(({ id }) => id === volume.id)) continue;
      volumes.push(volume.name);
      if (!(await this.volumes.isOnline(volume))) away.push(volume.name);
    }
    return { ...touched, volumes: volumes.sort(), away: away.sort() };
  }
}
