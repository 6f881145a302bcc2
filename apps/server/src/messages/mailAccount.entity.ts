import { Column, Entity, PrimaryColumn } from 'typeorm';

/** tls: encrypted from the first byte (port 465) · starttls: before anything is said (587) · none: on this computer alone */
export const MAIL_SECURITIES = ['tls', 'starttls', 'none'] as const;
export type MailSecurity = (typeof MAIL_SECURITIES)[number];

/** There is one. */
export const THE_ACCOUNT = 'studio';

/** The mail server that carries what clients are written. */
@Entity('mail_account')
export class MailAccount {
  @PrimaryColumn('text') id: typeof THE_ACCOUNT;
  @Column('text') host: string;
  @Column('integer') port: number;
  @Column('text') security: MailSecurity;
  /** empty: it asks for nobody */
  @Column('text') user: string;
  /** the address that messages come from */
  @Column('text') from: string;
  /** the password, encrypted, see `SecretBox`; null: none */
  @Column('text', { nullable: true }) secret: string | null;
}
