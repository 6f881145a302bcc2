import { Global, Inject, Module, type OnApplicationShutdown } from '@nestjs/common';
import type { DataSource } from 'typeorm';
import { ArkivConfig } from '../config/config';
import { Disk } from '../disk/disk';
import { Clock } from '../system/clock';
import { ArchiveLock } from './archiveLock';
import { DatabaseCopies } from './databaseCopies';
import { databaseFile, openReadSource, openWriteSource, READ_SOURCE, WRITE_SOURCE } from './sources';
import { Reading, UnitOfWork } from './unitOfWork';

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
        openWriteSource(databaseFile(config.dataDir), disk, clock),
    },
    {
      // The write source comes first: it makes the file, its log and its tables.
      provide: READ_SOURCE,
      inject: [ArkivConfig, WRITE_SOURCE],
      useFactory: (config: ArkivConfig) => openReadSource(databaseFile(config.dataDir)),
    },
    UnitOfWork,
    Reading,
    DatabaseCopies,
  ],
  exports: [UnitOfWork, Reading, ArchiveLock, DatabaseCopies],
})
export class DbModule implements OnApplicationShutdown {
  constructor(
    @Inject(WRITE_SOURCE) private readonly write: DataSource,
    @Inject(READ_SOURCE) private readonly read: DataSource,
    private readonly work: UnitOfWork,
    private readonly lock: ArchiveLock,
    private readonly copies: DatabaseCopies,
  ) {}

  async onApplicationShutdown(): Promise<void> {
    await this.work.settled();
    await this.copies.onApplicationShutdown();
    await this.read.destroy();
    await this.write.destroy();
    await this.lock.release();
  }
}
