import { Module } from '@nestjs/common';
import { ArrivalLedger } from './arrivalLedger';
import { OutLedger } from './outLedger';

/** What happened to which content, for ever. */
@Module({ providers: [ArrivalLedger, OutLedger], exports: [ArrivalLedger, OutLedger] })
export class LedgerModule {}
