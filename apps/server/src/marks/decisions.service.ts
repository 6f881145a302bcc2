import { Injectable } from '@nestjs/common';
import {
  albumOfKind,
  ArkivError,
  invertGroup,
  markOf,
  marksIn,
  pileOfKind,
  shootFactOf,
  STUDIO,
  turned,
  type MarkKind,
  type MarkOperation,
  type MarkValue,
  type ShootOperation,
  type Undoing,
} from '@arkiv/core';
import { LongReading } from '../db/longReading';
import { PLACED_FRAME, placedFrame, type PlacedFrame, type PlacedRow } from '../frames/placedFrame';
import { ShootsService } from '../shoots/shoots.service';
import { Clock } from '../system/clock';
import { grouped } from '../system/grouped';
import { Ids } from '../system/ids';
import { MarksService } from './marks.service';
import { ShootFactsService } from './shootFacts.service';

/** Decisions on a page: three screens of them. */
const PAGE = 40;
/** Kinds of marks that are named of one decision; a description has some ten fields, and more nobody reads in a line. */
const NAMED = 6;
/** Small pictures beside one decision: a row of them. */
const SHOWN = 6;
/** Decisions in one answer at most, where they are asked for up to one that is on the screen. */
const MOST = 500;
/** What was made by the server for a window that asked. */
const WINDOW = 'server';
/** What follows the vocabulary is taken back with it, over all shoots. */
const OF_VOCABULARY = 'vocabulary';

/** Whose decisions: of those who sit at the keys here, or of others: programs, clients. */
export type Whose = 'studio' | 'others';

/** Which of a shoot's decisions are asked for. */
export interface DecisionsAsked {
  /** below this number alone; missing: the newest */
  before?: number;
  /** from this number on, as many as there are */
  from?: number;
  whose?: Whose;
  /** id of a frame: those of it alone */
  frame?: string;
}

/** What one decision says of frames, for one kind of mark. */
export interface Said {
  kind: MarkKind;
  frames: number;
  /** what it was set to; undefined: to several values */
  to: MarkValue | undefined;
  /** what the pile or album is called; null: it is neither, or is there no more */
  name: string | null;
}

/** What was decided in a shoot in one step. */
export interface Decision {
  /** id of its group */
  id: string;
  /** place of its last operation in the journal */
  number: number;
  at: number;
  by: string;
  window: string;
  frames: number;
  said: Said[];
  /** kinds that are not named */
  more: number;
  /** some of its frames, as far as they are here */
  shown: PlacedFrame[];
  isUndone: boolean;
  /** when it was taken back or done again last; null: never */
  turnedAt: number | null;
  /** false: it is taken back elsewhere */
  canTurn: boolean;
}

interface GroupRow extends Pick<Decision, 'id' | 'number' | 'at' | 'by' | 'window' | 'frames'> {
  /** place of its first operation */
  first: number;
}

interface OperationRow extends Omit<MarkOperation, 'from' | 'to'> {
  /** JSON; null: null */
  from: string | null;
  to: string | null;
}

/** What was decided in a shoot, step by step, whoever did it; and how a single one is taken back. */
@Injectable()
export class Decisions {
  constructor(
    private readonly long: LongReading,
    private readonly marks: MarksService,
    private readonly facts: ShootFactsService,
    private readonly shoots: ShootsService,
    private readonly clock: Clock,
    private readonly ids: Ids,
  ) {}

  /** The newest ones before a number, of one frame where that is asked for; what merely takes one back is shown with it. */
  async page(
    shootId: string,
    { before, from, whose, frame }: DecisionsAsked,
  ): Promise<{ decisions: Decision[]; more: boolean }> {
    const most = from === undefined ? PAGE : MOST;
    const groups = await this.long.rows<GroupRow>(
      `SELECT o."group" AS id, MAX(o.seq) AS number, MIN(o.seq) AS first, MIN(o.at) AS at, o.by, o."window",
         COUNT(DISTINCT o.subject) AS frames
       FROM operation o WHERE o."shootId" = ? AND o.undoes IS NULL
         ${whose === undefined ? '' : `AND o.by ${whose === 'studio' ? '=' : '<>'} '${STUDIO}'`}
         ${frame === undefined ? '' : 'AND o."group" IN (SELECT "group" FROM operation WHERE subject = ?)'}
       GROUP BY o."group" HAVING MAX(o.seq) < ? AND MAX(o.seq) >= ? ORDER BY number DESC LIMIT ?`,
      [
        shootId,
        ...(frame === undefined ? [] : [frame]),
        before ?? Number.MAX_SAFE_INTEGER,
        from ?? 0,
        most + 1,
      ],
    );
    const page = groups.slice(0, most);
    if (page.length === 0) return { decisions: [], more: false };
    const ids = page.map(({ id }) => id);
    const [first, last] = [
      Math.min(...page.map((its) => its.first)),
      Math.max(...page.map(({ number }) => number)),
    ];
    const said = grouped(await this.said(shootId, ids, [first, last]), ({ id }) => id);
    const shown = grouped(await this.shown(shootId, ids, [first, last]), ({ group }) => group);
    const undoings = await this.undoings(shootId, first);
    const decisions = page.map(({ first: _, ...group }): Decision => {
      const { isUndone, at } = turned(group.id, undoings);
      const its = said.get(group.id) ?? [];
      return {
        ...group,
        said: its.slice(0, NAMED).map(({ id: __, ...one }) => one),
        more: Math.max(0, its.length - NAMED),
        shown: (shown.get(group.id) ?? []).map(({ group: __, ...row }) => placedFrame(row)),
        ...{ isUndone, turnedAt: at, canTurn: group.window !== OF_VOCABULARY },
      };
    });
    return { decisions, more: groups.length > most };
  }

  /** Takes a decision back, or does it again, where it is not so already; what was changed since stays. Throws `not-found`. */
  async turn(shootId: string, group: string, isBack: boolean): Promise<{ marks: number; skipped: number }> {
    const [decided] = await this.long.rows<{ first: number | null; window: string }>(
      `SELECT MIN(seq) AS first, "window" FROM operation WHERE "shootId" = ? AND "group" = ?`,
      [shootId, group],
    );
    if (!decided || decided.first === null || decided.window === OF_VOCABULARY)
      throw new ArkivError('not-found', { what: 'decision', id: group });
    const { last, isUndone } = turned(group, await this.undoings(shootId, decided.first));
    if (isUndone === isBack) return { marks: 0, skipped: 0 };
    const rows = await this.long.rows<OperationRow>(
      `SELECT id, kind, subject, "from", "to", at, by, "group", pass, "window", undoes FROM operation
       WHERE "shootId" = ? AND "group" = ? AND seq >= ? ORDER BY seq`,
      [shootId, last, decided.first],
    );
    const operations = rows.map((row): MarkOperation => ({
      ...row,
      from: valueOf(row.from),
      to: valueOf(row.to),
    }));
    const shoot = await this.shoots.get(shootId);
    const frames = await this.marks.now([...new Set(operations.map(({ subject }) => subject))]);
    const now = new Map(frames.map((frame) => [frame.id, marksIn(frame)]));
    const stamp = { newId: () => this.ids.newId(), at: this.clock.now(), window: WINDOW };
    const inverse = invertGroup(
      operations,
      (id, kind) => {
        const fact = shootFactOf(kind);
        if (fact !== null) return id === shootId ? shoot[fact] : undefined;
        const marks = now.get(id);
        return marks && markOf(marks, kind);
      },
      stamp,
    );
    const turning = inverse.operations.map((operation) => ({ ...operation, by: STUDIO }));
    await this.marks.apply(turning.filter(({ kind }) => shootFactOf(kind) === null));
    await this.facts.apply(
      turning.filter(({ kind }) => shootFactOf(kind) !== null) as unknown as ShootOperation[],
    );
    return { marks: inverse.operations.length, skipped: inverse.skipped };
  }

  /** What groups say, by kind, of most frames first. */
  private async said(
    shootId: string,
    groups: readonly string[],
    [first, last]: readonly [number, number],
  ): Promise<(Said & { id: string })[]> {
    const rows = await this.long.rows<{
      id: string;
      kind: MarkKind;
      frames: number;
      several: number;
      to: string;
    }>(
      `SELECT "group" AS id, kind, COUNT(DISTINCT subject) AS frames, COUNT(DISTINCT COALESCE("to", 'null')) AS several,
         MIN(COALESCE("to", 'null')) AS "to"
       FROM operation WHERE "shootId" = ? AND seq BETWEEN ? AND ? AND "group" IN (SELECT value FROM json_each(?))
       GROUP BY "group", kind ORDER BY frames DESC, MIN(seq)`,
      [shootId, first, last, JSON.stringify(groups)],
    );
    const names = await this.namesOf(rows.flatMap(({ kind }) => pileOfKind(kind) ?? albumOfKind(kind) ?? []));
    return rows.map(({ id, kind, frames, several, to }) => ({
      ...{ id, kind, frames },
      to: several === 1 ? valueOf(to) : undefined,
      name: names.get(pileOfKind(kind) ?? albumOfKind(kind) ?? '') ?? null,
    }));
  }

  private async namesOf(ids: readonly string[]): Promise<Map<string, string>> {
    if (ids.length === 0) return new Map();
    const wanted = JSON.stringify([...new Set(ids)]);
    const rows = await this.long.rows<{ id: string; name: string }>(
      `SELECT id, name FROM pile WHERE id IN (SELECT value FROM json_each(?))
       UNION ALL SELECT id, name FROM album WHERE id IN (SELECT value FROM json_each(?))`,
      [wanted, wanted],
    );
    return new Map(rows.map(({ id, name }) => [id, name]));
  }

  /** The first frames of groups. */
  private shown(
    shootId: string,
    groups: readonly string[],
    [first, last]: readonly [number, number],
  ): Promise<(PlacedRow & { group: string })[]> {
    return this.long.rows(
      `SELECT m."group", p.* FROM (
         SELECT "group", subject, MIN(seq) AS seq, ROW_NUMBER() OVER (PARTITION BY "group" ORDER BY MIN(seq)) AS place
         FROM operation WHERE "shootId" = ? AND seq BETWEEN ? AND ? AND "group" IN (SELECT value FROM json_each(?))
         GROUP BY "group", subject
       ) m JOIN (${PLACED_FRAME}) p ON p.id = m.subject WHERE m.place <= ${SHOWN} ORDER BY m.seq`,
      [shootId, first, last, JSON.stringify(groups)],
    );
  }

  private undoings(shootId: string, after: number): Promise<Undoing[]> {
    return this.long.rows<Undoing>(
      `SELECT "group" AS id, undoes, MIN(at) AS at FROM operation
       WHERE "shootId" = ? AND seq > ? AND undoes IS NOT NULL GROUP BY "group", undoes ORDER BY MIN(seq)`,
      [shootId, after],
    );
  }
}

const valueOf = (text: string | null): MarkValue => JSON.parse(text ?? 'null') as MarkValue;
