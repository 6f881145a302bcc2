import { ApiProperty } from '@nestjs/swagger';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  ArrayUnique,
  IsArray,
  IsIn,
  IsString,
  Length,
  MaxLength,
  ValidateNested,
} from 'class-validator';
import type { Program } from '../settings/settings.service';
import { MOST_OPENED, type CopyOf, type LyingFile } from './opening.service';

export class LyingFileDto implements LyingFile {
  @ApiProperty() assetId: string;
  @ApiProperty() volumeId: string;
  @ApiProperty({ description: 'the drive’s name' }) volume: string;
  @ApiProperty() online: boolean;
  @ApiProperty() name: string;
  @ApiProperty({ description: 'its place below the drive' }) path: string;
  @ApiProperty({ type: String, nullable: true, description: 'on this computer, for who sits at it' })
  whole: string | null;
}

/** {@link CopyOf} */
export class CopyOfDto implements CopyOf {
  @ApiProperty() id: string;
  @ApiProperty() shootId: string;
  @ApiProperty() name: string;
}

export class LyingFilesDto {
  @ApiProperty({ description: 'who asks sits at the computer on which Arkiv runs' }) here: boolean;
  @ApiProperty({ type: [LyingFileDto] }) files: LyingFileDto[];
  @ApiProperty({ type: CopyOfDto, nullable: true, description: 'the frame that it is a copy of' })
  copyOf: CopyOfDto | null;
}

export class ShowFolderDto {
  @ApiProperty() @IsString() @Length(26, 26) assetId: string;
  @ApiProperty() @IsString() @Length(26, 26) volumeId: string;
}

export class OpenFramesDto {
  @ApiProperty({ type: [String] })
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(MOST_OPENED)
  @IsString({ each: true })
  @Length(26, 26, { each: true })
  frameIds: string[];
  @ApiProperty({ description: 'name of the program' }) @IsString() @Length(1, 60) program: string;
}

export class OpenCopiesDto extends OpenFramesDto {
  @ApiProperty({ description: 'the drive that they were handed to' })
  @IsString()
  @Length(26, 26)
  volumeId: string;
}

export class OpenedDto {
  @ApiProperty() files: number;
}

export class ProgramDto implements Program {
  @ApiProperty() @IsString() @Length(1, 60) name: string;
  @ApiProperty({ description: 'path of the program, or its name where the system finds it' })
  @IsString()
  @Length(1, 1000)
  command: string;
  @ApiProperty({
    type: [String],
    description: '{files} among them stands for the files; else they come last',
  })
  @IsArray()
  @ArrayMaxSize(50)
  @IsString({ each: true })
  @MaxLength(1000, { each: true })
  args: string[];
  @ApiProperty({ enum: ['raw', 'picture'], description: 'which file of a frame it gets, where it has both' })
  @IsIn(['raw', 'picture'])
  takes: 'raw' | 'picture';
}

/** Programs in one list: a menu. */
const MOST_PROGRAMS = 20;

export class ProgramsDto {
  @ApiProperty({ type: [ProgramDto] })
  @IsArray()
  @ArrayMaxSize(MOST_PROGRAMS)
  @ArrayUnique((program: ProgramDto) => program.name)
  @ValidateNested({ each: true })
  @Type(() => ProgramDto)
  programs: ProgramDto[];
}
