import { Body, Controller, Delete, Get, HttpCode, Param, Post, Put } from '@nestjs/common';
import { ApiCreatedResponse, ApiNoContentResponse, ApiOkResponse, ApiTags } from '@nestjs/swagger';
import type { Destination } from './destination.entity';
import {
  CheckedDestinationDto,
  DestinationDto,
  KeepDestinationDto,
  SendDto,
  SendingStartedDto,
  SentSetDto,
} from './destinations.dto';
import { DestinationsService, placeOf } from './destinations.service';
import { SendingService } from './sending.service';

@ApiTags('destinations')
@Controller('api')
export class DestinationsController {
  constructor(
    private readonly destinations: DestinationsService,
    private readonly sending: SendingService,
  ) {}

  @Get('destinations')
  @ApiOkResponse({ type: [DestinationDto] })
  async all(): Promise<DestinationDto[]> {
    return (await this.destinations.all()).map(dtoOf);
  }

  @Post('destinations')
  @ApiCreatedResponse({ type: DestinationDto })
  async add(@Body() body: KeepDestinationDto): Promise<DestinationDto> {
    return dtoOf(await this.destinations.keep(null, body));
  }

  @Put('destinations/:id')
  @ApiOkResponse({ type: DestinationDto })
  async change(@Param('id') id: string, @Body() body: KeepDestinationDto): Promise<DestinationDto> {
    return dtoOf(await this.destinations.keep(id, body));
  }

  /** What was sent there stays, and stays in the ledger. */
  @Delete('destinations/:id')
  @HttpCode(204)
  @ApiNoContentResponse()
  forget(@Param('id') id: string): Promise<void> {
    return this.destinations.forget(id);
  }

  /** Writes a small file there, reads it back, and takes it away. */
  @Post('destinations/:id/check')
  @HttpCode(200)
  @ApiOkResponse({ type: CheckedDestinationDto })
  check(@Param('id') id: string): Promise<CheckedDestinationDto> {
    return this.destinations.check(id);
  }

  /** Copies a set there, each file with proof. */
  @Post('deliveries/:job/send')
  @ApiCreatedResponse({ type: SendingStartedDto })
  send(@Param('job') job: string, @Body() body: SendDto): Promise<SendingStartedDto> {
    return this.sending.send(job, body);
  }

  /** Where the sets of a shoot were sent, the newest first. */
  @Get('shoots/:id/sent')
  @ApiOkResponse({ type: [SentSetDto] })
  sent(@Param('id') id: string): Promise<SentSetDto[]> {
    return this.sending.ofShoot(id);
  }

  /** Somebody knows that what another program carries has arrived. */
  @Post('sent/:id/confirm')
  @HttpCode(204)
  @ApiNoContentResponse()
  confirm(@Param('id') id: string): Promise<void> {
    return this.sending.confirm(id);
  }
}

/** Nothing that opens it is in it. */
function dtoOf({ id, name, kind, reach, secret }: Destination): DestinationDto {
  const { hostKey, ...where } = reach;
  return { id, name, kind, reach: where, hostKey, place: placeOf(kind, reach), opens: secret !== null };
}
