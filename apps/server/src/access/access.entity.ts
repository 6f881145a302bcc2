import { Column, Entity, PrimaryColumn } from 'typeorm';

/** The studio password, as scrypt leaves it. One row, or none while none is set. */
@Entity('password')
export class Password {
  @PrimaryColumn('integer') id: number;
  /** hex */
  @Column('text') salt: string;
  /** hex */
  @Column('text') hash: string;
  /** scrypt's N */
  @Column('integer') cost: number;
}

/** Somebody who is signed in. Only a hash is kept of what the browser holds. */
@Entity('session')
export class Session {
  /** SHA-256 of the token, hex */
  @PrimaryColumn('text') hash: string;
  @Column('integer') until: number;
}
