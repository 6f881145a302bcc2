import { ApiProperty } from '@nestjs/swagger';
import { IsNotEmpty, IsString, Matches, MaxLength } from 'class-validator';
import type { UploadNow } from './uploads.service';

export class NewUploadDto {
  @ApiProperty() @IsString() @IsNotEmpty() @MaxLength(120) name: string;
}

export class WholeFileDto {
  @ApiProperty({ description: 'of the file as its sender read it, in lower-case hex' })
  @IsString()
  @Matches(/^[0-9a-f]{64}$/)
  sha256: string;
}

export class NamedFileDto {
  @ApiProperty({ description: 'its name in the upload' }) path: string;
}

export class HereFileDto extends NamedFileDto {
  @ApiProperty({ description: 'bytes' }) size: number;
  @ApiProperty() sha256: string;
}

export class ComingFileDto {
  @ApiProperty() id: string;
  @ApiProperty() path: string;
  @ApiProperty({ description: 'bytes' }) size: number;
  @ApiProperty({ description: 'bytes that are here' }) come: number;
}

export class UploadDto implements UploadNow {
  @ApiProperty() id: string;
  @ApiProperty() name: string;
  @ApiProperty({ description: 'when it was begun, milliseconds since 1970 UTC' }) at: number;
  @ApiProperty({
    type: String,
    nullable: true,
    description: 'the reader under which it can be taken in; null: it is coming',
  })
  readerId: string | null;
  @ApiProperty({ description: 'that are whole' }) files: number;
  @ApiProperty({ description: 'of these' }) bytes: number;
  @ApiProperty({ type: [ComingFileDto], description: 'that are not whole' }) coming: ComingFileDto[];
}
