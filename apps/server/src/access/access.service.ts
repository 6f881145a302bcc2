import { createHash, randomBytes } from 'node:crypto';
import { Injectable, type OnApplicationBootstrap } from '@nestjs/common';
import { ArkivError } from '@arkiv/core';
import { LessThan } from 'typeorm';
import { Reading, UnitOfWork } from '../db/unitOfWork';
import { Disk } from '../disk/disk';
import { readOwn } from '../disk/place';
import { SettingsService } from '../settings/settings.service';
import { Clock } from '../system/clock';
import { Password, Session } from './access.entity';
import { Guesses } from './guesses';
import { derive, isWord, STRONG } from './secretWord';

/** Characters: NIST SP 800-63B asks for eight at least; a studio's whole archive stands behind this one. */
export const SHORTEST_PASSWORD = 10;
export const LONGEST_PASSWORD = 200;
/** Milliseconds a browser stays signed in. */
export const SESSION_MILLIS = 30 * 24 * 60 * 60 * 1000;
/** Who may use the archive. On the owner's own machine anybody; beyond it whoever knows the studio password. */
@Injectable()
export class Access implements OnApplicationBootstrap {
  /** Browsers send a cookie to every port of a machine: archives that stand beside each other have one each. */
  cookie = 'arkiv_session';
  /** whether everything asks for a session: where the server can be reached from other machines */
  required = false;
  /** SHA-256 of the certificate that is served; null: plain HTTP */
  fingerprint: string | null = null;
  private readonly guesses = new Guesses(() => this.clock.now());

  constructor(
    private readonly reading: Reading,
    private readonly work: UnitOfWork,
    private readonly clock: Clock,
    private readonly disk: Disk,
    private readonly settings: SettingsService,
  ) {}

  async onApplicationBootstrap(): Promise<void> {
    this.cookie = `arkiv_session_${(await this.settings.archive()).id}`;
  }

  /** Asks for a session from now on. Throws `access.password` where no password is set: then nobody could come in. */
  async open(fingerprint: string): Promise<void> {
    if (!(await this.hasPassword())) throw new ArkivError('access.password', {});
    this.fingerprint = fingerprint;
    this.required = true;
  }

  hasPassword(): Promise<boolean> {
    return this.reading.manager.exists(Password);
  }

  /**
   * Sets the studio password and signs everybody out. `current` is asked for where the server is open to others; throws
   * `access.wrong` where it is not right, `access.weak` where the new one is too short.
   */
  async setPassword(password: string, current: string | null, from: string): Promise<void> {
    refuseWeak(password);
    if (this.required) await this.check(current ?? '', from);
    await this.keep(password);
  }

  private async keep(password: string): Promise<void> {
    refuseWeak(password);
    const salt = randomBytes(16);
    const hash = await derive(password, salt, STRONG);
    await this.work.write(async (manager) => {
      await manager.save(Password, {
        id: 1,
        salt: salt.toString('hex'),
        hash: hash.toString('hex'),
        cost: STRONG,
      });
      await manager.clear(Session);
    });
  }

  /** Takes a file's first line for the password; throws `access.weak`, or `file.unreadable` where there is no such file. */
  async setFromFile(file: string): Promise<void> {
    const text = await readOwn(this.disk, file);
    if (text === null) throw new ArkivError('file.unreadable', { file, reason: 'there is no such file' });
    const password = text.split(/\r?\n/)[0]!;
    // Named at each start, it signs nobody out again.
    if (!(await this.isRight(password))) await this.keep(password);
  }

  /** A token for the right password. Throws `access.wrong`, and `access.slow` after too many wrong ones. */
  async signIn(password: string, from: string): Promise<string> {
    await this.check(password, from);
    const token = randomBytes(32).toString('base64url');
    const now = this.clock.now();
    await this.work.write(async (manager) => {
      await manager.delete(Session, { until: LessThan(now) });
      await manager.insert(Session, { hash: hashOf(token), until: now + SESSION_MILLIS });
    });
    return token;
  }

  async isIn(token: string | null): Promise<boolean> {
    if (token === null) return false;
    const session = await this.reading.manager.findOneBy(Session, { hash: hashOf(token) });
    return session !== null && session.until > this.clock.now();
  }

  async signOut(token: string): Promise<void> {
    await this.work.write((manager) => manager.delete(Session, { hash: hashOf(token) }));
  }

  private async check(password: string, from: string): Promise<void> {
    if (!(await this.guesses.check(from, () => this.isRight(password))))
      throw new ArkivError('access.wrong', {});
  }

  private async isRight(password: string): Promise<boolean> {
    const kept = await this.reading.manager.findOneBy(Password, { id: 1 });
    if (kept === null || password.length > LONGEST_PASSWORD) return false;
    return isWord(password, kept);
  }
}

function refuseWeak(password: string): void {
  if (password.length < SHORTEST_PASSWORD || password.length > LONGEST_PASSWORD)
    throw new ArkivError('access.weak', { least: SHORTEST_PASSWORD });
}

const hashOf = (token: string): string => createHash('sha256').update(token).digest('hex');
