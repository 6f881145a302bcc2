import { Global, Module } from '@nestjs/common';
import { Clock } from './clock';
import { Ids } from './ids';

@Global()
@Module({ providers: [Clock, Ids], exports: [Clock, Ids] })
export class SystemModule {}
