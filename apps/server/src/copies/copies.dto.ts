import { ApiProperty, ApiPropertyOptional } from '@nestjs/swagger';
import { Transform } from 'class-transformer';
import { IsBoolean, IsOptional, IsString, Length, MaxLength } from 'class-validator';
import type { CopyPlan, KeptOn } from './copies.service';
import type { ReleasePlan } from './release.handler';
import type { CopiesAsked } from './whileMoving';

/** One shoot, one volume, both, or without either the whole archive. */
export class CopiesAskedDto implements CopiesAsked {
  @ApiPropertyOptional() @IsOptional() @IsString() @Length(26, 26) shootId?: string;
  @ApiPropertyOptional() @IsOptional() @IsString() @MaxLength(100) volumeId?: string;
  @ApiPropertyOptional({ description: 'with a shoot: the drive that gets what it does not hold yet' })
  @IsOptional()
  @IsString()
  @MaxLength(100)
  to?: string;
  @ApiPropertyOptional({ description: 'of these the keepers alone' })
  @IsOptional()
  @Transform(({ value }) => value === true || value === 'true')
  @IsBoolean()
  keepers?: boolean;
  @ApiPropertyOptional({
    description: 'previews of frames whose pictures do not go there, to be looked through elsewhere',
  })
  @IsOptional()
  @Transform(({ value }) => value === true || value === 'true')
  @IsBoolean()
  previews?: boolean;
}

export class CopyPlanDto implements CopyPlan {
  @ApiProperty() files: number;
  @ApiProperty({ description: 'bytes' }) bytes: number;
  @ApiProperty({ type: [String], description: 'names of the drives they go to' }) volumes: string[];
  @ApiProperty({ description: 'files that no drive which is here can take' }) nowhere: number;
  @ApiProperty({ description: 'frames of which previews alone go there' }) previews: number;
}

export class KeptOnDto implements KeptOn {
  @ApiProperty() volumeId: string;
  @ApiProperty({ description: 'verified copies' }) files: number;
  @ApiProperty({ description: 'bytes' }) bytes: number;
  @ApiProperty({ description: 'copies found missing, changed or unreadable' }) damaged: number;
  @ApiProperty({
    type: Number,
    nullable: true,
    description: 'when the copy that was not read for longest was read',
  })
  verifiedSince: number | null;
}

export class ReleaseAskedDto {
  @ApiProperty() @IsString() @Length(26, 26) shootId: string;
  @ApiProperty() @IsString() @MaxLength(100) volumeId: string;
  @ApiPropertyOptional({ description: 'all but the keepers, which stay there' })
  @IsOptional()
  @Transform(({ value }) => value === true || value === 'true')
  @IsBoolean()
  butKeepers?: boolean;
}

export class ReleasePlanDto implements ReleasePlan {
  @ApiProperty() files: number;
  @ApiProperty({ description: 'bytes' }) bytes: number;
  @ApiProperty({ description: 'files with too few copies on other drives: they stay' }) stay: number;
  @ApiProperty({ description: 'copies on distinct devices that each file must have elsewhere' })
  required: number;
  @ApiProperty({ type: [String], description: 'names of the drives that hold the others' })
  elsewhere: string[];
}
