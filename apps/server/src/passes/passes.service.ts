import { Injectable } from '@nestjs/common';
import {
  ArkivError,
  comparedPasses,
  invertAll,
  markOf,
  marksInPass,
  MARK_KIND,
  placesOfText,
  standingFilter,
  standingOf,
  toSql,
  type ComparedPasses,
  type Filter,
  type MarkOperation,
  type Marks,
} from '@arkiv/core';
import { In } from 'typeorm';
import { insertRows } from '../db/insertRows';
import { LongReading } from '../db/longReading';
import { Reading, UnitOfWork } from '../db/unitOfWork';
import { Happenings } from '../events/domainEvents';
import { FramesService } from '../frames/frames.service';
import { queryFrame } from '../frames/queryFrame';
import { Journal } from '../journal/journal';
import { MarksService } from '../marks/marks.service';
import { SettingsService } from '../settings/settings.service';
import { foundShoots } from '../shoots/shoots.service';
import { Clock } from '../system/clock';
import { Ids } from '../system/ids';
import { Pass } from './pass.entity';
import { PassPart } from './passPart.entity';

/** Twice the largest shoot that the archive is measured with; of more, the ids would not fit into a request of 4 MB. */
export const MOST_FRAMES = 100_000;

/** In the journal, what was made by the server for a window that asked. */
const WINDOW = 'server';
/** All but what is large: lists show numbers. */
const LISTED = [
  ...(['id', 'name', 'total', 'seenCount', 'at', 'kept', 'rejected', 'activeMillis'] as const),
  ...(['begunAt', 'changedAt', 'endedAt', 'undoneAt'] as const),
] as const;

/** The frames of a pass in one shoot, with what the shoot is called. */
export type TitledPart = Omit<PassPart, 'passId' | 'ordinal'> & { title: string };
export type WholePass = Pass & { parts: TitledPart[] };

/** What a pass is to be about: frames by their ids, in their order, or all of the shoots that words find. */
export interface PassOver {
  frames?: readonly string[];
  find?: string;
}

/** Which of them: by the studio's rules, or by their stars; neither: all. */
export interface PassWhat {
  standing?: 'left' | 'keeper';
  stars?: number;
}

export interface PassChoices {
  all: number;
  left: number;
  keepers: number;
  /** with 1, 2 … 5 stars or more */
  stars: number[];
}

export interface PassProgress extends Pick<Pass, 'seen' | 'seenCount' | 'activeMillis'> {
  at?: string | null;
  /** the shoot that is looked at, and how its frames stand */
  shootId: string;
  kept: number;
  rejected: number;
  ended: boolean;
  /** the arrangement that `seen` counts in */
  arranged?: number;
}

/** Passes over shoots. The windows look and count; here it is kept, so that a pass goes on tomorrow and elsewhere. */
@Injectable()
export class PassesService {
  constructor(
    private readonly reading: Reading,
    private readonly work: UnitOfWork,
    private readonly long: LongReading,
    private readonly frames: FramesService,
    private readonly settings: SettingsService,
    private readonly journal: Journal,
    private readonly marks: MarksService,
    private readonly clock: Clock,
    private readonly ids: Ids,
    private readonly happenings: Happenings,
  ) {}

  /** Those that go over a shoot, the newest first. */
  async list(shootId: string): Promise<(Pick<Pass, (typeof LISTED)[number]> & { shoots: number })[]> {
    const parts: { passId: string; shoots: number }[] = await this.reading.source.query(
      `SELECT p."passId", (SELECT COUNT(*) FROM pass_part o WHERE o."passId" = p."passId") AS shoots
       FROM pass_part p WHERE p."shootId" = ?`,
      [shootId],
    );
    const shoots = new Map(parts.map((part) => [part.passId, part.shoots]));
    const passes = await this.reading.manager.find(Pass, {
      where: { id: In([...shoots.keys()]) },
      select: [...LISTED],
      order: { begunAt: 'DESC', id: 'DESC' },
    });
    return passes.map((pass) => ({ ...pass, shoots: shoots.get(pass.id)! }));
  }

  async get(id: string): Promise<WholePass> {
    const pass = await this.reading.manager.findOneBy(Pass, { id });
    if (!pass) throw new ArkivError('not-found', { what: 'pass', id });
    return { ...pass, parts: await this.partsOf(id) };
  }

  private partsOf(id: string): Promise<TitledPart[]> {
    return this.reading.source.query(
      `SELECT p."shootId", s.title, p.frames, p.kept, p.rejected
       FROM pass_part p JOIN shoot s ON s.id = p."shootId" WHERE p."passId" = ? ORDER BY p.ordinal`,
      [id],
    );
  }

  /** Begins one; sent twice it is one. Frames of one shoot stand together, the shoots in the order of their first ones. */
  async begin({ id, name, over, what }: { id: string; name: string; over: PassOver; what?: PassWhat }) {
    const known = await this.reading.manager.findOneBy(Pass, { id });
    if (known) return this.get(id);
    const selected = await this.select(over, what);
    if (selected.length === 0 || selected.length > MOST_FRAMES)
      throw new ArkivError('pass.frames', { frames: selected.length, most: MOST_FRAMES });
    const byShoot = new Map<string, string[]>();
    for (const { id: frame, shootId } of selected) {
      const its = byShoot.get(shootId) ?? [];
      its.push(frame);
      byShoot.set(shootId, its);
    }
    const frames = [...byShoot.values()].flat();
    const now = this.clock.now();
    await this.work.write(async (manager) => {
      if (await manager.existsBy(Pass, { id })) return;
      await manager.insert(Pass, {
        ...{ id, shootId: selected[0]!.shootId, name, frames, total: frames.length, at: frames[0]! },
        ...{ arranged: 0, seen: '', seenCount: 0, kept: 0, rejected: 0, activeMillis: 0 },
        ...{ begunAt: now, changedAt: now, endedAt: null, undoneAt: null },
      });
      const parts = [...byShoot].map(([shootId, its], ordinal) => ({
        ...{ passId: id, shootId, ordinal, frames: its.length, kept: 0, rejected: 0 },
      }));
      await insertRows(manager, PassPart, parts);
      for (const { shootId } of parts) this.happenings.after(manager, 'passes', { shootId });
    });
    return this.get(id);
  }

  /** How many frames a pass could be about. */
  async choices(over: PassOver): Promise<PassChoices> {
    const { rules } = await this.settings.all();
    const { from, parameters } = this.source(over);
    const [left, keeper] = (['left', 'keeper'] as const).map((its) => toSql(standingFilter(its, rules)));
    const stars = [1, 2, 3, 4, 5].map((n) => `SUM(f.stars >= ${n}) AS s${n}`);
    const [row] = await this.long.rows<Record<string, number | null>>(
      `SELECT COUNT(*) AS "all", SUM(${left!.where}) AS "left", SUM(${keeper!.where}) AS keepers, ${stars.join(', ')}
       ${from}`,
      [...left!.parameters, ...keeper!.parameters, ...parameters],
    );
    const counted = (key: string) => row?.[key] ?? 0;
    return {
      ...{ all: counted('all'), left: counted('left'), keepers: counted('keepers') },
      stars: [1, 2, 3, 4, 5].map((n) => counted(`s${n}`)),
    };
  }

  /** One more than a pass may have, where there are too many. */
  private async select(over: PassOver, what: PassWhat = {}): Promise<{ id: string; shootId: string }[]> {
    const { rules } = await this.settings.all();
    const { from, order, parameters } = this.source(over);
    const all: Filter[] = [];
    if (what.standing) all.push(standingFilter(what.standing, rules));
    if (what.stars !== undefined) all.push({ field: 'stars', atLeast: what.stars });
    const asked = toSql({ all });
    return this.long.rows(
      `SELECT f.id, f."shootId" ${from} AND ${asked.where} ORDER BY ${order} LIMIT ${MOST_FRAMES + 1}`,
      [...parameters, ...asked.parameters],
    );
  }

  private source({ frames, find }: PassOver): { from: string; order: string; parameters: string[] } {
    if (frames)
      return {
        from: 'FROM json_each(?) w JOIN frame_here f ON f.id = w.value WHERE 1',
        order: 'w.key',
        parameters: [JSON.stringify(frames)],
      };
    const { where, parameters } = foundShoots(find);
    return {
      from: `FROM shoot s JOIN frame_here f ON f."shootId" = s.id WHERE ${where}`,
      order: 's.date DESC, s."createdAt" DESC, s.id DESC, f.instant IS NULL, f.instant, f.name',
      parameters,
    };
  }

  async progress(id: string, progress: PassProgress): Promise<void> {
    const { ended, at = null, shootId, kept, rejected, arranged, ...its } = progress;
    const { name } = await this.get(id);
    const now = this.clock.now();
    await this.work.write(async (manager) => {
      if (arranged !== undefined && !(await manager.existsBy(Pass, { id, arranged })))
        throw new ArkivError('pass.arranged', { name });
      const parts = await manager.find(PassPart, { where: { passId: id }, select: ['shootId'] });
      if (!parts.some((part) => part.shootId === shootId))
        throw new ArkivError('not-found', { what: 'shoot of this pass', id: shootId });
      await manager.update(PassPart, { passId: id, shootId }, { kept, rejected });
      const sum = (key: 'kept' | 'rejected') => manager.sum(PassPart, key, { passId: id });
      const counted = { kept: (await sum('kept')) ?? 0, rejected: (await sum('rejected')) ?? 0 };
      await manager.update(
        Pass,
        { id },
        { ...its, ...counted, at, changedAt: now, endedAt: ended ? now : null },
      );
      for (const part of parts) this.happenings.after(manager, 'passes', { shootId: part.shootId });
    });
  }

  /** What two passes made of the frames that both have seen. */
  async compare(firstId: string, secondId: string): Promise<ComparedPasses & { seenByOne: number }> {
    const [first, second] = [await this.get(firstId), await this.get(secondId)];
    const seenIn = ({ frames, seen, total }: Pass) =>
      new Set([...placesOfText(seen, total)].map((place) => frames[place]!));
    const [inFirst, inSecond] = [seenIn(first), seenIn(second)];
    const seen = [...inFirst].filter((id) => inSecond.has(id));
    const frames = new Map((await this.frames.here(seen)).map((frame) => [frame.id, frame]));
    const operations = new Map<string, MarkOperation[]>();
    const shoots = new Set([...frames.values()].map(({ shootId }) => shootId));
    for (const shootId of shoots)
      for await (const operation of this.journal.walk(shootId)) {
        if (!frames.has(operation.subject) || !MARK_KIND.test(operation.kind)) continue;
        const its = operations.get(operation.subject) ?? [];
        its.push(operation as MarkOperation);
        operations.set(operation.subject, its);
      }
    const { rules } = await this.settings.all();
    const kept = (id: string, pass: Pass) => {
      const frame = frames.get(id)!;
      const marks = marksInPass(frame, operations.get(id) ?? [], pass);
      return standingOf(rules, { ...queryFrame(frame), ...marks }) === 'keeper';
    };
    const compared = comparedPasses(
      seen.filter((id) => frames.has(id)),
      (id) => [kept(id, first), kept(id, second)],
    );
    return { ...compared, seenByOne: inFirst.size + inSecond.size - 2 * seen.length };
  }

  /** What was decided in it, in order. */
  async decisions(id: string): Promise<MarkOperation[]> {
    await this.get(id);
    return (await this.journal.ofPass(id)) as MarkOperation[];
  }

  /** Takes back all that was decided in it, but what was changed since; as one step, which can be taken back itself. */
  async undo(id: string): Promise<{ marks: number; skipped: number }> {
    const { parts } = await this.get(id);
    const decided = (await this.journal.ofPass(id)) as MarkOperation[];
    const subjects = [...new Set(decided.map(({ subject }) => subject))];
    const now = new Map((await this.marks.now(subjects)).map((frame) => [frame.id, frame as Marks]));
    const stamp = { newId: () => this.ids.newId(), at: this.clock.now(), window: WINDOW };
    const { operations, skipped } = invertAll(
      decided,
      (subject, kind) => now.has(subject) && markOf(now.get(subject)!, kind),
      stamp,
    );
    await this.marks.apply(operations);
    await this.work.write(async (manager) => {
      await manager.update(Pass, { id }, { undoneAt: this.clock.now() });
      for (const { shootId } of parts) this.happenings.after(manager, 'passes', { shootId });
    });
    return { marks: operations.length, skipped };
  }
}
