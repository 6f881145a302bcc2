import { Global, Module } from '@nestjs/common';
import { Disk } from '../disk/disk';
import { NodeDisk } from '../disk/nodeDisk';
import { Clock } from '../system/clock';
import { StandInDisk } from './standInDisk';
import { StandInFaults } from './standInFaults';

/** Takes the disk module's place in demo and tests: the real disk, with devices that fail on demand. */
@Global()
@Module({
  providers: [
    StandInFaults,
    {
      provide: Disk,
      inject: [StandInFaults, Clock],
      useFactory: (faults: StandInFaults, clock: Clock) =>
        new StandInDisk(new NodeDisk(), faults, () => clock.now()),
    },
  ],
  exports: [Disk, StandInFaults],
})
export class StandInDiskModule {}
