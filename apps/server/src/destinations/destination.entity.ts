import { Column, Entity, PrimaryColumn } from 'typeorm';

export const DESTINATION_KINDS = ['folder', 'webdav', 'sftp'] as const;
export type DestinationKind = (typeof DESTINATION_KINDS)[number];

/** How a destination is reached, without anything secret. */
export interface Reach {
  /** of a folder: its path on this computer; of SFTP: the folder there, empty: the one that one comes into */
  path: string;
  /** of WebDAV: its address */
  url: string;
  /** of SFTP */
  host: string;
  port: number;
  user: string;
  /** SHA-256 of an SFTP server's key, as it was when it was trusted; null: not yet */
  hostKey: string | null;
  /** of a folder: another program carries on what lies in it */
  carried: boolean;
}

/** Where sets are copied to. */
@Entity('destination')
export class Destination {
  @PrimaryColumn('text') id: string;
  @Column('text') name: string;
  @Column('text') kind: DestinationKind;
  @Column('simple-json') reach: Reach;
  /** what opens it, encrypted, see `SecretBox`; null: nothing is needed */
  @Column('text', { nullable: true }) secret: string | null;
  @Column('integer') createdAt: number;
}
