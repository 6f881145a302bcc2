import { Injectable } from '@nestjs/common';
import { ArkivError } from '@arkiv/core';
import { Reading } from '../db/unitOfWork';
import { NOT_OVER } from '../jobs/job.entity';
import { JobsService } from '../jobs/jobs.service';
import type { NewItem } from '../jobs/jobStore';
import { ARCHIVE_RECORDS } from '../record/recordTexts.service';
import { SettingsService } from '../settings/settings.service';
import { Ids } from '../system/ids';
import { VolumesService } from '../volumes/volumes.service';
import { FoundRecords, newestHistories, type FoundArchive, type FoundPart } from './foundRecords.service';
import type { RebuildParams } from './rebuild.handler';
import type { RebuildItem } from './rebuildSteps';
import { KINDS } from './rebuildStore';

/** An archive that can be made anew from what lies on the drives that are here. */
export interface OnDrives {
  id: string;
  name: string;
  drives: string[];
  shoots: number;
  /** when the newest of it was written, milliseconds since 1970 UTC */
  newest: number;
}

/** What is said of one part on several drives, the newest first. */
interface Part {
  kind: string;
  key: string;
  shoot: string | null;
  from: FoundPart[];
}

@Injectable()
export class RebuildService {
  constructor(
    private readonly reading: Reading,
    private readonly jobs: JobsService,
    private readonly found: FoundRecords,
    private readonly settings: SettingsService,
    private readonly volumes: VolumesService,
    private readonly ids: Ids,
  ) {}

  /** Archives that the drives tell of and this one could become; none where it holds anything itself. */
  async archives(): Promise<OnDrives[]> {
    if ((await this.shoots()) > 0) return [];
    return (await this.found.all())
      .map(({ id, name, drives, parts }) => ({
        ...{ id, name, drives },
        // Those that went into others are recorded with the archive.
        shoots: new Set(
          parts.flatMap(({ head, path }) =>
            head.part === 'shoot' && !path.startsWith(ARCHIVE_RECORDS) ? [head.shoot] : [],
          ),
        ).size,
        newest: Math.max(...parts.map(({ head }) => head.at)),
      }))
      .filter(({ shoots }) => shoots > 0);
  }

  /**
   * Begins to make the archive anew, here, where nothing is yet. Throws `rebuild.busy` where something is, and
   * `rebuild.nothing` where no drive tells of it.
   */
  async begin(archiveId: string): Promise<{ jobId: string }> {
    const shoots = await this.shoots();
    if (shoots > 0) throw new ArkivError('rebuild.busy', { shoots });
    const archive = (await this.found.all()).find(({ id }) => id === archiveId);
    if (!archive) throw new ArkivError('rebuild.nothing', { archive: archiveId });
    const items = await this.itemsOf(archive);
    const jobId = this.ids.newId();
    const params: RebuildParams = { archiveId, before: (await this.settings.archive()).id };
    const job = { id: jobId, kind: 'rebuild' as const, title: archive.name, shootId: null, params };
    // Nothing else is at work on anything meanwhile.
    const subjects = [{ kind: 'shoot' as const, id: '*', deed: 'moves' as const }];
    await this.jobs.begin([{ job: { ...job, subjects }, items }]);
    return { jobId };
  }

  /** Shoots that are here; one at which a rebuild that is not over is at work counts as some. */
  private async shoots(): Promise<number> {
    const [{ shoots, open }]: [{ shoots: number; open: number }] = await this.reading.source.query(
      `SELECT (SELECT COUNT(*) FROM shoot) AS shoots,
         (SELECT COUNT(*) FROM job WHERE kind = 'rebuild' AND state IN ('${NOT_OVER.join("', '")}')) AS open`,
    );
    return Math.max(shoots, open);
  }

  private async itemsOf(archive: FoundArchive): Promise<NewItem[]> {
    const items: NewItem[] = [];
    const add = (data: RebuildItem, name: string, size = 0): void => void items.push({ size, name, data });
    const parts = together(archive.parts);
    for (const { kind, from } of parts)
      add({ do: 'rows', kind, from: from.map(fileOf) }, from[0]!.path, from[0]!.size);
    const histories = new Map<string, FoundArchive['histories']>();
    for (const history of archive.histories)
      histories.set(history.shoot, [...(histories.get(history.shoot) ?? []), history]);
    for (const [shoot, its] of histories) {
      const from = newestHistories(its);
      add({ do: 'history', shoot, from: from.map(fileOf) }, from[0]!.path, from[0]!.size);
    }
    for (const { kind, key, shoot, from } of parts)
      if (kind === 'frames' && shoot !== null)
        add({ do: 'marks', shoot, block: Number(key), from: from.map(fileOf) }, from[0]!.path);
    const shoots = new Set(parts.flatMap(({ shoot }) => shoot ?? []));
    for (const shoot of shoots) {
      const its = parts.filter((part) => part.shoot === shoot);
      const on = [...new Set(its.flatMap(({ from }) => from.map(({ volumeId }) => volumeId)))];
      add({ do: 'files', shoot, on }, its[0]!.from[0]!.path);
    }
    for (const { id, name } of await this.volumes.all()) add({ do: 'texts', volumeId: id }, name);
    return items;
  }
}

const fileOf = ({ volumeId, path, size }: FoundPart | FoundArchive['histories'][number]) => ({
  volumeId,
  path,
  size,
});

/** Parts by what they are of, the newest of each first, in the order in which they can be kept: of two that tell of one row the newer counts. */
function together(found: readonly FoundPart[]): Part[] {
  const parts = new Map<string, Part>();
  for (const one of [...found].sort((a, b) => b.head.at - a.head.at)) {
    const { shoot, part } = one.head;
    const [kind = ''] = part.split('-', 1);
    if (!KINDS.includes(kind)) continue;
    const key = part.slice(kind.length + 1);
    if (kind === 'frames' && !/^\d{1,12}$/.test(key)) continue;
    const name = `${shoot} ${part}`;
    const known = parts.get(name);
    if (known) known.from.push(one);
    else parts.set(name, { kind, key, shoot, from: [one] });
  }
  return [...parts.values()].sort(
    (a, b) => KINDS.indexOf(a.kind) - KINDS.indexOf(b.kind) || b.from[0]!.head.at - a.from[0]!.head.at,
  );
}
