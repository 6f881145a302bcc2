import { Injectable } from '@nestjs/common';
import { countDevices, toSql, UNKNOWN_DEVICE } from '@arkiv/core';
import { LongReading } from '../db/longReading';
import { Reading } from '../db/unitOfWork';
import { SettingsService } from '../settings/settings.service';
import { VolumesService } from '../volumes/volumes.service';
import type { Volume } from '../volumes/volume.entity';
import type { CopiesAsked } from './whileMoving';

/** A copy that is to be made. */
export interface MissingCopy {
  assetId: string;
  sha256: string;
  path: string;
  volumeId: string;
  size: number;
  shootId: string;
}

export interface Missing {
  copies: MissingCopy[];
  /** files that no drive which is here can take */
  nowhere: number;
}

/** A file that has too few copies, or a damaged one. */
interface Row extends Omit<MissingCopy, 'volumeId'> {
  /** ids of volumes, by comma */
  volumes: string | null;
  damaged: string | null;
}

/** What decides where copies go: the drives that are here, which disk each is on, how many the studio asks for. */
interface Basis {
  here: Volume[];
  device: ReadonlyMap<string, string>;
  required: number;
}

/** Files looked at for one part of a job: some milliseconds. */
const PART = 200;

const ROW = `SELECT a.id AS "assetId", a.sha256, a.size, a."shootId", a."at" AS path,
    (SELECT group_concat(c."volumeId") FROM copy c WHERE c."assetId" = a.id AND c."verifiedAt" IS NOT NULL) AS volumes,
    (SELECT group_concat(d."volumeId") FROM damage d WHERE d."assetId" = a.id) AS damaged`;
/** On one volume only: what lies there, well or damaged. */
const ON = `(? IS NULL OR EXISTS (SELECT 1 FROM copy c WHERE c."assetId" = a.id AND c."volumeId" = ?)
    OR EXISTS (SELECT 1 FROM damage d WHERE d."assetId" = a.id AND d."volumeId" = ?))`;

/** Which copies are missing, and where each has to be made. */
@Injectable()
export class MissingCopies {
  constructor(
    private readonly reading: Reading,
    private readonly long: LongReading,
    private readonly volumes: VolumesService,
    private readonly settings: SettingsService,
  ) {}

  /** All of them; many files may be meant, so they are looked for in a thread of its own. */
  async all(asked: CopiesAsked): Promise<Missing> {
    if (asked.to !== undefined) return this.onto(asked, asked.to);
    const { shootId = null, volumeId = null } = asked;
    const basis = await this.basis();
    const rows = await this.long.rows<Row>(
      // Only shoots that miss any are looked through, and what was found damaged: in this order, whatever is guessed.
      `${ROW} FROM (
         SELECT x.id FROM shoot s CROSS JOIN asset x ON x."shootId" = s.id AND x.devices < ?
         WHERE s."missingCopies" > 0 AND (? IS NULL OR s.id = ?)
         UNION SELECT d."assetId" FROM damage d CROSS JOIN asset x ON x.id = d."assetId" WHERE ? IS NULL OR x."shootId" = ?) m
       CROSS JOIN asset_at a ON a.id = m.id WHERE a.sha256 IS NOT NULL AND ${ON}`,
      [basis.required, shootId, shootId, shootId, shootId, volumeId, volumeId, volumeId],
    );
    return choose(rows, basis);
  }

  /** Those of some files of a shoot, after one of them. `through`: the last file looked at; null: there were none. */
  async some(
    asked: CopiesAsked,
    shootId: string,
    after: string,
  ): Promise<{ copies: MissingCopy[]; through: string | null }> {
    if (asked.to !== undefined) {
      const { copies } = await this.onto(asked, asked.to, after);
      return { copies, through: copies.at(-1)?.assetId ?? null };
    }
    const { volumeId = null } = asked;
    const basis = await this.basis();
    const ids: { id: string }[] = await this.reading.source.query(
      `SELECT x.id FROM asset x WHERE x."shootId" = ? AND x.id > ?
         AND (x.devices < ? OR EXISTS (SELECT 1 FROM damage d WHERE d."assetId" = x.id)) ORDER BY x.id LIMIT ?`,
      [shootId, after, basis.required, PART],
    );
    const rows: Row[] = await this.reading.source.query(
      `${ROW} FROM json_each(?) m CROSS JOIN asset_at a ON a.id = m.value
       WHERE a.sha256 IS NOT NULL AND ${ON} ORDER BY a.id`,
      [JSON.stringify(ids.map(({ id }) => id)), volumeId, volumeId, volumeId],
    );
    return { copies: choose(rows, basis).copies, through: ids.at(-1)?.id ?? null };
  }

  /** Files of a shoot that a drive does not hold, by their ids; `after` one of them the next few, or all. */
  private async onto(
    { shootId, keepers }: CopiesAsked,
    to: string,
    after: string | null = null,
  ): Promise<Missing> {
    const kept = keepers ? toSql((await this.settings.all()).rules.keeper) : null;
    // Files of no frame, and sidecars that came on the card, go with the whole shoot alone.
    const of = kept
      ? `AND a."frameId" IN (SELECT f.id FROM frame_here f WHERE f."shootId" = a."shootId" AND ${kept.where})`
      : '';
    const rows = await this.long.rows<Row>(
      `${ROW} FROM asset_at a WHERE a."shootId" = ? AND a.id > ? AND a.sha256 IS NOT NULL ${of}
         AND NOT EXISTS (SELECT 1 FROM copy c WHERE c."assetId" = a.id AND c."volumeId" = ? AND c."verifiedAt" IS NOT NULL)
       ORDER BY a.id LIMIT ?`,
      [shootId ?? '', after ?? '', ...(kept?.parameters ?? []), to, after === null ? -1 : PART],
    );
    // A file without any good copy left has nothing that could be copied.
    const from = rows.filter(({ volumes }) => volumes !== null);
    const copies = from.map(({ volumes: _, damaged: __, ...asset }) => ({ ...asset, volumeId: to }));
    return { copies, nowhere: rows.length - from.length };
  }

  /** The next shoot, by id, of which any copy may be missing. */
  async shootAfter(id: string): Promise<string | null> {
    const [next]: { id: string | null }[] = await this.reading.source.query(
      `SELECT MIN(id) AS id FROM (
         SELECT MIN(s.id) AS id FROM shoot s WHERE s.id > ? AND s."missingCopies" > 0
         UNION ALL SELECT MIN(x."shootId") FROM damage d CROSS JOIN asset x ON x.id = d."assetId" WHERE x."shootId" > ?)`,
      [id, id],
    );
    return next?.id ?? null;
  }

  private async basis(): Promise<Basis> {
    const here: Volume[] = [];
    for (const { volume, online, readOnly } of await this.volumes.list())
      if (online && !readOnly && volume.role !== 'edit') here.push(volume);
    const device = new Map((await this.volumes.all()).map((v) => [v.id, v.device]));
    return { here, device, required: (await this.settings.all()).requiredCopies };
  }
}

/** Damaged copies are made at their place, others on drives that hold none yet. */
function choose(rows: readonly Row[], { here, device, required }: Basis): Missing {
  const copies: MissingCopy[] = [];
  let nowhere = 0;
  for (const { volumes, damaged, ...asset } of rows) {
    const has = volumes?.split(',') ?? [];
    const devices = new Set(has.map((id) => device.get(id) ?? UNKNOWN_DEVICE));
    const broken = new Set(damaged?.split(',') ?? []);
    const chosen = here.filter((v) => broken.has(v.id));
    for (const volume of chosen) devices.add(volume.device);
    for (const volume of here) {
      if (countDevices(devices) >= required) break;
      // A drive that may be the same disk as another brings no copy more.
      const more = new Set(devices).add(volume.device);
      if (countDevices(more) === countDevices(devices)) continue;
      devices.add(volume.device);
      chosen.push(volume);
    }
    if (countDevices(devices) < required) nowhere += 1;
    if (has.length > 0) copies.push(...chosen.map((volume) => ({ ...asset, volumeId: volume.id })));
  }
  return { copies, nowhere };
}
