import { ApiProperty, ApiPropertyOptional } from '@nestjs/swagger';
import { Type } from 'class-transformer';
import {
  IsBoolean,
  IsDefined,
  IsEmail,
  IsInt,
  IsOptional,
  IsString,
  Length,
  Matches,
  Max,
  MaxLength,
  Min,
  ValidateIf,
  ValidateNested,
} from 'class-validator';
import { LONGEST_GUEST, MARK_KIND, MOST_CHOSEN, type GuestRights, type MarkKind } from '@arkiv/core';
import type { Becomes } from '../ledger/gallery.entity';
import type {
  ChoosingGallery,
  ClientRemark,
  GalleryChange,
  GalleryRequest,
  NewLink,
} from './galleries.service';
import { SIDES, USUAL_SIDE } from './galleryLook';

const LONGEST_LINE = 1000;
/** Characters of what is said to a client above the pictures. */
const LONGEST_WORDS = 600;

export class GuestRightsDto implements GuestRights {
  @ApiProperty() @IsBoolean() choose: boolean;
  @ApiProperty() @IsBoolean() remark: boolean;
  @ApiProperty() @IsBoolean() download: boolean;
}

export class BecomesDto implements Becomes {
  @ApiProperty({ type: String, description: '`pile`: one of its own; else the kind of a mark' })
  @IsString()
  @MaxLength(60)
  @Matches(MARK_KIND)
  kind: MarkKind;
  @ApiProperty({ description: 'its value', type: Object })
  @IsDefined()
  value: Becomes['value'];
}

export class MakeGalleryDto {
  @ApiProperty() @IsString() @Matches(/\S/) @MaxLength(80) title: string;
  @ApiPropertyOptional() @IsOptional() @IsString() @MaxLength(LONGEST_WORDS) words?: string;
  @ApiPropertyOptional({ description: 'which of the keepers: a line of words and facts; missing: all' })
  @IsOptional()
  @IsString()
  @MaxLength(LONGEST_LINE)
  line?: string;
  @ApiPropertyOptional({ description: 'long side of the largest pictures, pixels' })
  @IsOptional()
  @IsInt()
  @Min(SIDES[0])
  @Max(SIDES[1])
  side?: number;
  @ApiPropertyOptional({
    description: 'name of the output spec whose watermark its pictures bear; missing: none',
  })
  @IsOptional()
  @IsString()
  @MaxLength(80)
  watermarkOf?: string;
  @ApiPropertyOptional({ description: 'the set whose files may be taken along; missing: none' })
  @IsOptional()
  @Length(26, 26)
  deliveryId?: string;
  @ApiPropertyOptional({ description: 'how many are to be chosen, 0: any number; missing: nothing is' })
  @IsOptional()
  @IsInt()
  @Min(0)
  @Max(MOST_CHOSEN)
  most?: number;
  @ApiPropertyOptional({ description: 'chosen frames go into a pile of its own' })
  @IsOptional()
  @IsBoolean()
  ownPile?: boolean;
  @ApiPropertyOptional({ type: BecomesDto, description: 'what chosen frames become instead' })
  @IsOptional()
  @ValidateNested()
  @Type(() => BecomesDto)
  becomes?: BecomesDto;
  @ApiPropertyOptional({
    description: 'until when it is open, milliseconds since 1970 UTC; missing: until it is closed',
  })
  @IsOptional()
  @IsInt()
  until?: number;
  @ApiProperty({ description: 'whether its address asks for a pass code' }) @IsBoolean() withCode: boolean;
  @ApiProperty({ type: GuestRightsDto, description: 'of whoever comes by its own address' })
  @ValidateNested()
  @Type(() => GuestRightsDto)
  rights: GuestRightsDto;
}

export class ChangeGalleryDto {
  @ApiPropertyOptional() @IsOptional() @IsString() @Matches(/\S/) @MaxLength(80) title?: string;
  @ApiPropertyOptional() @IsOptional() @IsString() @MaxLength(LONGEST_WORDS) words?: string;
  @ApiPropertyOptional({ type: String, nullable: true })
  @ValidateIf((_, value) => value !== null && value !== undefined)
  @Length(26, 26)
  deliveryId?: string | null;
  @ApiPropertyOptional({ type: Number, nullable: true })
  @ValidateIf((_, value) => value !== null && value !== undefined)
  @IsInt()
  @Min(0)
  @Max(MOST_CHOSEN)
  most?: number | null;
  @ApiPropertyOptional({ type: Number, nullable: true })
  @ValidateIf((_, value) => value !== null && value !== undefined)
  @IsInt()
  until?: number | null;
}

export class AddGalleryLinkDto {
  @ApiProperty({ description: 'whom it is for' }) @IsString() @Length(1, LONGEST_GUEST) name: string;
  @ApiPropertyOptional()
  @ValidateIf((_, value) => value !== undefined && value !== '')
  @IsEmail()
  email?: string;
  @ApiProperty() @IsBoolean() withCode: boolean;
  @ApiProperty({ type: GuestRightsDto }) @ValidateNested() @Type(() => GuestRightsDto) rights: GuestRightsDto;
}

export class GalleryMadeDto {
  @ApiProperty() id: string;
  @ApiProperty() jobId: string;
}

export class GalleryLinkDto {
  @ApiProperty() id: string;
  @ApiProperty({ description: 'whom it is for; empty: everybody of the client' }) name: string;
  @ApiProperty() email: string;
  @ApiProperty({ type: GuestRightsDto }) rights: GuestRightsDto;
  @ApiProperty({ type: String, nullable: true, description: 'null: the key that it was kept under is lost' })
  address: string | null;
  @ApiProperty({ type: String, nullable: true, description: 'null: it asks for none' }) code: string | null;
  @ApiProperty({ type: Number, nullable: true, description: 'it opens nothing any more since then' })
  revokedAt: number | null;
}

export class GalleryGuestDto {
  @ApiProperty() id: string;
  @ApiProperty() linkId: string;
  @ApiProperty() name: string;
  @ApiProperty({ description: 'when they last came in' }) openedAt: number;
  @ApiProperty() favourites: number;
  @ApiProperty() chosen: number;
  @ApiProperty() remarks: number;
  @ApiProperty({ description: 'files that they took along' }) taken: number;
}

export class GalleryChosenDto {
  @ApiProperty() frameId: string;
  @ApiProperty() name: string;
  @ApiProperty({ type: String, nullable: true }) picture: string | null;
  @ApiProperty({ description: 'who chose it' }) by: string;
  @ApiProperty() at: number;
}

export class GalleryRemarkDto {
  @ApiProperty() id: number;
  @ApiProperty() frameId: string;
  @ApiProperty() name: string;
  @ApiProperty({ type: String, nullable: true }) picture: string | null;
  @ApiProperty() text: string;
  @ApiProperty({ type: Number, nullable: true, description: 'where in the picture, 0 … 1 from its left' })
  x: number | null;
  @ApiProperty({ type: Number, nullable: true }) y: number | null;
  @ApiProperty() by: string;
  @ApiProperty() at: number;
}

export class ClientRemarkDto implements ClientRemark {
  @ApiProperty() frameId: string;
  @ApiProperty() text: string;
  @ApiProperty() by: string;
  @ApiProperty() at: number;
}

export class GallerySentDto {
  @ApiProperty() by: string;
  @ApiProperty() at: number;
}

export class ChoosingGalleryDto implements ChoosingGallery {
  @ApiProperty() id: string;
  @ApiProperty() shootId: string;
  @ApiProperty() title: string;
  @ApiProperty({ type: Number, nullable: true }) until: number | null;
  @ApiProperty({ description: 'how many are to be chosen; 0: any number' }) most: number;
  @ApiProperty() chosen: number;
  @ApiProperty({ type: GallerySentDto, nullable: true }) sent: GallerySentDto | null;
}

export class GalleryOtherDto {
  @ApiProperty({ description: 'frames that would come or look otherwise' }) fresh: number;
  @ApiProperty({ description: 'frames that would go' }) gone: number;
}

export class GalleryDto {
  @ApiProperty() id: string;
  @ApiProperty() shootId: string;
  @ApiProperty() title: string;
  @ApiProperty() words: string;
  @ApiProperty() line: string;
  @ApiProperty({ description: 'long side of the largest pictures, pixels' }) side: number;
  @ApiProperty({ description: 'words of the watermark; empty: there is none' }) watermark: string;
  @ApiProperty({ type: String, nullable: true }) deliveryId: string | null;
  @ApiProperty({ type: Number, nullable: true }) most: number | null;
  @ApiProperty({ type: BecomesDto, nullable: true }) becomes: BecomesDto | null;
  @ApiProperty({ type: Number, nullable: true }) until: number | null;
  @ApiProperty() at: number;
  @ApiProperty() jobId: string;
  @ApiProperty({ type: Number, nullable: true }) madeAt: number | null;
  @ApiProperty({ type: Number, nullable: true }) closedAt: number | null;
  @ApiProperty({ description: 'pictures it shows' }) frames: number;
  @ApiProperty({ description: 'of these, those that are made' }) made: number;
  @ApiProperty({ type: GalleryOtherDto, nullable: true, description: 'null: that cannot be told' })
  other: GalleryOtherDto | null;
  @ApiProperty({ type: [GalleryLinkDto] }) links: GalleryLinkDto[];
  @ApiProperty({ type: [GalleryGuestDto] }) guests: GalleryGuestDto[];
  @ApiProperty({ type: [GalleryChosenDto] }) chosen: GalleryChosenDto[];
  @ApiProperty({ type: [GalleryRemarkDto] }) remarks: GalleryRemarkDto[];
  @ApiProperty({
    type: GallerySentDto,
    nullable: true,
    description: 'who said that the choice is made, and when',
  })
  sent: GallerySentDto | null;
}

export class GalleryPlaceDto {
  @ApiProperty({ description: 'where galleries are found' }) address: string;
  @ApiProperty({ description: 'whether others than this computer reach it' }) open: boolean;
  @ApiProperty({ type: String, nullable: true, description: 'why they are not served; null: they are' })
  problem: string | null;
}

export const requestOf = (body: MakeGalleryDto): GalleryRequest => ({
  ...{ title: body.title.trim(), words: body.words?.trim() ?? '', line: body.line?.trim() ?? '' },
  ...{
    side: body.side ?? USUAL_SIDE,
    watermarkOf: body.watermarkOf ?? null,
    deliveryId: body.deliveryId ?? null,
  },
  ...{ most: body.most ?? null, becomes: body.ownPile ? 'pile' : (body.becomes ?? null) },
  ...{ until: body.until ?? null, withCode: body.withCode, rights: body.rights },
});

export const changeOf = (body: ChangeGalleryDto): GalleryChange =>
  Object.fromEntries(Object.entries(body).filter(([, value]) => value !== undefined));

export const linkOf = ({ name, email = '', withCode, rights }: AddGalleryLinkDto): NewLink => ({
  ...{ name: name.trim(), email, withCode, rights },
});
