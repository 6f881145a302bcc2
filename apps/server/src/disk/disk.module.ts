import { Global, Inject, Module, type OnApplicationShutdown } from '@nestjs/common';
import { Disk } from './disk';
import { MountSource } from './mounts/mounts';
import { mountSource } from './mounts/mountSource';
import { NodeDisk } from './nodeDisk';

@Global()
@Module({
  providers: [
    { provide: Disk, useClass: NodeDisk },
    { provide: MountSource, useFactory: () => mountSource(process.platform, process.env) },
  ],
  exports: [Disk, MountSource],
})
export class DiskModule implements OnApplicationShutdown {
  constructor(@Inject(Disk) private readonly disk: Disk) {}

  onApplicationShutdown(): void {
    this.disk.close();
  }
}
