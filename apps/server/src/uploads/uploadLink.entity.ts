import { Column, Entity, PrimaryColumn } from 'typeorm';

/** An address by which somebody outside sends pictures. */
@Entity('upload_link')
export class UploadLink {
  @PrimaryColumn('text') id: string;
  /** what is asked for, as its page says it and the card on the Desk is called */
  @Column('text') title: string;
  /** whom it is for; empty: several, who each say who they are */
  @Column('text') name: string;
  /** bytes that may come by it */
  @Column('integer') most: number;
  /** bytes that have come and were proven */
  @Column('integer', { default: 0 }) came: number;
  /** until when it is open, milliseconds since 1970 UTC; null: until it is taken back */
  @Column('integer', { nullable: true }) until: number | null;
  /** SHA-256 of the address's own part: 128 random bits */
  @Column('text', { unique: true }) tokenHash: string;
  /** that part and the pass code, encrypted, to be told to whom it is for */
  @Column('text') secret: string;
  /** scrypt of the pass code, with its salt; null: none is asked for */
  @Column('text', { nullable: true }) codeHash: string | null;
  @Column('text', { nullable: true }) codeSalt: string | null;
  @Column('integer') at: number;
  /** it opens nothing any more since; null: it does */
  @Column('integer', { nullable: true }) revokedAt: number | null;
}
