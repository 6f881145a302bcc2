import { Module } from '@nestjs/common';
import { AccessController } from './access.controller';
import { Access } from './access.service';

@Module({ controllers: [AccessController], providers: [Access], exports: [Access] })
export class AccessModule {}
