import { Column, Entity, Index, PrimaryColumn, PrimaryGeneratedColumn } from 'typeorm';
import type { GuestRights, MarkKind, MarkValue, OutputSpec, SaidKind } from '@arkiv/core';

/** What frames become when a client chooses them. */
export interface Becomes {
  kind: MarkKind;
  value: MarkValue;
}

/** Pictures of a shoot, shown to a client. Kept for ever, with all that was said in it; its pictures go when it is closed. */
@Entity('gallery')
@Index(['shootId'])
export class Gallery {
  @PrimaryColumn('text') id: string;
  @Column('text') shootId: string;
  /** what the client reads above the pictures */
  @Column('text') title: string;
  /** words to the client, below the title */
  @Column('text', { default: '' }) words: string;
  /** which of the keepers: a line of words and facts; empty: all */
  @Column('text') line: string;
  /** how its pictures are made */
  @Column('simple-json') look: OutputSpec;
  /** the set whose files may be downloaded; null: none */
  @Column('text', { nullable: true }) deliveryId: string | null;
  /** how many are to be chosen; 0: any number; null: nothing is */
  @Column('integer', { nullable: true }) most: number | null;
  /** null: nothing but chosen */
  @Column('simple-json', { nullable: true }) becomes: Becomes | null;
  /** until when it is open, milliseconds since 1970 UTC; null: until it is closed */
  @Column('integer', { nullable: true }) until: number | null;
  @Column('integer') at: number;
  /** the job that makes its pictures, or did last */
  @Column('text') jobId: string;
  /** when its pictures were last made; null: not yet */
  @Column('integer', { nullable: true }) madeAt: number | null;
  /** null: it is open */
  @Column('integer', { nullable: true }) closedAt: number | null;
}

/** An address under which a gallery is found. */
@Entity('gallery_link')
@Index(['galleryId'])
export class GalleryLink {
  @PrimaryColumn('text') id: string;
  @Column('text') galleryId: string;
  /** whom it is for; empty: everybody of the client, who each say who they are */
  @Column('text') name: string;
  /** where messages to that person go; empty: nowhere */
  @Column('text', { default: '' }) email: string;
  @Column('simple-json') rights: GuestRights;
  /** SHA-256 of the address's own part: 128 random bits */
  @Column('text', { unique: true }) tokenHash: string;
  /** that part and the pass code, encrypted, to be told to the client */
  @Column('text') secret: string;
  /** scrypt of the pass code, with its salt; null: none is asked for */
  @Column('text', { nullable: true }) codeHash: string | null;
  @Column('text', { nullable: true }) codeSalt: string | null;
  @Column('integer') at: number;
  /** it opens nothing any more since; null: it does */
  @Column('integer', { nullable: true }) revokedAt: number | null;
}

/** A picture of a gallery. */
@Entity('gallery_frame')
@Index(['frameId'])
export class GalleryFrame {
  @PrimaryColumn('text') galleryId: string;
  /** its place */
  @PrimaryColumn('integer') seq: number;
  @Column('text') frameId: string;
  /** what it is called outside: random, so that no other can be guessed */
  @Column('text') key: string;
  /** counts up when its files are made anew */
  @Column('integer') version: number;
  /** the frame's name */
  @Column('text') name: string;
  /** key of the picture it is made of; null: the frame has none */
  @Column('text', { nullable: true }) picture: string | null;
  /** digest of all that decides its files; null: they are not made */
  @Column('text', { nullable: true }) recipe: string | null;
  /** pixels of the largest */
  @Column('integer', { nullable: true }) width: number | null;
  @Column('integer', { nullable: true }) height: number | null;
}

/** Somebody of a client. Who says the same name at the same address is the same. */
@Entity('gallery_guest')
@Index(['galleryId'])
export class GalleryGuest {
  @PrimaryColumn('text') id: string;
  @Column('text') galleryId: string;
  @Column('text') linkId: string;
  @Column('text') name: string;
  @Column('integer') at: number;
}

/** A browser in which somebody of a client came in. */
@Entity('gallery_browser')
export class GalleryBrowser {
  /** SHA-256 of what it holds */
  @PrimaryColumn('text') hash: string;
  @Column('text') guestId: string;
  /** until when it need not ask again */
  @Column('integer') until: number;
}

/** All that was said and done in galleries. */
@Entity('gallery_said')
@Index(['galleryId'])
@Index(['frameId'])
export class GallerySaid {
  @PrimaryGeneratedColumn() id: number;
  @Column('text') galleryId: string;
  @Column('text') guestId: string;
  @Column('text', { nullable: true }) frameId: string | null;
  @Column('text') kind: SaidKind;
  @Column('boolean') on: boolean;
  @Column('text', { nullable: true }) text: string | null;
  @Column('real', { nullable: true }) x: number | null;
  @Column('real', { nullable: true }) y: number | null;
  /** a remark taken back: the number of what said it */
  @Column('integer', { nullable: true }) of: number | null;
  /** a choice: what the frame's mark was before, as JSON, so that taking it back gives that again; null: it had no effect */
  @Column('text', { nullable: true }) was: string | null;
  @Column('integer') at: number;
}
