import { ApiProperty, ApiPropertyOptional } from '@nestjs/swagger';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsEmail,
  IsIn,
  IsInt,
  IsOptional,
  IsString,
  Length,
  Matches,
  Max,
  MaxLength,
  Min,
  ValidateNested,
} from 'class-validator';
import { LONGEST_SUBJECT, LONGEST_TEXT, MESSAGE_KINDS, MOST_BESIDE, type MessageKind } from '@arkiv/core';
import { MESSAGE_STATES, type Attached, type Message, type MessageState } from '../ledger/message.entity';
import { MAIL_SECURITIES, type MailSecurity } from './mailAccount.entity';
import type { MailAccountWish } from './mailAccounts.service';
import type { Written, WrittenOfLink } from './messages.service';

/** Links of one gallery: more people than that are no client any more. */
const MOST_AT_ONCE = 100;

export class MailAccountWishDto implements MailAccountWish {
  @ApiProperty({ description: 'name or address of the mail server' })
  @IsString()
  @Matches(/^[^\s/@:]+$|^[0-9a-fA-F:]+$/, { message: 'host is a name or an address, without a port' })
  @MaxLength(253)
  host: string;
  @ApiProperty() @IsInt() @Min(1) @Max(65535) port: number;
  @ApiProperty({ enum: MAIL_SECURITIES }) @IsIn(MAIL_SECURITIES) security: MailSecurity;
  @ApiProperty({ description: 'empty: it asks for nobody' }) @IsString() @MaxLength(200) user: string;
  @ApiProperty({ description: 'the address that messages come from' }) @IsEmail() from: string;
  @ApiPropertyOptional({ description: 'missing: as it was; empty: none' })
  @IsOptional()
  @IsString()
  @MaxLength(500)
  password?: string;
}

export class MailAccountDto {
  @ApiProperty({ description: 'empty: none is named' }) host: string;
  @ApiProperty() port: number;
  @ApiProperty({ enum: MAIL_SECURITIES }) security: MailSecurity;
  @ApiProperty() user: string;
  @ApiProperty() from: string;
  @ApiProperty({ description: 'a password is kept' }) opens: boolean;
}

export class WrittenDto implements Written {
  @ApiProperty() @IsEmail() to: string;
  @ApiProperty()
  @IsString()
  @Length(1, LONGEST_SUBJECT)
  @Matches(/^[^\r\n]*\S[^\r\n]*$/, { message: 'subject is one line' })
  subject: string;
  @ApiProperty() @IsString() @Length(1, LONGEST_TEXT) @Matches(/\S/) text: string;
}

export class WrittenOfLinkDto extends WrittenDto implements WrittenOfLink {
  @ApiProperty() @Length(26, 26) linkId: string;
}

export class WriteToGalleryDto {
  @ApiProperty({ enum: MESSAGE_KINDS }) @IsIn(MESSAGE_KINDS) kind: MessageKind;
  @ApiProperty({ type: [WrittenOfLinkDto] })
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(MOST_AT_ONCE)
  @ValidateNested({ each: true })
  @Type(() => WrittenOfLinkDto)
  messages: WrittenOfLinkDto[];
}

export class MakePicturesDto {
  @ApiProperty({ type: [String] })
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(MOST_BESIDE)
  @Length(26, 26, { each: true })
  frameIds: string[];
  @ApiProperty({ description: 'name of the output spec' }) @IsString() @MaxLength(80) spec: string;
}

export class WritePicturesDto extends MakePicturesDto {
  @ApiProperty({ type: WrittenDto }) @ValidateNested() @Type(() => WrittenDto) message: WrittenDto;
}

export class MadePictureDto {
  @ApiProperty() frameId: string;
  @ApiProperty({ description: 'of the file' }) name: string;
  @ApiProperty() bytes: number;
}

export class AttachedDto implements Attached {
  @ApiProperty() frameId: string;
  @ApiProperty() from: string;
  @ApiProperty() name: string;
  @ApiProperty() bytes: number;
  @ApiProperty() sha256: string;
}

export class MessageDto implements Message {
  @ApiProperty() id: string;
  @ApiProperty() shootId: string;
  @ApiProperty({ type: String, nullable: true }) galleryId: string | null;
  @ApiProperty({ type: String, nullable: true }) linkId: string | null;
  @ApiProperty({ enum: MESSAGE_KINDS }) kind: MessageKind;
  @ApiProperty() to: string;
  @ApiProperty() subject: string;
  @ApiProperty({ description: 'without pass codes' }) text: string;
  @ApiProperty({ type: [AttachedDto] }) attached: AttachedDto[];
  @ApiProperty({ enum: MESSAGE_STATES }) state: MessageState;
  @ApiProperty({ type: String, nullable: true, description: 'why it went nowhere, and what to do' })
  reason: string | null;
  @ApiProperty({ description: 'when the button was pressed' }) at: number;
  @ApiProperty({ type: Number, nullable: true }) sentAt: number | null;
}
