import { Module } from '@nestjs/common';
import { Journal } from './journal';

@Module({ providers: [Journal], exports: [Journal] })
export class JournalModule {}
