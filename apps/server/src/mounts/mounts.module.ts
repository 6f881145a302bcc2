import { Global, Module } from '@nestjs/common';
import { MountsService } from './mounts.service';

@Global()
@Module({ providers: [MountsService], exports: [MountsService] })
export class MountsModule {}
