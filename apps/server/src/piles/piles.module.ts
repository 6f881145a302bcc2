import { Module } from '@nestjs/common';
import { PileStore } from './pileStore';

@Module({ providers: [PileStore], exports: [PileStore] })
export class PilesModule {}
