import type { MessageKind } from '@arkiv/core';
import { Column, Entity, Index, PrimaryColumn } from 'typeorm';

/**
 * waiting: nobody was told yet · sending: its server is being told · sent: its server has taken it · refused: it went nowhere · unknown: the
 * line broke while its server was told, or Arkiv ended
 */
export const MESSAGE_STATES = ['waiting', 'sending', 'sent', 'refused', 'unknown'] as const;
export type MessageState = (typeof MESSAGE_STATES)[number];

/** A picture that lies beside a message's words. */
export interface Attached {
  frameId: string;
  /** of the frame */
  from: string;
  /** of the file */
  name: string;
  bytes: number;
  sha256: string;
}

/** Something that a client was written, as it was: for ever. */
@Entity('message')
@Index(['shootId'])
export class Message {
  @PrimaryColumn('text') id: string;
  @Column('text') shootId: string;
  /** null: it is about no gallery */
  @Column('text', { nullable: true }) galleryId: string | null;
  /** the link that it told of; null: none */
  @Column('text', { nullable: true }) linkId: string | null;
  @Column('text') kind: MessageKind;
  /** the address */
  @Column('text') to: string;
  @Column('text') subject: string;
  /** as it was sent, but for pass codes: those stand with their links */
  @Column('text') text: string;
  @Column('simple-json') attached: Attached[];
  @Column('text') state: MessageState;
  /** why it went nowhere, and what to do; null: it went */
  @Column('text', { nullable: true }) reason: string | null;
  /** when somebody pressed the button, milliseconds since 1970 UTC */
  @Column('integer') at: number;
  @Column('integer', { nullable: true }) sentAt: number | null;
}
