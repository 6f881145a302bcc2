import { Global, Module } from '@nestjs/common';
import { Disk } from './disk';
import { NodeDisk } from './nodeDisk';

@Global()
@Module({ providers: [{ provide: Disk, useClass: NodeDisk }], exports: [Disk] })
export class DiskModule {}
