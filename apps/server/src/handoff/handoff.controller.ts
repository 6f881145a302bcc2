import { Body, Controller, Get, Param, Post, Query } from '@nestjs/common';
import { ApiCreatedResponse, ApiOkResponse, ApiProperty, ApiTags } from '@nestjs/swagger';
import { IsString } from 'class-validator';
import { StartedJobDto } from '../jobs/jobs.dto';
import { HandoffService, type HandoffPlan, type HandoffResult } from './handoff.service';

export class HandoffPlanDto implements HandoffPlan {
  @ApiProperty() volumeId: string;
  @ApiProperty() volume: string;
  @ApiProperty() online: boolean;
  @ApiProperty({ type: [String] }) folders: string[];
  @ApiProperty() frames: number;
  @ApiProperty() files: number;
  @ApiProperty({ description: 'bytes' }) bytes: number;
  @ApiProperty() rule: string;
}

export class HandoffResultDto implements HandoffResult {
  @ApiProperty() volumeId: string;
  @ApiProperty() volume: string;
  @ApiProperty({ type: [String] }) folders: string[];
  @ApiProperty() frames: number;
  @ApiProperty() files: number;
  @ApiProperty({ description: 'bytes' }) bytes: number;
  @ApiProperty() verified: number;
  @ApiProperty() failed: number;
}

export class HandoffDto {
  @ApiProperty() jobId: string;
  @ApiProperty() at: number;
  @ApiProperty({ type: HandoffResultDto }) result: HandoffResultDto;
}

export class StartHandoffDto {
  @ApiProperty() @IsString() volumeId: string;
}

@ApiTags('handoff')
@Controller('api/shoots/:id/handoffs')
export class HandoffController {
  constructor(private readonly handoff: HandoffService) {}

  /** What a hand-off would do, before it does it. */
  @Get('plan')
  @ApiOkResponse({ type: HandoffPlanDto })
  plan(@Param('id') id: string, @Query('volume') volume: string): Promise<HandoffPlanDto> {
    return this.handoff.plan(id, volume);
  }

  @Get()
  @ApiOkResponse({ type: [HandoffDto] })
  list(@Param('id') id: string): Promise<HandoffDto[]> {
    return this.handoff.list(id);
  }

  @Post()
  @ApiCreatedResponse({ type: StartedJobDto })
  start(@Param('id') id: string, @Body() body: StartHandoffDto): Promise<StartedJobDto> {
    return this.handoff.start(id, body.volumeId);
  }
}
