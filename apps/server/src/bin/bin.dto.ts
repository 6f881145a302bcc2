import { ApiProperty, ApiPropertyOptional } from '@nestjs/swagger';
import {
  ArrayMaxSize,
  IsArray,
  IsBoolean,
  IsIn,
  IsInt,
  IsOptional,
  IsString,
  Length,
  Max,
  Min,
} from 'class-validator';
import { TouchedDto } from '../moves/moves.dto';
import type { BinDue, BinPlan, BinRequest, BinTime } from './bin.service';

const DEEDS = ['bin', 'forget', 'delete'] as const;

export class BinRequestDto implements BinRequest {
  @ApiProperty({ enum: DEEDS }) @IsIn(DEEDS) deed: BinRequest['deed'];
  @ApiProperty() @IsString() @Length(26, 26) shootId: string;
  @ApiPropertyOptional({ type: [String], description: 'these; otherwise the rejects by the studio’s rules' })
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(200_000)
  @IsString({ each: true })
  frameIds?: string[];
  @ApiPropertyOptional({ description: 'those that are undecided by the studio’s rules too' })
  @IsOptional()
  @IsBoolean()
  undecided?: boolean;
  @ApiPropertyOptional({ description: 'delete: how many frames, typed by whoever asks for it' })
  @IsOptional()
  @IsInt()
  typed?: number;
}

export class BinPlanDto extends TouchedDto implements BinPlan {
  @ApiProperty() frames: number;
  @ApiProperty() files: number;
}

export class BringBackDto {
  @ApiProperty() @IsString() @Length(26, 26) binId: string;
  @ApiPropertyOptional({ type: [String], description: 'these; otherwise all of that time' })
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(200_000)
  @IsString({ each: true })
  frameIds?: string[];
}

export class EmptyBinDto {
  @ApiPropertyOptional({ type: [String], description: 'these times; otherwise all that are old enough' })
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(10_000)
  @IsString({ each: true })
  binIds?: string[];
  @ApiPropertyOptional({ description: 'days that it has lain there at least; 0: everything' })
  @IsOptional()
  @IsInt()
  @Min(0)
  @Max(36_500)
  olderThanDays?: number;
  @ApiProperty({ description: 'how many frames, typed by whoever asks for it' }) @IsInt() typed: number;
}

export class BinTimeDto implements BinTime {
  @ApiProperty() id: string;
  @ApiProperty({ enum: ['bin', 'forget'] }) deed: BinTime['deed'];
  @ApiProperty() shootId: string;
  @ApiProperty({ description: 'title' }) shoot: string;
  @ApiProperty({ description: 'ms since 1970' }) at: number;
  @ApiProperty() frames: number;
  @ApiProperty() files: number;
  @ApiProperty({ description: 'of one copy of each file' }) bytes: number;
  @ApiProperty({ type: [String], description: 'names of the drives that hold any of it' }) volumes: string[];
  @ApiProperty({ description: 'copies on drives that are away, which go into the bin when these return' })
  waiting: number;
  @ApiProperty({ type: [String], description: 'keys of a few of its pictures' }) pictures: string[];
}

export class BinDueDto implements BinDue {
  @ApiProperty({ description: 'name of the drive' }) volume: string;
  @ApiProperty({ enum: ['bin', 'back', 'delete'] }) deed: BinDue['deed'];
  @ApiProperty() files: number;
}

export class BinDto {
  @ApiProperty({ type: [BinTimeDto], description: 'the newest first' }) times: BinTimeDto[];
  @ApiProperty({ type: [BinDueDto], description: 'what drives that are away have still to do' })
  due: BinDueDto[];
}

export class StartedBinDto {
  @ApiProperty() jobId: string;
}
