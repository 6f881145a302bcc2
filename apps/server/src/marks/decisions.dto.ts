import { ApiProperty, ApiPropertyOptional } from '@nestjs/swagger';
import { Type } from 'class-transformer';
import { IsIn, IsInt, IsOptional, IsString, Length, Min } from 'class-validator';
import type { MarkKind, MarkValue } from '@arkiv/core';
import { PlacedFrameDto } from '../frames/placedFrame.dto';
import type { Decision, DecisionsAsked, Said, Whose } from './decisions.service';
import { VALUE } from './marks.dto';

const WHOSE = ['studio', 'others'] as const;
const TURNS = ['back', 'again'] as const;

export class DecidedStepsAskedDto implements DecisionsAsked {
  @ApiPropertyOptional({ description: 'number of the last decision of the page before' })
  @IsOptional()
  @Type(() => Number)
  @IsInt()
  @Min(0)
  before?: number;
  @ApiPropertyOptional({ description: 'number from which on all are asked for' })
  @IsOptional()
  @Type(() => Number)
  @IsInt()
  @Min(0)
  from?: number;
  @ApiPropertyOptional({ enum: WHOSE, description: 'others: programs and clients' })
  @IsOptional()
  @IsIn(WHOSE)
  whose?: Whose;
  @ApiPropertyOptional({ description: 'of one frame alone' })
  @IsOptional()
  @IsString()
  @Length(26, 26)
  frame?: string;
}

export class SaidDto implements Said {
  @ApiProperty({ type: String }) kind: MarkKind;
  @ApiProperty() frames: number;
  @ApiPropertyOptional({ ...VALUE, description: 'missing: it was set to several values' }) to:
    MarkValue | undefined;
  @ApiProperty({ type: String, nullable: true, description: 'what the pile or album is called' }) name:
    string | null;
}

export class DecidedStepDto implements Decision {
  @ApiProperty() id: string;
  @ApiProperty() number: number;
  @ApiProperty({ description: 'milliseconds since 1970 UTC' }) at: number;
  @ApiProperty({ description: 'who; empty: the studio' }) by: string;
  @ApiProperty() window: string;
  @ApiProperty() frames: number;
  @ApiProperty({ type: [SaidDto] }) said: SaidDto[];
  @ApiProperty({ description: 'kinds of marks that are not named' }) more: number;
  @ApiProperty({ type: [PlacedFrameDto], description: 'some of its frames' }) shown: PlacedFrameDto[];
  @ApiProperty() isUndone: boolean;
  @ApiProperty({ type: Number, nullable: true, description: 'when it was taken back or done again last' })
  turnedAt: number | null;
  @ApiProperty({ description: 'false: it is taken back elsewhere' }) canTurn: boolean;
}

export class DecidedStepsDto {
  @ApiProperty({ type: [DecidedStepDto], description: 'the newest first' }) decisions: DecidedStepDto[];
  @ApiProperty() more: boolean;
}

export class TurnDto {
  @ApiProperty({ enum: TURNS }) @IsIn(TURNS) to: (typeof TURNS)[number];
}

export class TurnedDto {
  @ApiProperty({ description: 'marks that were changed' }) marks: number;
  @ApiProperty({ description: 'marks that were changed since, and stay' }) skipped: number;
}
