import { Body, Controller, Get, HttpCode, Post, Query } from '@nestjs/common';
import {
  ApiCreatedResponse,
  ApiOkResponse,
  ApiProperty,
  ApiPropertyOptional,
  ApiTags,
} from '@nestjs/swagger';
import { ArrayMaxSize, ArrayMinSize, IsArray, IsOptional, IsString, Length, Matches } from 'class-validator';
import { PlacedFrameDto } from '../frames/placedFrame.dto';
import {
  DuplicatesService,
  type Duplicate,
  type DuplicateFrame,
  type Duplicates,
} from './duplicates.service';
import type { UsedFrame } from './usedFrames.service';
import {
  VariantsService,
  type VariantFrame,
  type VariantGroup,
  type Variants,
  type VariantsOfShoot,
} from './variants.service';

export class DuplicatesAskedDto {
  @ApiPropertyOptional({ description: 'where the last page ended' })
  @IsOptional()
  @Matches(/^[0-9a-f]{64}$/)
  after?: string;
}

class UsedFrameDto extends PlacedFrameDto implements UsedFrame {
  @ApiProperty({ type: String, nullable: true }) note: string | null;
  @ApiProperty({ type: [String], description: 'ids of the piles that it is in' }) piles: string[];
  @ApiProperty({ description: 'hand-offs that it was in' }) handedOff: number;
  @ApiProperty({ description: 'deliveries that it was in' }) delivered: number;
  @ApiProperty() files: number;
  @ApiProperty({ description: 'of all copies of its files, on all drives' }) bytes: number;
}

export class DuplicateFrameDto extends UsedFrameDto implements DuplicateFrame {
  @ApiProperty({ type: [String], description: 'the others that hold all its files as well' })
  within: string[];
}

export class DuplicateDto implements Duplicate {
  @ApiProperty({ description: 'SHA-256 of a file that they share' }) id: string;
  @ApiProperty({ type: [DuplicateFrameDto] }) frames: DuplicateFrameDto[];
}

export class DuplicatesDto implements Duplicates {
  @ApiProperty({ type: [DuplicateDto] }) groups: DuplicateDto[];
  @ApiProperty({ type: String, nullable: true, description: 'what to ask for next; null: that was all' })
  next: string | null;
}

export class OneStaysDto {
  @ApiProperty() @IsString() @Length(26, 26) frameId: string;
  @ApiProperty({ type: [String], description: 'these go into the bin' })
  @IsArray()
  @ArrayMinSize(1)
  // Of one content nobody has more frames.
  @ArrayMaxSize(1000)
  @IsString({ each: true })
  going: string[];
}

export class OneStayedDto {
  @ApiProperty({ type: [String], description: 'one for each shoot' }) jobIds: string[];
}

export class VariantsAskedDto {
  @ApiPropertyOptional({ description: 'where the last page ended' })
  @IsOptional()
  @Matches(/^(t\d{4}-\d\d-\d\dT\d\d:\d\d:\d{5}|p([0-9A-Z]{26})?)$/)
  after?: string;
}

export class VariantFrameDto extends UsedFrameDto implements VariantFrame {
  @ApiProperty({ description: 'as its file was called' }) original: string;
  @ApiProperty({ type: Number, nullable: true, description: 'pixels, before orientation' })
  width: number | null;
  @ApiProperty({ type: Number, nullable: true }) height: number | null;
  @ApiProperty({ type: String, nullable: true, description: 'what was said of its place among takes' })
  take: string | null;
}

export class VariantsOfShootDto implements VariantsOfShoot {
  @ApiProperty() shootId: string;
  @ApiProperty({ type: [String] }) frameIds: string[];
  @ApiProperty({ description: 'somebody has said that they are one take' }) together: boolean;
}

export class VariantGroupDto implements VariantGroup {
  @ApiProperty({ description: 'of the first' }) id: string;
  @ApiProperty({ type: [VariantFrameDto] }) frames: VariantFrameDto[];
  @ApiProperty({ type: [VariantsOfShootDto], description: 'those of one shoot, where it has several' })
  ofShoots: VariantsOfShootDto[];
}

export class VariantsDto implements Variants {
  @ApiProperty({ type: [VariantGroupDto] }) groups: VariantGroupDto[];
  @ApiProperty({ description: 'pictures that are looked at now: what they show is known later' })
  waiting: number;
  @ApiProperty({ type: String, nullable: true, description: 'what to ask for next; null: that was all' })
  next: string | null;
}

export class OneTakeDto {
  @ApiProperty({ type: [String], description: 'the first stands for them' })
  @IsArray()
  @ArrayMinSize(2)
  // Of one picture nobody has more.
  @ArrayMaxSize(1000)
  @IsString({ each: true })
  frameIds: string[];
}

@ApiTags('duplicates')
@Controller('api/duplicates')
export class DuplicatesController {
  constructor(
    private readonly duplicates: DuplicatesService,
    private readonly variantsService: VariantsService,
  ) {}

  /** Frames that hold equal content, anywhere in the archive. */
  @Get()
  @ApiOkResponse({ type: DuplicatesDto })
  page(@Query() { after }: DuplicatesAskedDto): Promise<Duplicates> {
    return this.duplicates.page(after ?? null);
  }

  /** One stays, the others go into the bin; it comes into their piles. Nothing is done where it does not hold all they have. */
  @Post('stays')
  @ApiCreatedResponse({ type: OneStayedDto })
  async stays(@Body() { frameId, going }: OneStaysDto): Promise<OneStayedDto> {
    return { jobIds: await this.duplicates.stays(frameId, going) };
  }

  /** Frames that are one picture processed in several ways, anywhere in the archive. */
  @Get('variants')
  @ApiOkResponse({ type: VariantsDto })
  variants(@Query() { after }: VariantsAskedDto): Promise<Variants> {
    return this.variantsService.page(after ?? null);
  }

  /** All of them stay, as one take of variants; undone as any mark is. */
  @Post('variants/together')
  @HttpCode(204)
  together(@Body() { frameIds }: OneTakeDto): Promise<void> {
    return this.variantsService.together(frameIds);
  }
}
