import { ApiProperty } from '@nestjs/swagger';
import { Transform } from 'class-transformer';
import { IsString, Length } from 'class-validator';
import { PlacedFrameDto } from '../frames/placedFrame.dto';
import type { ShownPile } from '../marks/pileStore';

export class PileNameDto {
  @ApiProperty({ minLength: 1, maxLength: 60 })
  @Transform(({ value }: { value: unknown }) => (typeof value === 'string' ? value.trim() : value))
  @IsString()
  @Length(1, 60)
  name: string;
}

export class PileDto implements ShownPile {
  @ApiProperty() id: string;
  @ApiProperty() name: string;
  @ApiProperty({ type: Number, nullable: true, description: '1…9: the digit that chooses it' })
  number: number | null;
  @ApiProperty({ description: 'frames in it, over all shoots' }) frames: number;
}

export class PiledFramesDto extends PileDto {
  @ApiProperty({ type: [PlacedFrameDto], description: 'shoot by shoot, the newest first; in order of time' })
  shown: PlacedFrameDto[];
}

export class EmptiedPileDto {
  @ApiProperty({ description: 'frames that were taken out' }) frames: number;
  @ApiProperty({ description: 'the group of the journal that takes it back, shoot by shoot' }) group: string;
}
