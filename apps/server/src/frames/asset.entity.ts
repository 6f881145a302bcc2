import { Column, Entity, Index, PrimaryColumn } from 'typeorm';
import type { AssetRole } from '@arkiv/core';

/** One file of a frame, or of a card that belongs to no frame. Two frames may hold equal content. */
@Entity('asset')
@Index(['sha256'])
@Index(['frameId'])
export class Asset {
  @PrimaryColumn('text') id: string;
  @Column('text') shootId: string;
  /** null for a card's files that belong to no frame */
  @Column('text', { nullable: true }) frameId: string | null;
  @Column('text') role: AssetRole;
  /** short, lower case; empty where it is none that we know */
  @Column('text') format: string;
  @Column('boolean') raw: boolean;
  /** null: not read whole yet */
  @Column('text', { nullable: true }) sha256: string | null;
  /** checksum of both its ends with its size, by which a file is found again before it is read whole; null: none taken */
  @Column('text', { nullable: true }) ends: string | null;
  /** key of its picture where that is not its checksum */
  @Column('text', { nullable: true }) picture: string | null;
  @Column('integer') size: number;
  /** how its name goes on after its frame's, or, after a slash, its whole path below the volume */
  @Column('text') name: string;
  /** where it lay on its card */
  @Column('text') cardPath: string;
  /** distinct devices that hold a verified copy; volumes for editing do not count */
  @Column('integer') devices: number;
}

/** A file and where it lies below each volume that has it under the archive's name. */
export type PlacedAsset = Asset & { at: string };

/** What a picture is asked for by: it names content and nothing else. Null: nothing is known of the content yet. */
export const pictureKey = ({ picture, sha256 }: Pick<Asset, 'picture' | 'sha256'>): string | null =>
  picture ?? sha256;

/** How a file's name is kept: its ending where it bears its frame's name in its frame's place, else its path. */
export function keptName(at: string, frame: { place: string; name: string } | null): string {
  const begins = frame ? `${frame.place}/${frame.name}` : null;
  const ending = begins !== null && at.startsWith(begins) ? at.slice(begins.length) : null;
  return ending === null || ending.includes('/') ? `/${at}` : ending;
}
