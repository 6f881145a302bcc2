import { Injectable } from '@nestjs/common';
import { ArkivError } from '@arkiv/core';
import { SecretBox } from '../access/secretBox';
import { isLoopback } from '../config/config';
import { Reading, UnitOfWork } from '../db/unitOfWork';
import { Happenings } from '../events/domainEvents';
import { MailAccount, THE_ACCOUNT } from './mailAccount.entity';
import { Mailer } from './mailer';

export type MailAccountWish = Omit<MailAccount, 'id' | 'secret'> & {
  /** missing: as it was */
  password?: string;
};

/** The mail server that the studio named, and what opens it. */
@Injectable()
export class MailAccounts {
  constructor(
    private readonly reading: Reading,
    private readonly work: UnitOfWork,
    private readonly box: SecretBox,
    private readonly mailer: Mailer,
    private readonly happenings: Happenings,
  ) {}

  find(): Promise<MailAccount | null> {
    return this.reading.manager.findOneBy(MailAccount, { id: THE_ACCOUNT });
  }

  /** Throws `mail.none` where the studio named none. */
  async get(): Promise<MailAccount> {
    const account = await this.find();
    if (!account) throw new ArkivError('mail.none', {});
    return account;
  }

  /** Throws `request.invalid` where it would go unencrypted over a network. */
  async keep({ password, ...its }: MailAccountWish): Promise<void> {
    if (its.security === 'none' && !isLoopback(its.host))
      throw new ArkivError('request.invalid', {
        reason: 'only a server on this computer is spoken to without encryption',
      });
    const before = await this.find();
    // Another server is not told what opened this one.
    const kept = before && before.host === its.host && before.user === its.user ? before.secret : null;
    const secret =
      password === undefined ? kept : password === '' ? null : await this.box.lock({ password }, THE_ACCOUNT);
    await this.work.write(async (manager) => {
      await manager.save(MailAccount, { id: THE_ACCOUNT, ...its, secret });
      this.happenings.after(manager, 'mail', {});
    });
  }

  async forget(): Promise<void> {
    await this.work.write(async (manager) => {
      await manager.delete(MailAccount, { id: THE_ACCOUNT });
      this.happenings.after(manager, 'mail', {});
    });
  }

  /** Whether it lets us in; nothing is sent. Throws `mail.*`. */
  async check(): Promise<void> {
    const account = await this.get();
    await this.mailer.check(account, await this.password(account));
  }

  /** Throws `mail.secret` where the key that it was kept under is lost. */
  async password({ secret }: MailAccount): Promise<string> {
    if (secret === null) return '';
    try {
      return ((await this.box.unlock(secret, THE_ACCOUNT, 'mail')) as { password: string }).password;
    } catch (error) {
      if (error instanceof ArkivError) throw new ArkivError('mail.secret', {});
      throw error;
    }
  }
}
