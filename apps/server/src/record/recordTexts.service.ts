import { setImmediate as turn } from 'node:timers/promises';
import { Injectable, type OnModuleInit } from '@nestjs/common';
import {
  ARCHIVE_FOLDER,
  ArkivError,
  recordHead,
  recordText,
  SHOOT_FOLDER,
  type RecordRow,
} from '@arkiv/core';
import { Reading, UnitOfWork } from '../db/unitOfWork';
import { Disk } from '../disk/disk';
import { removeEmptyFolders } from '../disk/place';
import { Happenings, type DomainEvent } from '../events/domainEvents';
import { DueTexts } from '../frames/dueTexts.service';
import { OwnTextsService } from '../frames/ownTexts.service';
import { OpenJobs } from '../jobs/openJobs.service';
import { Journal } from '../journal/journal';
import { SettingsService } from '../settings/settings.service';
import { textsApart, Shoot, textFolders } from '../shoots/shoot.entity';
import { ShootTextsService } from '../shoots/shootTexts.service';
import { Clock } from '../system/clock';
import type { Volume } from '../volumes/volume.entity';
import { VolumesService } from '../volumes/volumes.service';
import { ONE, partsOfSubject, RECORDED, type RecordedPart } from './recorded';
import { recordTriggers } from './recordTriggers';
import { RowText } from './rowText';

/** Where records lie: below a shoot's folder, or, of the archive as a whole, at the root of a drive. */
export const RECORDS = 'record';
export const HISTORY = 'history.jsonl';
export const ARCHIVE_RECORDS = `${ARCHIVE_FOLDER}/${RECORDS}`;
export const archiveRecords = (archiveId: string): string => `${ARCHIVE_RECORDS}/${archiveId}`;
export const shootRecords = (folder: string): string => `${folder}/${SHOOT_FOLDER}/${RECORDS}`;

/** Rows read at once: some milliseconds. */
const ROWS = 500;

/** After these, something may be due. Triggers note what is; these say when to look. */
const CHANGES: readonly DomainEvent[] = [
  ...(['frames', 'arrived', 'copied', 'measured', 'compared', 'marks', 'sidecars', 'shoots', 'job'] as const),
  ...(['volumes', 'settings', 'piles', 'albums', 'vocabulary', 'bin', 'returns', 'posted', 'sent'] as const),
  ...(['destinations', 'gallery', 'mail', 'passes'] as const),
];

/**
 * Keeps, in each shoot's folder and at each drive's root, all that the database knows and pictures and sidecars do not say by
 * themselves: enough to make it anew from the drives alone. In parts, so that a change writes little.
 */
@Injectable()
export class RecordTexts implements OnModuleInit {
  constructor(
    private readonly disk: Disk,
    private readonly reading: Reading,
    private readonly work: UnitOfWork,
    private readonly volumes: VolumesService,
    private readonly texts: OwnTextsService,
    private readonly settings: SettingsService,
    private readonly shootTexts: ShootTextsService,
    private readonly journal: Journal,
    private readonly clock: Clock,
    due: DueTexts,
    openJobs: OpenJobs,
    happenings: Happenings,
  ) {
    due.register(
      'record',
      (volume, subject) => this.write(volume, subject),
      () => openJobs.isWhole(),
    );
    for (const change of CHANGES) happenings.on(change, () => due.soon());
  }

  async onModuleInit(): Promise<void> {
    await this.work.trigger(recordTriggers(this.reading.source));
  }

  private async write(volume: Volume, subject: string): Promise<void> {
    const { kind, shoot: shootId, key } = partsOfSubject(subject);
    const part = RECORDED[kind];
    if (!part || volume.role === 'edit') return;
    const name = key === '' ? `${kind}.jsonl` : `${kind}-${key}.jsonl`;
    const shoot = part.of === 'archive' ? null : await this.reading.manager.findOneBy(Shoot, { id: shootId });
    if (part.of === 'shoot' && shoot === null) return;
    const archive = await this.settings.archive();
    const [home] = shoot ? await this.shootTexts.homesOn(volume, shoot) : [];
    const { here, left } = placesOf(shoot, home, archiveRecords(archive.id));
    for (const folder of left) await this.remove(volume, folder, name);
    if (shoot?.mergedInto != null) await this.leaveNoEmptyFolder(volume, shoot);
    // The journal is asked first: what is decided meanwhile is applied once more, and changes nothing.
    const journal = await this.newestOperation();
    const rows = await this.rows(part, shootId, key);
    if (rows.length === 0) return this.remove(volume, here, name);
    // A drive that holds nothing of the shoot in its own folder has no such folder.
    if (
      shoot?.mergedInto === null &&
      home !== textsApart(shoot.id) &&
      !(await this.disk.facts(await this.volumes.resolve(volume, home!)))
    )
      return;
    const head = {
      archive,
      shoot: shoot?.id ?? null,
      part: name.replace(/\.jsonl$/, ''),
      at: this.clock.now(),
      journal,
    };
    await this.keep(volume, `${here}/${name}`, recordText(head, rows), archive.id);
    if (kind === 'shoot' && shoot?.mergedInto != null) await this.writeHistory(volume, here, shoot.id);
  }

  /**
   * One that says the same as before, of this archive, stays as it lies there: thousands of them would be written for nothing. A shoot
   * that came from another archive is told of by this one from then on.
   */
  private async keep(volume: Volume, path: string, text: string, archiveId: string): Promise<void> {
    const { text: found } = await this.texts.read(volume, path);
    if (found !== null && rowsOf(found) === rowsOf(text) && archiveIn(found, path) === archiveId)
      await this.texts.replace(volume, path, found, found, 'record');
    else await this.texts.keepTrue(volume, path, text, 'record');
  }

  /** What was decided in a shoot that went into another: the other's folders tell its own history. */
  private async writeHistory(volume: Volume, folder: string, shootId: string): Promise<void> {
    const lines: string[] = [];
    for await (const operation of this.journal.numbered(shootId))
      lines.push(`${JSON.stringify(operation)}\n`);
    if (lines.length > 0) await this.texts.keepTrue(volume, `${folder}/${HISTORY}`, lines.join(''), 'record');
  }

  private async newestOperation(): Promise<number> {
    const [{ seq }]: [{ seq: number | null }] = await this.reading.source.query(
      'SELECT MAX(seq) AS seq FROM operation',
    );
    return seq ?? 0;
  }

  private async rows(part: RecordedPart, shoot: string, key: string): Promise<RecordRow[]> {
    const named = {
      shoot,
      key: /^\d+$/.test(key) && (part === RECORDED.frames || part === RECORDED.trail) ? Number(key) : key,
    };
    const rows: RecordRow[] = [];
    for (const table of part.tables) {
      const text = new RowText(this.reading.source, table);
      for (let from = 0; ; from += ROWS) {
        const some: Record<string, unknown>[] = await this.reading.source.query(
          `SELECT * FROM "${text.table}" WHERE ${table.where} ORDER BY ${text.order} LIMIT ${ROWS} OFFSET ${from}`,
          [named],
        );
        for (const row of some) rows.push({ is: text.table, row: text.said(row) });
        if (some.length < ROWS) break;
        await turn();
      }
      if (table.where === ONE && rows.length === 0) return rows;
    }
    return rows;
  }

  /** A part that is no more, and its folder where nothing is left in that. */
  private async remove(volume: Volume, folder: string, name: string): Promise<void> {
    const at = await this.volumes.resolve(volume, folder);
    if (!(await this.disk.facts(at))) return;
    await this.texts.remove(volume, `${folder}/${name}`, 'record');
    await removeEmptyFolders(this.disk, at);
  }

  /** A shoot that went into another leaves a folder only where something else is in it. */
  private async leaveNoEmptyFolder(volume: Volume, shoot: Shoot): Promise<void> {
    const [home] = textFolders(shoot);
    if (home !== undefined) await removeEmptyFolders(this.disk, await this.volumes.resolve(volume, home));
  }
}

/** Of which archive a record is; null: it is none. */
function archiveIn(text: string, path: string): string | null {
  try {
    return recordHead(text, path).archive.id;
  } catch (error) {
    if (error instanceof ArkivError) return null;
    throw error;
  }
}

/** All of a record but what it says of itself. */
const rowsOf = (text: string): string => text.slice(text.indexOf('\n'));

/** Where the parts of a shoot lie now, and where they lay before it was merged or came apart again. */
function placesOf(
  shoot: Shoot | null,
  home: string | undefined,
  archive: string,
): { here: string; left: string[] } {
  if (shoot === null) return { here: archive, left: [] };
  const own = home === undefined ? null : shootRecords(home);
  const merged = `${archive}/${shoot.id}`;
  // A shoot that went into another may have no folder of its own any more.
  return shoot.mergedInto === null && own !== null
    ? { here: own, left: [merged, shootRecords(textsApart(shoot.id))].filter((place) => place !== own) }
    : { here: merged, left: own === null ? [] : [own] };
}
