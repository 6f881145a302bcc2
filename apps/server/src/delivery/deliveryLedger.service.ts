import { Injectable } from '@nestjs/common';
import { ArkivError, choiceOf, csvText, describe, saidBy, specWords, type SaidBy } from '@arkiv/core';
import { Reading, UnitOfWork } from '../db/unitOfWork';
import { Happenings } from '../events/domainEvents';
import type { Delivery, DeliveryFile, DeliveryKind } from '../ledger/delivery.entity';
import { GalleryLedger } from '../ledger/galleryLedger';
import { OutLedger, type ArrivedFile } from '../ledger/outLedger';
import { ShootsService } from '../shoots/shoots.service';
import { grouped } from '../system/grouped';
import { Ids } from '../system/ids';
import { specsOf } from './deliverySet';
import { SetPlanner } from './setPlanner.service';

/** What of the ledger is asked for; missing: all of it. */
export interface LedgerAsked {
  client?: string;
  shootId?: string;
  frameId?: string;
  /** YYYY, by UTC */
  year?: string;
}

/** Something that went out. */
export interface LedgerEntry {
  id: string;
  kind: DeliveryKind | 'gallery';
  /** how the set or the gallery is called, or where it was posted */
  name: string;
  /** milliseconds since 1970 UTC */
  at: number;
  shootId: string;
  shoot: string;
  client: string;
  frames: number;
  files: number;
  /** in which forms: the sentence of each of its specs */
  forms: string[];
  /** whether it brought a set up to date */
  again: boolean;
  /** destinations at which files of it were proven to be, in words */
  sentTo: string[];
  /** people of a client who were in a gallery, and what they did there */
  people: LedgerPerson[];
}

/** A person of a client in a gallery. */
export interface LedgerPerson extends SaidBy {
  name: string;
}

export interface LedgerPage {
  entries: LedgerEntry[];
  /** from where the next page goes on; null: there is none */
  next: string | null;
}

/** How many frames of a month came to what. */
export interface LedgerMonth {
  /** YYYY-MM, of the shoots' days */
  month: string;
  frames: number;
  keepers: number;
  delivered: number;
}

/** When a frame went out. */
export interface WentOut {
  frameId: string;
  times: number;
  /** last, milliseconds since 1970 UTC */
  at: number;
  /** as what it went out last */
  name: string;
}

export interface Posting {
  shootId: string;
  /** which of the keepers: a line of words and facts; empty: all */
  line: string;
  where: string;
  /** YYYY-MM-DD */
  day: string;
}

/** Entries on a page: as many as one looks over. */
const PAGE = 50;
/** Rows that are written in one go, so that other writers get their turn. */
const PART = 200;

type Row = Pick<Delivery, 'id' | 'name' | 'shootId' | 'follows'> &
  Pick<LedgerEntry, 'kind' | 'at' | 'shoot' | 'client' | 'frames' | 'files'> & { spec: string };

/** Who got which frame, in which form, when: read from what went out, and from postings that were entered by hand. */
@Injectable()
export class DeliveryLedger {
  constructor(
    private readonly reading: Reading,
    private readonly work: UnitOfWork,
    private readonly ledger: OutLedger,
    private readonly galleries: GalleryLedger,
    private readonly shoots: ShootsService,
    private readonly planner: SetPlanner,
    private readonly ids: Ids,
    private readonly happenings: Happenings,
  ) {}

  /** The newest first. `before`: as the page before said. */
  async page(asked: LedgerAsked, before: string | null): Promise<LedgerPage> {
    const rows = await this.rows(asked, before, PAGE + 1);
    const last = rows[PAGE - 1];
    const entries = rows.slice(0, PAGE);
    const sent = await this.sentTo(entries, asked.frameId);
    const people = new Map<string, LedgerPerson[]>();
    for (const { id, kind } of entries)
      if (kind === 'gallery') people.set(id, await this.peopleOf(id, asked.frameId));
    return {
      entries: entries.map((row) => entryOf(row, sent.get(row.id) ?? [], people.get(row.id) ?? [])),
      next: rows.length > PAGE && last ? `${last.at}_${last.id}` : null,
    };
  }

  /** A line for each file that went out, the newest first. */
  async csv(asked: LedgerAsked): Promise<string> {
    const lines: string[][] = [
      [
        'day',
        'client',
        'shoot',
        'went as',
        'name',
        'form',
        'frame',
        'file',
        'bytes',
        'sha-256',
        'arrived at',
      ],
    ];
    for (const row of await this.rows(asked, null, -1)) {
      if (row.kind === 'gallery') {
        lines.push(...(await this.galleryLines(row, asked.frameId)));
        continue;
      }
      const specs = specsIn(row.spec);
      const arrived = await this.ledger.arrivals([row.id]);
      for (const file of await this.ledger.deliveryFiles(row.id)) {
        if (file.fate !== 'made' || (asked.frameId !== undefined && file.frameId !== asked.frameId)) continue;
        const spec = specs[file.spec];
        const form = row.kind === 'posting' ? '' : spec ? specWords(spec) : 'raw or its sidecar';
        lines.push([
          ...[new Date(row.at).toISOString().slice(0, 10), row.client, row.shoot, row.kind, row.name, form],
          ...[file.from, file.to, file.size === null ? '' : String(file.size), file.sha256 ?? ''],
          placesIn(arrived.filter(({ from, frameId }) => from === file.to || isZip(from, frameId))).join(
            '; ',
          ),
        ]);
      }
    }
    return csvText(lines);
  }

  /** Frames of a shoot that went out. */
  ofShoot(shootId: string): Promise<WentOut[]> {
    // The name is that of the row with the greatest time (SQLite, “bare columns in an aggregate query”).
    return this.reading.source.query(
      `SELECT f."frameId", COUNT(DISTINCT d.id) AS times, MAX(d."finishedAt") AS at, d.name
       FROM frame_here h JOIN delivery_file f ON f."frameId" = h.id AND f.fate = 'made'
         JOIN delivery d ON d.id = f."deliveryId" AND d."finishedAt" IS NOT NULL
       WHERE h."shootId" = ? GROUP BY f."frameId"`,
      [shootId],
    );
  }

  /** Frames taken, kept and delivered in each month of a year, by the days of their shoots. */
  async months(year: string): Promise<LedgerMonth[]> {
    const rows: LedgerMonth[] = await this.reading.source.query(
      `SELECT substr(s.date, 1, 7) AS month, SUM(s.frames) AS frames, SUM(s.keepers) AS keepers,
         SUM((SELECT COUNT(DISTINCT f."frameId") FROM delivery d JOIN delivery_file f ON f."deliveryId" = d.id
           WHERE d."shootId" = s.id AND d."finishedAt" IS NOT NULL AND f.fate = 'made')) AS delivered
       FROM shoot s WHERE s."mergedInto" IS NULL AND s.date LIKE ? GROUP BY 1`,
      [`${year}-%`],
    );
    const by = new Map(rows.map((row) => [row.month, row]));
    return Array.from({ length: 12 }, (_, i) => {
      const month = `${year}-${String(i + 1).padStart(2, '0')}`;
      return by.get(month) ?? { month, frames: 0, keepers: 0, delivered: 0 };
    });
  }

  /** Years in which shoots lie, or something went out, the newest first. */
  async years(): Promise<string[]> {
    const rows: { year: string }[] = await this.reading.source.query(
      `SELECT substr(date, 1, 4) AS year FROM shoot WHERE "mergedInto" IS NULL
       UNION SELECT strftime('%Y', "finishedAt" / 1000, 'unixepoch') FROM delivery WHERE "finishedAt" IS NOT NULL
       ORDER BY 1 DESC`,
    );
    return rows.map(({ year }) => year);
  }

  /** Enters what was posted elsewhere by hand: it stands in the ledger like a set that went out, without files. */
  async enter({ shootId, line, where, day }: Posting): Promise<{ id: string; frames: number }> {
    const shoot = await this.shoots.get(shootId);
    const { frames, rule } = await this.planner.chosen(shootId, line);
    if (frames.length === 0) throw new ArkivError('job.nothing', { rule: describe(rule) });
    const id = this.ids.newId();
    const at = Date.parse(`${day}T12:00:00Z`);
    // A day that its month has not got would be another one.
    if (new Date(at).toISOString().slice(0, 10) !== day)
      throw new ArkivError('request.invalid', { reason: `${day} is no day` });
    const posting: Delivery = {
      ...{ id, kind: 'posting', shootId, volumeId: '', name: where, title: `${shoot.title} · ${where}` },
      ...{ spec: [], line, folder: '', follows: null, zip: null, texts: [] },
      ...{ along: { raws: null, sheet: false, bag: false }, at, finishedAt: null },
    };
    const files = frames.map((frame, seq): DeliveryFile => ({
      ...{ deliveryId: id, seq, item: seq, number: seq + 1, spec: 0, frameId: frame.id, picture: null },
      ...{ from: frame.name, to: '', fate: 'made', recipe: null, sha256: null, size: null, width: null },
      height: null,
    }));
    await this.work.write((manager) => this.ledger.openDelivery(manager, posting));
    for (let from = 0; from < files.length; from += PART)
      await this.work.write((manager) =>
        this.ledger.addDeliveryFiles(manager, files.slice(from, from + PART)),
      );
    // What nobody finished is no entry: a stop in between leaves nothing that counts.
    await this.work.write(async (manager) => {
      await this.ledger.finishDelivery(manager, id, { finishedAt: at, zip: null });
      this.happenings.after(manager, 'posted', { shootId });
    });
    return { id, frames: files.length };
  }

  /** Takes a posting out again. A set cannot be: it went out. */
  async takeOut(id: string): Promise<void> {
    const delivery = await this.ledger.delivery(id);
    if (delivery?.kind !== 'posting') throw new ArkivError('not-found', { what: 'posting', id });
    while (await this.work.write((manager) => this.ledger.forgetDelivery(manager, id)));
    this.happenings.tell('posted', { shootId: delivery.shootId });
  }

  /** Where files of entries are proven to be; of one frame where its files are, or the zip that holds them. */
  private async sentTo(entries: readonly Row[], frameId: string | undefined): Promise<Map<string, string[]>> {
    const arrived = await this.ledger.arrivals(entries.map(({ id }) => id));
    const its = arrived.filter(
      (file) => frameId === undefined || file.frameId === frameId || isZip(file.from, file.frameId),
    );
    const by = grouped(its, ({ deliveryId }) => deliveryId);
    return new Map([...by].map(([id, files]) => [id, placesIn(files)]));
  }

  private rows(asked: LedgerAsked, before: string | null, most: number): Promise<Row[]> {
    const where = ['1'];
    const given: unknown[] = [];
    const only = (condition: string, ...values: unknown[]) => {
      where.push(condition);
      given.push(...values);
    };
    const { client, shootId, frameId, year } = asked;
    if (client !== undefined) only('s.client = ?', client);
    if (shootId !== undefined) only('o."shootId" = ?', shootId);
    if (frameId !== undefined)
      only(
        `(EXISTS (SELECT 1 FROM delivery_file g WHERE g."deliveryId" = o.id AND g."frameId" = ? AND g.fate = 'made')
          OR EXISTS (SELECT 1 FROM gallery_frame g WHERE g."galleryId" = o.id AND g."frameId" = ?)
          OR EXISTS (SELECT 1 FROM gallery_said g WHERE g."galleryId" = o.id AND g."frameId" = ?))`,
        ...[frameId, frameId, frameId],
      );
    if (year !== undefined) only('o.at >= ? AND o.at < ?', Date.UTC(+year, 0), Date.UTC(+year + 1, 0));
    if (before !== null) {
      const [at, id] = before.split('_');
      only('(o.at, o.id) < (?, ?)', Number(at), id);
    }
    const made = `FROM delivery_file f WHERE f."deliveryId" = p.id AND f.fate = 'made'`;
    // Counted is what stands on the page alone.
    return this.reading.source.query(
      `SELECT p.*,
         CASE kind WHEN 'gallery' THEN (SELECT COUNT(*) FROM gallery_frame f WHERE f."galleryId" = p.id)
           ELSE (SELECT COUNT(DISTINCT f."frameId") ${made}) END AS frames,
         CASE kind WHEN 'gallery' THEN
             (SELECT COUNT(*) FROM gallery_said f WHERE f."galleryId" = p.id AND f.kind = 'downloaded')
           ELSE (SELECT COUNT(*) ${made}) END AS files
       FROM (SELECT o.*, s.title AS shoot, s.client
         FROM (SELECT id, kind, name, "finishedAt" AS at, "shootId", spec, follows
             FROM delivery WHERE "finishedAt" IS NOT NULL
           UNION ALL SELECT id, 'gallery', title, at, "shootId", look, NULL FROM gallery WHERE "madeAt" IS NOT NULL) o
         JOIN shoot s ON s.id = o."shootId"
         WHERE ${where.join(' AND ')} ORDER BY o.at DESC, o.id DESC LIMIT ?) p`,
      [...given, most],
    );
  }

  private async peopleOf(galleryId: string, frameId: string | undefined): Promise<LedgerPerson[]> {
    const by = saidBy(await this.galleries.said(galleryId), frameId);
    const guests = await this.galleries.guests(galleryId);
    return guests.flatMap(({ id, name }) => {
      const its = by.get(id);
      return its ? [{ ...its, name }] : [];
    });
  }

  /** What of a gallery was taken along and chosen, a line each. */
  private async galleryLines(row: Row, frameId: string | undefined): Promise<string[][]> {
    const said = await this.galleries.said(row.id);
    const called = new Map((await this.galleries.guests(row.id)).map(({ id, name }) => [id, name]));
    const names = new Map((await this.galleries.frames(row.id)).map((frame) => [frame.frameId, frame.name]));
    const line = (at: number, id: string, guestId: string, form: string, file: string) => [
      ...[new Date(at).toISOString().slice(0, 10), row.client, row.shoot, row.kind, row.name, form],
      ...[names.get(id) ?? '', file, '', '', called.get(guestId) ?? ''],
    ];
    const isMeant = (id: string) => frameId === undefined || id === frameId;
    const chosen = [...choiceOf(said).chosen].filter(([id]) => isMeant(id));
    return [
      ...said.flatMap((one) =>
        one.kind === 'downloaded' && one.frameId !== null && isMeant(one.frameId)
          ? [line(one.at, one.frameId, one.guestId, 'taken along', one.text ?? '')]
          : [],
      ),
      ...chosen.map(([id, { guestId, at }]) => line(at, id, guestId, 'chosen', '')),
    ];
  }
}

const specsIn = (kept: string) => specsOf({ spec: JSON.parse(kept) as Delivery['spec'] });

const isZip = (from: string, frameId: string | null): boolean => frameId === null && from.endsWith('.zip');

/** Destinations, each once, in the order in which they were sent to. */
const placesIn = (files: readonly ArrivedFile[]): string[] => [
  ...new Set(
    files.map(({ destination, unproven }) =>
      unproven ? `${destination} (handed to sync, arrival not proven)` : destination,
    ),
  ),
];

function entryOf({ spec, follows, ...row }: Row, sentTo: string[], people: LedgerPerson[]): LedgerEntry {
  return { ...row, forms: specsIn(spec).map(specWords), again: follows !== null, sentTo, people };
}
