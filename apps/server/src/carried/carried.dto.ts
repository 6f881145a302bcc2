import { ApiProperty } from '@nestjs/swagger';
import type { Carried, CarriedShoot } from './carried.service';
import type { CarryResult, ShownBoth } from './carry.handler';
import type { NamedThere, OutThere } from './changedThere';

export class CarriedShootDto implements CarriedShoot {
  @ApiProperty() id: string;
  @ApiProperty() title: string;
  @ApiProperty({ description: 'YYYY-MM-DD' }) date: string;
  @ApiProperty() frames: number;
  @ApiProperty({ description: 'it is here already: what was decided elsewhere comes to it' }) known: boolean;
}

export class CarriedDto implements Carried {
  @ApiProperty() volumeId: string;
  @ApiProperty({ description: 'the drive’s name' }) volume: string;
  @ApiProperty({ description: 'name of the archive that left it there' }) archive: string;
  @ApiProperty({ type: [CarriedShootDto] }) shoots: CarriedShootDto[];
  @ApiProperty({ type: String, nullable: true, description: 'the job that takes them in' })
  jobId: string | null;
}

export class BothSidesDto implements ShownBoth {
  @ApiProperty() shootId: string;
  @ApiProperty({ description: 'id of the frame' }) subject: string;
  @ApiProperty({ description: 'of the frame' }) name: string;
  @ApiProperty({ description: 'which mark' }) kind: string;
  @ApiProperty({ type: Object }) here: unknown;
  @ApiProperty({ type: Object }) there: unknown;
  @ApiProperty({ enum: ['here', 'there'] }) stands: 'here' | 'there';
}

export class NamedThereDto implements NamedThere {
  @ApiProperty() id: string;
  @ApiProperty() shootId: string;
  @ApiProperty({ description: 'what it is called here' }) here: string;
  @ApiProperty({ description: 'what it was called there' }) name: string;
  @ApiProperty() folder: string;
  @ApiProperty() place: string;
}

export class OutThereDto implements OutThere {
  @ApiProperty() id: string;
  @ApiProperty() shootId: string;
  @ApiProperty() name: string;
}

export class FollowedDto {
  @ApiProperty({ type: [String] }) jobIds: string[];
  @ApiProperty({ description: 'frames that stay, as another one has their name' }) stay: number;
}

export class CarryResultDto implements CarryResult {
  @ApiProperty() shoots: number;
  @ApiProperty({ description: 'that were not here' }) frames: number;
  @ApiProperty({ description: 'that were not known here' }) decisions: number;
  @ApiProperty({ description: 'files that are not where they were' }) missing: number;
  @ApiProperty({ type: [BothSidesDto], description: 'what was decided on both sides' }) both: BothSidesDto[];
  @ApiProperty({
    type: [NamedThereDto],
    description: 'frames that were given other names there, and have theirs here still',
  })
  named: NamedThereDto[];
  @ApiProperty({
    type: [OutThereDto],
    description: 'frames that were binned or forgotten there, and are here still',
  })
  out: OutThereDto[];
  @ApiProperty({ type: String, nullable: true }) reason: string | null;
}
