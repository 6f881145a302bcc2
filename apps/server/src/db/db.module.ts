import { Global, Inject, Module, type DynamicModule, type OnApplicationShutdown } from '@nestjs/common';
import type { DataSource } from 'typeorm';
import { ArkivConfig } from '../config/config';
import { Disk } from '../disk/disk';
import { Clock } from '../system/clock';
import { ArchiveLock } from './archiveLock';
import { DatabaseCopies } from './databaseCopies';
import {
  databaseFile,
  ENTITIES,
  openReadSource,
  openWriteSource,
  READ_SOURCE,
  WRITE_SOURCE,
  type Entities,
} from './sources';
import { LongReading } from './longReading';
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
      inject: [ArkivConfig, Disk, Clock, ENTITIES, ArchiveLock],
      useFactory: (config: ArkivConfig, disk: Disk, clock: Clock, entities: Entities) =>
        openWriteSource(databaseFile(config.dataDir), disk, clock, entities),
    },
    {
      // The write source comes first: it makes the file, its log and its tables.
      provide: READ_SOURCE,
      inject: [ArkivConfig, ENTITIES, WRITE_SOURCE],
      useFactory: (config: ArkivConfig, entities: Entities) =>
        openReadSource(databaseFile(config.dataDir), entities),
    },
    UnitOfWork,
    Reading,
    LongReading,
    DatabaseCopies,
  ],
  exports: [UnitOfWork, Reading, LongReading, ArchiveLock, DatabaseCopies],
})
export class DbModule implements OnApplicationShutdown {
  /** `entities`: the classes of all tables, which the modules above own. */
  static with(entities: Entities): DynamicModule {
    return { module: DbModule, providers: [{ provide: ENTITIES, useValue: entities }] };
  }

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
