import { Global, Inject, Module, type OnApplicationShutdown } from '@nestjs/common';
import { Disk } from '../disk/disk';
import { MountSource } from '../disk/mounts/mounts';
import { mountSource } from '../disk/mounts/mountSource';
import { NodeDisk } from '../disk/nodeDisk';
import { Clock } from '../system/clock';
import { StandInDisk } from './standInDisk';
import { StandInFaults } from './standInFaults';
import { StandInMounts } from './standInMounts';

/** Takes the disk module's place in demo and tests: the real disk, with devices that fail on demand. */
@Global()
@Module({
  providers: [
    StandInFaults,
    NodeDisk,
    {
      provide: Disk,
      inject: [NodeDisk, StandInFaults, Clock],
      useFactory: (real: NodeDisk, faults: StandInFaults, clock: Clock) =>
        new StandInDisk(real, faults, () => clock.now()),
    },
    {
      provide: MountSource,
      inject: [Disk, StandInFaults],
      useFactory: (disk: Disk, faults: StandInFaults) =>
        new StandInMounts(disk, mountSource(process.platform, process.env), faults),
    },
  ],
  exports: [Disk, MountSource, StandInFaults],
})
export class StandInDiskModule implements OnApplicationShutdown {
  constructor(@Inject(Disk) private readonly disk: Disk) {}

  onApplicationShutdown(): void {
    this.disk.close();
  }
}
