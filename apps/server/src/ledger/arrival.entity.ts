import { Column, Entity, PrimaryColumn } from 'typeorm';
import type { AssetRole, Fate, FileProgress } from '@arkiv/core';

/** A card's share that became, or went into, one shoot. Kept for ever; its job may be gone. */
@Entity('arrival')
export class Arrival {
  /** the id of the job that brought it */
  @PrimaryColumn('text') id: string;
  /** what one card was taken in as, in one go: the same for each of its shoots */
  @Column('text') visit: string;
  @Column('text') title: string;
  @Column('text') card: string;
  @Column('text') fingerprint: string;
  @Column('text') readerId: string;
  /** null: nothing came of it */
  @Column('text', { nullable: true }) shootId: string | null;
  /** the shoot was there before */
  @Column('boolean') intoExisting: boolean;
  @Column('simple-json') folders: string[];
  /** volumes that get a copy, working drive first */
  @Column('simple-json') targets: string[];
  /** receipts below each volume */
  @Column('simple-json') receipts: string[];
  @Column('integer') at: number;
  @Column('integer', { nullable: true }) startedAt: number | null;
  @Column('integer', { nullable: true }) finishedAt: number | null;
}

/** One file of a card: where it came from, what it became, and what is proven of it. */
@Entity('arrival_file')
export class ArrivalFile {
  @PrimaryColumn('text') arrivalId: string;
  @PrimaryColumn('integer') seq: number;
  /** path on the card */
  @Column('text') from: string;
  /** path below each volume, as planned; empty for a file that stayed on the card by choice */
  @Column('text') to: string;
  @Column('text', { nullable: true }) frameId: string | null;
  @Column('text') role: AssetRole;
  @Column('text') format: string;
  @Column('boolean') raw: boolean;
  /** bytes */
  @Column('integer') size: number;
  @Column('integer') mtimeMillis: number;
  /** probably archived: it is compared first, and copied only if its content is new */
  @Column('boolean') known: boolean;
  /** the frame's number, where it was known */
  @Column('integer', { nullable: true }) number: number | null;
  @Column('text') fate: Fate;
  @Column('text', { nullable: true }) sha256: string | null;
  @Column('simple-json') progress: FileProgress;
}
