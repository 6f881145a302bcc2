import path from 'node:path';
import { Injectable, Logger, type BeforeApplicationShutdown } from '@nestjs/common';
import { ArkivError } from '@arkiv/core';
import { ArkivConfig } from '../../config/config';
import { Disk } from '../../disk/disk';
import { placeNew, readOwn } from '../../disk/place';
import type { ChangeServerDto, StandInServerDto } from '../standins.dto';
import { newHostKey, SftpStandIn } from './sftpStandIn';
import { SmtpStandIn } from './smtpStandIn';
import { WebdavStandIn } from './webdavStandIn';
import { STAND_IN_PASSWORD, STAND_IN_USER, type FaultyIntake } from './serverFaults';

interface Running {
  id: StandInServerDto['id'];
  name: string;
  port: number;
  server: { intake: FaultyIntake; close: () => void };
}

/** Plays the servers that clients have and the demo has not: folders under the data directory, spoken to by WebDAV and SFTP. */
@Injectable()
export class StandInServers implements BeforeApplicationShutdown {
  private readonly log = new Logger('stand-ins');
  private starting: Promise<Running[]> | null = null;

  constructor(
    private readonly config: ArkivConfig,
    private readonly disk: Disk,
  ) {}

  /** After a start: those that were asked for before answer again, as what is sent to may be kept. Most archives never ask. */
  async begin(): Promise<void> {
    if (await this.disk.facts(this.root())) await this.all();
  }

  async all(): Promise<StandInServerDto[]> {
    return (await this.running()).map(({ id, name, port, server }) => ({
      ...{ id, name, port, user: STAND_IN_USER, password: STAND_IN_PASSWORD },
      ...server.intake.faults,
    }));
  }

  /** The folder in which mail lies. */
  mailbox(): string {
    return path.join(this.root(), 'mailbox');
  }

  async change(id: string, change: ChangeServerDto): Promise<void> {
    const found = (await this.running()).find((one) => one.id === id);
    if (!found) throw new ArkivError('not-found', { what: 'simulated server', id });
    const given = Object.entries(change).filter(([, value]) => value !== undefined);
    Object.assign(found.server.intake.faults, Object.fromEntries(given));
  }

  async beforeApplicationShutdown(): Promise<void> {
    for (const { server } of (await this.starting) ?? []) server.close();
  }

  private running(): Promise<Running[]> {
    return (this.starting ??= this.start());
  }

  /** Beside Arkiv's own port, so that what is kept of them fits after a restart; where that is taken, at any. */
  private async start(): Promise<Running[]> {
    const root = this.root();
    const webdav = path.join(root, 'webdav');
    const sftp = path.join(root, 'sftp');
    await this.disk.makeFolders(webdav);
    const mailbox = this.mailbox();
    await this.disk.makeFolders(sftp);
    await this.disk.makeFolders(mailbox);
    const key = await this.hostKey(root);
    return [
      await this.listen('webdav', 'WebDAV server', 1, new WebdavStandIn(this.disk, webdav)),
      await this.listen('sftp', 'SFTP server', 2, new SftpStandIn(this.disk, sftp, key)),
      // Three above are galleries.
      await this.listen('smtp', 'Mail server', 4, new SmtpStandIn(this.disk, mailbox)),
    ];
  }

  private root(): string {
    return path.resolve(this.config.dataDir, 'stand-ins/servers');
  }

  private async listen(
    id: Running['id'],
    name: string,
    beside: number,
    server: Running['server'] & { listen: (port: number) => Promise<number> },
  ): Promise<Running> {
    const own = this.config.port;
    const wanted = own === 0 ? 0 : own + beside;
    const port = await server.listen(wanted).catch(() => server.listen(0));
    if (wanted !== 0 && port !== wanted) this.log.warn(`${name} listens at ${port}: ${wanted} is taken`);
    return { id, name, port, server };
  }

  /** The same after each start: a server that is trusted answers with the key that it had. */
  private async hostKey(root: string): Promise<string> {
    const file = path.join(root, 'sftp-host-key');
    const kept = await readOwn(this.disk, file);
    if (kept !== null) return kept;
    const made = newHostKey();
    await placeNew(this.disk, file, Buffer.from(made), 'stand-ins', 0o600);
    return made;
  }
}
