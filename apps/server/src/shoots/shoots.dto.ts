import { ApiProperty, ApiPropertyOptional } from '@nestjs/swagger';
import { Transform, Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayUnique,
  IsArray,
  IsBoolean,
  IsIn,
  IsInt,
  IsOptional,
  IsString,
  Matches,
  Max,
  MaxLength,
  Min,
  MinLength,
  ValidateNested,
} from 'class-validator';
import { MAX_CORRECTION, type ClockCorrection, type SequenceScope } from '@arkiv/core';
import { SCOPES } from '../settings/plans.dto';
import {
  MOST_LEADS,
  type ShootGroup,
  type ShootMonth,
  type ShootsAsked,
  type ShootSummary,
  type ShootTotals,
  type SkimmedFrame,
} from './shoots.service';

export class ShootDto {
  @ApiProperty() id: string;
  @ApiProperty() title: string;
  @ApiProperty({ description: 'YYYY-MM-DD' }) date: string;
  @ApiProperty() client: string;
  @ApiProperty() place: string;
  @ApiProperty({ type: [String] }) folders: string[];
  @ApiProperty() frames: number;
  @ApiProperty() keepers: number;
  @ApiProperty() rejects: number;
  @ApiProperty() files: number;
  @ApiProperty({
    description: 'files with fewer verified copies on distinct drives than the studio asks for',
  })
  missingCopies: number;
  @ApiProperty({ description: 'finished hand-offs' }) handoffs: number;
  @ApiProperty({ description: 'finished deliveries' }) deliveries: number;
  @ApiProperty({ type: [String] }) leads: string[];
  @ApiProperty({ type: [Number], description: 'keepers at each of the studio’s stages, in their order' })
  stages: number[];
  @ApiProperty({ type: [String], description: 'ids of the frames that were chosen to stand for it' })
  chosenLeads: string[];
  @ApiProperty({ type: [String], description: 'ids of the frames that were chosen to stand for its folders' })
  folderLeads: string[];
  @ApiProperty() createdAt: number;
  @ApiProperty({ description: 'name pattern' }) pattern: string;
  @ApiProperty({ description: 'pattern of its folders' }) folderPath: string;
  @ApiProperty({ description: 'pattern of a folder inside the originals' }) below: string;
  @ApiProperty({ description: 'name of the folder that its originals lie in' }) originals: string;
  @ApiProperty({ description: 'name of the folder for copies that go to editing' }) selects: string;
  @ApiProperty({
    description:
      'name of the folder in which edits come back; of a shoot that lies in an adopted folder: its path below each drive',
  })
  edits: string;
  @ApiProperty({ description: 'name of the folder that rejects are set aside into' }) rejectsFolder: string;
  @ApiProperty({ description: 'where {number} carries on' }) nextSeq: number;
  @ApiProperty({ enum: SCOPES }) seqBy: SequenceScope;
  @ApiProperty({ description: 'minutes east of UTC' }) zoneMinutes: number;

  @ApiProperty({ type: String, nullable: true, description: 'the shoot that it was merged into' })
  mergedInto: string | null;
  @ApiProperty({
    type: String,
    nullable: true,
    description: 'the folder that holds what is said of it, where its own are not the archive’s',
  })
  keptIn: string | null;
  @ApiProperty({ description: 'whether sidecars are written beside its pictures' }) sidecars: boolean;

  static of({ shoot, ...counted }: ShootSummary): ShootDto {
    const { id, title, date, client, place, folders, createdAt, pattern, nextSeq, seqBy, zoneMinutes, plan } =
      shoot;
    const kept = { id, title, date, client, place, folders, createdAt, pattern, nextSeq, seqBy, zoneMinutes };
    return {
      ...kept,
      mergedInto: shoot.mergedInto,
      keptIn: shoot.keptIn,
      sidecars: shoot.sidecars,
      chosenLeads: shoot.chosenLeads ?? [],
      folderLeads: shoot.folderLeads ?? [],
      frames: shoot.frames,
      keepers: shoot.keepers,
      rejects: shoot.rejects,
      files: shoot.files,
      missingCopies: shoot.missingCopies,
      folderPath: plan.path,
      below: plan.below ?? '',
      originals: plan.originals,
      selects: plan.selects,
      edits:
        shoot.keptIn !== null && shoot.workFolder !== null ? `${shoot.workFolder}/${plan.edits}` : plan.edits,
      rejectsFolder: plan.rejects,
      ...counted,
    };
  }
}

export class ClockCorrectionDto implements ClockCorrection {
  @ApiProperty({ description: 'make · model · serial' })
  @IsString()
  @MinLength(1)
  @MaxLength(300)
  body: string;
  @ApiProperty({ description: 'milliseconds that are added to its times' })
  @IsInt()
  @Min(-MAX_CORRECTION)
  @Max(MAX_CORRECTION)
  millis: number;
}

/** Bodies on one card: more than any crew shares one card between. */
export const MAX_BODIES = 50;

export class CorrectClocksDto {
  @ApiProperty({ type: [ClockCorrectionDto] })
  @IsArray()
  @ArrayMaxSize(MAX_BODIES)
  @ArrayUnique((correction: ClockCorrectionDto) => correction.body)
  @ValidateNested({ each: true })
  @Type(() => ClockCorrectionDto)
  corrections: ClockCorrectionDto[];
}

export class ShootsAskedDto implements ShootsAsked {
  @ApiPropertyOptional({ description: 'only those that come after this one in the list' })
  @IsOptional()
  @IsString()
  @MaxLength(40)
  before?: string;
  @ApiPropertyOptional({ description: 'words that must all stand in title, client, place or date' })
  @IsOptional()
  @IsString()
  @MaxLength(200)
  find?: string;
  @ApiPropertyOptional({ description: 'those whose date is nearest come first, YYYY-MM-DD' })
  @IsOptional()
  @Matches(/^\d{4}-\d{2}-\d{2}$/)
  near?: string;
  @ApiPropertyOptional({ description: 'only those with a step still to do, the oldest first' })
  @IsOptional()
  @Transform(({ value }) => value === true || value === 'true')
  @IsBoolean()
  open?: boolean;
  @ApiPropertyOptional({ description: 'only those of a year, YYYY' })
  @IsOptional()
  @Matches(/^\d{4}$/)
  year?: string;
  @ApiPropertyOptional({ description: 'only those of this client; empty: of those that name none' })
  @IsOptional()
  @IsString()
  @MaxLength(120)
  client?: string;
  @ApiPropertyOptional({ description: 'only those at this place; empty: of those that name none' })
  @IsOptional()
  @IsString()
  @MaxLength(120)
  place?: string;
}

export class ShootGroupsAskedDto {
  @ApiProperty({ enum: ['client', 'place'] }) @IsIn(['client', 'place']) by: 'client' | 'place';
}

export class ShootGroupDto implements ShootGroup {
  @ApiProperty({ description: 'empty: of those that name none' }) name: string;
  @ApiProperty() shoots: number;
  @ApiProperty() frames: number;
  @ApiProperty({ description: 'YYYY-MM-DD' }) first: string;
  @ApiProperty({ description: 'YYYY-MM-DD' }) last: string;
}

export class SkimmedFrameDto implements SkimmedFrame {
  @ApiProperty() id: string;
  @ApiProperty() name: string;
  @ApiProperty({ type: String, nullable: true, description: 'corrected wall clock' }) time: string | null;
  @ApiProperty({ description: 'key of the picture that shows it' }) picture: string;
}

export class ChooseLeadsDto {
  @ApiProperty({ type: [String], description: 'none: Arkiv chooses' })
  @IsArray()
  @ArrayMaxSize(MOST_LEADS)
  @IsString({ each: true })
  @MaxLength(40, { each: true })
  frameIds: string[];
}

/** Folders of a shoot that have a lead: more than a shoot has, and a body that is read at once. */
const MOST_FOLDERS = 1000;

export class FolderLeadsDto {
  @ApiProperty({ type: [String], description: 'each stands for the folder that it lies in' })
  @IsArray()
  @ArrayMaxSize(MOST_FOLDERS)
  @IsString({ each: true })
  @MaxLength(40, { each: true })
  frameIds: string[];
}

export class ShootMonthDto implements ShootMonth {
  @ApiProperty({ description: 'YYYY-MM' }) month: string;
  @ApiProperty() shoots: number;
  @ApiProperty() frames: number;
}

export class ShootTotalsDto implements ShootTotals {
  @ApiProperty() shoots: number;
  @ApiProperty() frames: number;
  @ApiProperty() missingCopies: number;
  @ApiProperty({ type: [ShootMonthDto], description: 'the oldest first' }) months: ShootMonthDto[];
}

/** Frames asked for at once by their ids: their address stays under the 8 kB that servers take. */
export const MOST_ASKED = 200;

export class ShootFramesAskedDto {
  @ApiPropertyOptional({ description: 'ids, with commas between: only those of them that are here' })
  @IsOptional()
  @Transform(({ value }) => (typeof value === 'string' ? value.split(',') : value))
  @IsArray()
  @ArrayMaxSize(MOST_ASKED)
  @IsString({ each: true })
  @MaxLength(40, { each: true })
  only?: string[];
}

/** The values of one column, a row each. */
const COLUMN = {
  type: 'array',
  items: { oneOf: [{ type: 'string' }, { type: 'number' }], nullable: true },
};

export class FrameColumnsDto {
  @ApiProperty() revision: number;
  @ApiProperty() count: number;
  // The decorator's type asks for a reference and a schema in one.
  @ApiProperty({ type: 'object', additionalProperties: COLUMN as never })
  columns: Record<string, (string | number | null)[]>;
}
