import { Body, Controller, Get, Param, Post } from '@nestjs/common';
import { ApiCreatedResponse, ApiOkResponse, ApiTags } from '@nestjs/swagger';
import { ArkivError, leftOutFile, receiptFile } from '@arkiv/core';
import { ArrivalLedger } from '../ledger/arrivalLedger';
import { StartedJobDto } from '../jobs/jobs.dto';
import { ArrivalsService } from './arrivals.service';
import { ClearHandler } from './clear.handler';
import {
  ClearanceDto,
  ClearCardDto,
  IntakeReportDto,
  LatestArrivalDto,
  ProvenFramesDto,
  StartedIntakeDto,
  StartIntakeDto,
} from './intake.dto';
import { ClearanceService } from './clearance.service';
import { IntakeService } from './intake.service';

/** Frames that a screen of copying has room for. */
const NEWEST = 60;

@ApiTags('intake')
@Controller('api')
export class IntakeController {
  constructor(
    private readonly intake: IntakeService,
    private readonly clearances: ClearanceService,
    private readonly arrivals: ArrivalsService,
    private readonly clearing: ClearHandler,
    private readonly ledger: ArrivalLedger,
  ) {}

  @Post('intakes')
  @ApiCreatedResponse({ type: StartedIntakeDto })
  start(@Body() body: StartIntakeDto): Promise<StartedIntakeDto> {
    return this.intake.start(body);
  }

  /** The card that came last, across its shoots and folders; empty before the first. */
  @Get('arrivals/latest')
  @ApiOkResponse({ type: LatestArrivalDto })
  async latest(): Promise<LatestArrivalDto> {
    return (await this.arrivals.latestArrival()) ?? { card: '', at: 0, frames: [] };
  }

  /** What became of each file so far. */
  @Get('intakes/:id')
  @ApiOkResponse({ type: IntakeReportDto })
  async report(@Param('id') id: string): Promise<IntakeReportDto> {
    const arrival = await this.ledger.get(id);
    if (!arrival) throw new ArkivError('not-found', { what: 'intake', id });
    const { readerId, card, targets, folders, receipts } = arrival;
    const files = (await this.ledger.files(id)).map(({ from, to: planned, size, fate, progress }) => {
      const file =
        fate === 'left-out'
          ? leftOutFile({ path: from, size })
          : receiptFile({ from, to: planned, size, progress });
      const { to, reason, copies } = file;
      const verifiedOn = copies.map((c) => c.volume);
      return { from, to, size, fate, sha256: progress.sha256, reason, verifiedOn };
    });
    return {
      together: await this.arrivals.together(arrival),
      ...{ readerId, card, targets, folders, receipts, files },
    };
  }

  /** The frames of an intake that are proven so far, the newest first. */
  @Get('intakes/:id/frames')
  @ApiOkResponse({ type: ProvenFramesDto })
  frames(@Param('id') id: string): Promise<ProvenFramesDto> {
    return this.arrivals.framesOf(id, NEWEST);
  }

  /** Deletes from the card what is proven, and nothing else. */
  @Post('readers/:id/clear')
  @ApiCreatedResponse({ type: StartedJobDto })
  clear(@Param('id') id: string, @Body() body: ClearCardDto): Promise<StartedJobDto> {
    return this.clearing.start(id, body.fingerprint);
  }

  /** Keys of the card's frames that are probably archived already. */
  @Get('readers/:id/known')
  @ApiOkResponse({ type: [String] })
  known(@Param('id') id: string): Promise<string[]> {
    return this.arrivals.known(id);
  }

  /** Whether the card in this reader may be cleared, as things are now. */
  @Get('readers/:id/clearance')
  @ApiOkResponse({ type: ClearanceDto })
  clearance(@Param('id') id: string): Promise<ClearanceDto> {
    return this.clearances.of(id);
  }
}
