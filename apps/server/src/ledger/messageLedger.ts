import { Injectable } from '@nestjs/common';
import { In, type EntityManager } from 'typeorm';
import { Reading } from '../db/unitOfWork';
import { Message, type MessageState } from './message.entity';

/** The only writer of what clients were written. */
@Injectable()
export class MessageLedger {
  constructor(private readonly reading: Reading) {}

  async open(manager: EntityManager, messages: readonly Message[]): Promise<void> {
    await manager.insert(Message, [...messages]);
  }

  async change(
    manager: EntityManager,
    id: string,
    change: Partial<Pick<Message, 'state' | 'reason' | 'sentAt'>>,
  ): Promise<void> {
    await manager.update(Message, { id }, change);
  }

  /** The newest first. */
  ofShoot(shootId: string): Promise<Message[]> {
    return this.reading.manager.find(Message, { where: { shootId }, order: { at: 'DESC', id: 'DESC' } });
  }

  inState(...states: MessageState[]): Promise<Message[]> {
    return this.reading.manager.findBy(Message, { state: In(states) });
  }
}
