import { Body, Controller, Get, Param, Post, Query } from '@nestjs/common';
import {
  ApiCreatedResponse,
  ApiOkResponse,
  ApiProperty,
  ApiPropertyOptional,
  ApiTags,
} from '@nestjs/swagger';
import { IsIn, IsOptional, IsString, MaxLength } from 'class-validator';
import { StartedJobDto } from '../jobs/jobs.dto';
import { CopiesWatch, type HeardFromEditing } from './copiesWatch.service';
import {
  HandoffService,
  type HandoffAsked,
  type HandoffPlace,
  type HandoffPlan,
  type HandoffResult,
} from './handoff.service';
import { TakeBackHandler } from './takeBack.handler';

export class HandoffFreshDto {
  @ApiProperty() frames: number;
  @ApiProperty() files: number;
  @ApiProperty({ description: 'bytes' }) bytes: number;
}

const WHY = ['no keeper', 'another name'] as const;

export class HandoffGoneDto {
  @ApiProperty({ description: 'what it is called there' }) name: string;
  @ApiProperty({ enum: WHY }) why: (typeof WHY)[number];
}

export class HeardFromEditingDto implements HeardFromEditing {
  @ApiProperty({ description: 'frames into whose copies another program wrote something that was taken in' })
  frames: number;
  @ApiProperty({
    type: Number,
    nullable: true,
    description: 'when last; milliseconds since 1970 UTC; null: never',
  })
  at: number | null;
  @ApiProperty({ type: [String], description: 'why some copies cannot be read' }) problems: string[];
}

export class HandoffPlanDto implements HandoffPlan {
  @ApiProperty() volumeId: string;
  @ApiProperty() volume: string;
  @ApiProperty() online: boolean;
  @ApiProperty({ type: [String] }) folders: string[];
  @ApiProperty() frames: number;
  @ApiProperty() files: number;
  @ApiProperty({ description: 'bytes' }) bytes: number;
  @ApiProperty({ type: HandoffFreshDto, description: 'what is not there yet, or is another one by now' })
  fresh: HandoffFreshDto;
  @ApiProperty({ description: 'sidecars there whose frames say something else by now; part of fresh' })
  sidecars: number;
  @ApiProperty({ description: 'files there of which only what they say is another by now' }) words: number;
  @ApiProperty({ type: [HandoffGoneDto], description: 'frames there that would not go any more' })
  gone: HandoffGoneDto[];
  @ApiProperty() rule: string;
}

export class HandoffResultDto implements HandoffResult {
  @ApiProperty({ description: 'to whom; empty: nobody was named' }) person: string;
  @ApiProperty({ description: 'frames of it that lie there still, and were not brought anew since' })
  there: number;
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

const LONGEST_FOLDER = 80;

export class HandoffPlaceDto implements HandoffPlace {
  @ApiProperty() @IsString() @MaxLength(40) volumeId: string;
  @ApiPropertyOptional({ description: 'in the folder of the shoot; missing: the one for selects' })
  @IsOptional()
  @IsString()
  @MaxLength(LONGEST_FOLDER)
  folder?: string;
}

const HANDOFF_PARTS = ['all', 'new'] as const;

export class StartHandoffDto extends HandoffPlaceDto {
  @ApiPropertyOptional({ enum: HANDOFF_PARTS, description: 'new: what is not there yet, or changed since' })
  @IsOptional()
  @IsIn(HANDOFF_PARTS)
  part?: HandoffAsked['part'];
  @ApiPropertyOptional({ description: 'to whom' }) @IsOptional() @IsString() @MaxLength(120) person?: string;
}

@ApiTags('handoff')
@Controller('api/shoots/:id/handoffs')
export class HandoffController {
  constructor(
    private readonly handoff: HandoffService,
    private readonly copies: CopiesWatch,
    private readonly takingBack: TakeBackHandler,
  ) {}

  /** What a hand-off would do, before it does it. */
  @Get('plan')
  @ApiOkResponse({ type: HandoffPlanDto })
  plan(@Param('id') id: string, @Query() place: HandoffPlaceDto): Promise<HandoffPlanDto> {
    return this.handoff.plan(id, place);
  }

  @Get()
  @ApiOkResponse({ type: [HandoffDto] })
  list(@Param('id') id: string): Promise<HandoffDto[]> {
    return this.handoff.list(id);
  }

  @Post()
  @ApiCreatedResponse({ type: StartedJobDto })
  start(@Param('id') id: string, @Body() body: StartHandoffDto): Promise<StartedJobDto> {
    const { part = 'all', person = '', ...place } = body;
    return this.handoff.start(id, { ...place, part, person: person.trim() });
  }

  /** What editors wrote into the copies, and was taken in. */
  @Get('heard')
  @ApiOkResponse({ type: HeardFromEditingDto })
  heard(@Param('id') id: string): Promise<HeardFromEditingDto> {
    return this.copies.heard(id);
  }

  /** Takes copies of what is no keeper any more, or is called otherwise now, into their drive's bin. */
  @Post('take-back')
  @ApiCreatedResponse({ type: StartedJobDto })
  takeBack(@Param('id') id: string, @Body() place: HandoffPlaceDto): Promise<StartedJobDto> {
    return this.takingBack.start(id, place);
  }
}
