import path from 'node:path';
import { Injectable } from '@nestjs/common';
import type { EntityManager } from 'typeorm';
import { dropRows } from '../db/dropRows';
import { insertRows } from '../db/insertRows';
import { Reading } from '../db/unitOfWork';
import { Delivery, DeliveryFile } from './delivery.entity';
import { Handed, Handoff, HandoffFile } from './handoff.entity';
import { Sent, SentFile, type SentFate } from './sent.entity';

/** What was done with a shoot's keepers. */
export interface ShootSteps {
  handoffs: number;
  deliveries: number;
}

/** A set at a destination, with what of it is there. */
export type SentNow = Sent & {
  files: number;
  bytes: number;
  arrived: number;
  failed: number;
  /** how many frames it is of, where it is not the whole set; null: it is */
  frames: number | null;
};

/** A file that was read back from a destination. */
export interface ArrivedFile {
  deliveryId: string;
  destination: string;
  /** another program carries it on from there, and nobody has said that it arrived */
  unproven: 0 | 1;
  /** below the drive that the set lies on */
  from: string;
  /** null: it is of the whole set: its zip, its manifest */
  frameId: string | null;
}

/** The only writer of what went out: to editing, and to clients. */
@Injectable()
export class OutLedger {
  constructor(private readonly reading: Reading) {}

  async openHandoff(manager: EntityManager, handoff: Handoff): Promise<void> {
    await manager.insert(Handoff, handoff);
  }

  /** Some of its files. */
  async addHandoffFiles(manager: EntityManager, files: HandoffFile[]): Promise<void> {
    await insertRows(manager, HandoffFile, files);
  }

  async openDelivery(manager: EntityManager, delivery: Delivery): Promise<void> {
    await manager.insert(Delivery, delivery);
  }

  /** Some of its files. */
  async addDeliveryFiles(manager: EntityManager, files: DeliveryFile[]): Promise<void> {
    await insertRows(manager, DeliveryFile, files);
  }

  /** Takes away some files of a hand-off that never began, then the hand-off. Whether there is more to take. */
  async forgetHandoff(manager: EntityManager, id: string): Promise<boolean> {
    if (await dropRows(manager, 'handoff_file', 'handoffId', id)) return true;
    await manager.delete(Handoff, { id });
    return false;
  }

  /** Takes away some files of a delivery that never began, then the delivery. Whether there is more to take. */
  async forgetDelivery(manager: EntityManager, id: string): Promise<boolean> {
    if (await dropRows(manager, 'delivery_file', 'deliveryId', id)) return true;
    await manager.delete(Delivery, { id });
    return false;
  }

  handoffFile(handoffId: string, seq: number): Promise<HandoffFile> {
    return this.reading.manager.findOneByOrFail(HandoffFile, { handoffId, seq });
  }

  /** The files that one item of a delivery's job makes. */
  deliveryFilesOf(deliveryId: string, item: number): Promise<DeliveryFile[]> {
    return this.reading.manager.find(DeliveryFile, { where: { deliveryId, item }, order: { seq: 'ASC' } });
  }

  async noteHandoff(
    manager: EntityManager,
    handoffId: string,
    seq: number,
    fate: HandoffFile['fate'],
  ): Promise<void> {
    await manager.update(HandoffFile, { handoffId, seq }, { fate });
  }

  /** A file lies with editing from now on, or as it is now. */
  async hand(manager: EntityManager, file: Handed): Promise<void> {
    await manager.save(Handed, file);
  }

  /** What a file that lies with editing says by now, as another program wrote it. */
  async heard(
    manager: EntityManager,
    { volumeId, path }: Pick<Handed, 'volumeId' | 'path'>,
    now: Partial<Pick<Handed, 'said' | 'written' | 'packet' | 'size' | 'mtimeMillis'>>,
  ): Promise<void> {
    await manager.update(Handed, { volumeId, path }, now);
  }

  /** It was taken back. */
  async takeBack(manager: EntityManager, volumeId: string, path: string): Promise<void> {
    await manager.delete(Handed, { volumeId, path });
  }

  /** What of a shoot lies with editing on a drive, by its path. */
  async handed(shootId: string, volumeId: string): Promise<Map<string, Handed>> {
    const rows = await this.reading.manager.findBy(Handed, { shootId, volumeId });
    return new Map(rows.map((row) => [row.path, row]));
  }

  /** On which drives something of a shoot lies with editing. */
  async handedOn(shootId: string): Promise<string[]> {
    const rows: { id: string }[] = await this.reading.source.query(
      'SELECT DISTINCT "volumeId" AS id FROM handed WHERE "shootId" = ?',
      [shootId],
    );
    return rows.map(({ id }) => id);
  }

  /** Folders of a drive in which something of a shoot lies with editing. */
  async handedFolders(shootId: string, volumeId: string): Promise<string[]> {
    const rows: { path: string }[] = await this.reading.source.query(
      'SELECT path FROM handed WHERE "shootId" = ? AND "volumeId" = ?',
      [shootId, volumeId],
    );
    return [...new Set(rows.map((row) => path.posix.dirname(row.path)))];
  }

  /** What lies with editing at one place of a drive; null: nothing that was handed off. */
  handedAt(volumeId: string, path: string): Promise<Handed | null> {
    return this.reading.manager.findOneBy(Handed, { volumeId, path });
  }

  /** What of a frame lies with editing on a drive. */
  handedOf(frameId: string, volumeId: string): Promise<Handed[]> {
    return this.reading.manager.findBy(Handed, { frameId, volumeId });
  }

  /** How many frames of each hand-off of a shoot still lie where they were put. */
  async stillThere(shootId: string): Promise<Map<string, number>> {
    const rows: { id: string; frames: number }[] = await this.reading.source.query(
      `SELECT "handoffId" AS id, COUNT(DISTINCT "frameId") AS frames FROM handed WHERE "shootId" = ? GROUP BY 1`,
      [shootId],
    );
    return new Map(rows.map(({ id, frames }) => [id, frames]));
  }

  async noteDelivery(
    manager: EntityManager,
    deliveryId: string,
    seq: number,
    change: Partial<Pick<DeliveryFile, 'fate' | 'recipe' | 'sha256' | 'size' | 'width' | 'height'>>,
  ): Promise<void> {
    await manager.update(DeliveryFile, { deliveryId, seq }, change);
  }

  async finishHandoff(manager: EntityManager, id: string, finishedAt: number): Promise<void> {
    await manager.update(Handoff, { id }, { finishedAt });
  }

  async finishDelivery(
    manager: EntityManager,
    id: string,
    change: Pick<Delivery, 'finishedAt' | 'zip'>,
  ): Promise<void> {
    await manager.update(Delivery, { id }, change);
  }

  /** What is going to be written of a delivery's own, beside what was. */
  async noteTexts(manager: EntityManager, id: string, texts: Delivery['texts']): Promise<void> {
    await manager.update(Delivery, { id }, { texts });
  }

  /** Finished ones, the newest first. */
  handoffs(shootId: string): Promise<Handoff[]> {
    return this.finished(Handoff, shootId);
  }

  deliveries(shootId: string): Promise<Delivery[]> {
    return this.finished(Delivery, shootId);
  }

  handoff(id: string): Promise<Handoff | null> {
    return this.reading.manager.findOneBy(Handoff, { id });
  }

  /** All that was ever made, or begun, in one folder of a drive, the oldest first. */
  deliveriesInto(volumeId: string, folder: string): Promise<Delivery[]> {
    return this.reading.manager.find(Delivery, { where: { volumeId, folder }, order: { at: 'ASC' } });
  }

  /** Whether a file of this content was ever made for this place. */
  async wasMade(volumeId: string, to: string, sha256: string): Promise<boolean> {
    const [found] = await this.reading.source.query<unknown[]>(
      `SELECT 1 FROM delivery d JOIN delivery_file f ON f."deliveryId" = d.id
       WHERE d."volumeId" = ? AND f."to" = ? AND f.sha256 = ? LIMIT 1`,
      [volumeId, to, sha256],
    );
    return found !== undefined;
  }

  delivery(id: string): Promise<Delivery | null> {
    return this.reading.manager.findOneBy(Delivery, { id });
  }

  async openSent(manager: EntityManager, sent: Sent): Promise<void> {
    await manager.insert(Sent, sent);
  }

  /** Some of its files. */
  async addSentFiles(manager: EntityManager, files: SentFile[]): Promise<void> {
    await insertRows(manager, SentFile, files);
  }

  /** Takes away some files of a sending that never began, then the sending. Whether there is more to take. */
  async forgetSent(manager: EntityManager, id: string): Promise<boolean> {
    if (await dropRows(manager, 'sent_file', 'sentId', id)) return true;
    await manager.delete(Sent, { id });
    return false;
  }

  async noteSent(
    manager: EntityManager,
    sentId: string,
    seq: number,
    change: Pick<SentFile, 'fate' | 'provenAt'>,
  ): Promise<void> {
    await manager.update(SentFile, { sentId, seq }, change);
  }

  async changeSent(
    manager: EntityManager,
    id: string,
    change: Partial<Pick<Sent, 'finishedAt' | 'confirmedAt'>>,
  ): Promise<void> {
    await manager.update(Sent, { id }, change);
  }

  sent(id: string): Promise<Sent | null> {
    return this.reading.manager.findOneBy(Sent, { id });
  }

  sentFile(sentId: string, seq: number): Promise<SentFile> {
    return this.reading.manager.findOneByOrFail(SentFile, { sentId, seq });
  }

  /** Of the files that show frames: how many are under way, and how many did not get there. */
  async leftOf(sentId: string): Promise<Record<Exclude<SentFate, 'arrived'>, number>> {
    const rows: { fate: SentFate; n: number }[] = await this.reading.source.query(
      `SELECT fate, COUNT(*) AS n FROM sent_file WHERE "sentId" = ? AND "frameId" IS NOT NULL GROUP BY fate`,
      [sentId],
    );
    const of = (fate: SentFate) => rows.find((row) => row.fate === fate)?.n ?? 0;
    return { todo: of('todo'), failed: of('failed') };
  }

  /** Where sets of a shoot were sent, the newest first. */
  sentOfShoot(shootId: string): Promise<SentNow[]> {
    return this.reading.source.query(
      `SELECT s.*, COUNT(f.seq) AS files, COALESCE(SUM(f.size), 0) AS bytes, COALESCE(SUM(f.fate = 'arrived'), 0) AS arrived,
         COALESCE(SUM(f.fate = 'failed'), 0) AS failed,
         CASE WHEN SUM(f."frameId" IS NULL) = 0 THEN COUNT(DISTINCT f."frameId") END AS frames
       FROM sent s LEFT JOIN sent_file f ON f."sentId" = s.id WHERE s."shootId" = ? GROUP BY s.id ORDER BY s.at DESC, s.id DESC`,
      [shootId],
    );
  }

  /** Files of deliveries that arrived somewhere, by the place of each below the drive: where. The whole of a set counts for its zip. */
  arrivals(deliveryIds: readonly string[]): Promise<ArrivedFile[]> {
    return this.reading.source.query(
      `SELECT s."deliveryId", s.destination, s.carried AND s."confirmedAt" IS NULL AS unproven, f."from", f."frameId"
       FROM sent s JOIN sent_file f ON f."sentId" = s.id AND f.fate = 'arrived'
       WHERE s."deliveryId" IN (SELECT value FROM json_each(?)) ORDER BY s.at, s.id, f.seq`,
      [JSON.stringify(deliveryIds)],
    );
  }

  handoffFiles(handoffId: string): Promise<HandoffFile[]> {
    return this.reading.manager.find(HandoffFile, { where: { handoffId }, order: { seq: 'ASC' } });
  }

  deliveryFiles(deliveryId: string): Promise<DeliveryFile[]> {
    return this.reading.manager.find(DeliveryFile, { where: { deliveryId }, order: { seq: 'ASC' } });
  }

  /** Finished hand-offs and deliveries of shoots. */
  async steps(shootIds: readonly string[]): Promise<Map<string, ShootSteps>> {
    const rows: ({ id: string } & ShootSteps)[] = await this.reading.source.query(
      `SELECT e.value AS id,
         (SELECT COUNT(*) FROM handoff h WHERE h."shootId" = e.value AND h."finishedAt" IS NOT NULL) AS handoffs,
         (SELECT COUNT(*) FROM delivery d WHERE d."shootId" = e.value AND d."finishedAt" IS NOT NULL AND d.follows IS NULL AND d.kind = 'set') AS deliveries
       FROM json_each(?) e`,
      [JSON.stringify(shootIds)],
    );
    return new Map(rows.map(({ id, ...steps }) => [id, steps]));
  }

  private finished<T extends Handoff | Delivery>(table: new () => T, shootId: string): Promise<T[]> {
    return this.reading.manager
      .createQueryBuilder(table, 'o')
      .where('o."shootId" = :shootId AND o."finishedAt" IS NOT NULL', { shootId })
      .orderBy('o.at', 'DESC')
      .addOrderBy('o.id', 'DESC')
      .getMany();
  }
}
