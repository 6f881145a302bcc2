import path from 'node:path';
import { Global, Inject, Module, type OnApplicationShutdown } from '@nestjs/common';
import type { DataSource } from 'typeorm';
import { ArkivConfig } from '../config/config';
import { Disk } from '../disk/disk';
import { Clock } from '../system/clock';
import { ArchiveLock } from './archiveLock';
import { openReadSource, openWriteSource, READ_SOURCE, WRITE_SOURCE } from './sources';
import { Reading, UnitOfWork } from './unitOfWork';

const databaseFile = (config: ArkivConfig) => path.join(config.dataDir, 'archive.sqlite');

@Global()
@Module({
  providers: [
    {
      // Before anything is opened: two servers on one archive would each undo what the other does.
      provide: ArchiveLock,
      inject: [ArkivConfig, Disk],
      useFactory: (config: ArkivConfig, disk: Disk) => ArchiveLock.take(config.dataDir, disk),
    },
    {
      provide: WRITE_SOURCE,
      inject: [ArkivConfig, Disk, Clock, ArchiveLock],
      useFactory: (config: ArkivConfig, disk: Disk, clock: Clock) =>
        openWriteSource(databaseFile(config), disk, clock),
    },
    {
      // The write source comes first: it makes the file, its log and its tables.
      provide: READ_SOURCE,
      inject: [ArkivConfig, WRITE_SOURCE],
      useFactory: (config: ArkivConfig) => openReadSource(databaseFile(config)),
    },
    UnitOfWork,
    Reading,
  ],
  exports: [UnitOfWork, Reading, ArchiveLock],
})
export class DbModule implements OnApplicationShutdown {
  constructor(
    @Inject(WRITE_SOURCE) private readonly write: DataSource,
    @Inject(READ_SOURCE) private readonly read: DataSource,
    private readonly work: UnitOfWork,
    private readonly lock: ArchiveLock,
  ) {}

  async onApplicationShutdown(): Promise<void> {
    await this.work.settled();
    await this.read.destroy();
    await this.write.destroy();
    await this.lock.release();
  }
}
