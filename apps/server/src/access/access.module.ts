import { Module } from '@nestjs/common';
import { AccessController } from './access.controller';
import { Access } from './access.service';
import { SecretBox } from './secretBox';

@Module({ controllers: [AccessController], providers: [Access, SecretBox], exports: [Access, SecretBox] })
export class AccessModule {}
