import { ApiProperty, ApiPropertyOptional } from '@nestjs/swagger';
import { ADOPT_RULES, type AdoptRule } from '@arkiv/core';
import { IsBoolean, IsIn, IsOptional, IsString, MaxLength } from 'class-validator';
import type { AdoptedNow, AdoptWish, TakenIn } from './adopted.service';
import type { AdoptExample, WouldBecome } from './adoptPlaces.service';
import { LEFT_OUT, type LeftOut } from './adoptedTree';

export class AdoptAskedDto {
  @ApiProperty({ description: 'full path of a folder on the server’s machine' })
  @IsString()
  @MaxLength(1000)
  path: string;
  @ApiProperty({ enum: ADOPT_RULES, description: 'which folders become shoots' })
  @IsIn(ADOPT_RULES)
  rule: AdoptRule;
}

export class AdoptWishDto extends AdoptAskedDto implements AdoptWish {
  @ApiProperty({ description: 'whether sidecars may be written beside its pictures' })
  @IsBoolean()
  sidecars: boolean;
}

export class ChangeAdoptedDto {
  @ApiProperty({ description: 'whether sidecars may be written beside its pictures' })
  @IsBoolean()
  sidecars: boolean;
}

export class WouldBecomeDto implements WouldBecome {
  @ApiProperty() title: string;
  @ApiProperty({ type: String, nullable: true, description: 'null: its first picture says it' })
  date: string | null;
  @ApiProperty({ description: 'below the adopted folder' }) folder: string;
  @ApiProperty() frames: number;
}

class LeftOutDto implements Record<LeftOut, number> {
  @ApiProperty() hidden: number;
  @ApiProperty() archive: number;
  @ApiProperty() link: number;
  @ApiProperty() unnamed: number;
  @ApiProperty() root: number;
  @ApiProperty() other: number;
}

export class AdoptExampleDto implements AdoptExample {
  @ApiProperty() drive: string;
  @ApiProperty({ type: String, nullable: true, description: 'a folder that becomes a drive first' })
  newDrive: string | null;
  @ApiProperty({ type: [WouldBecomeDto] }) shoots: WouldBecomeDto[];
  @ApiProperty() moreShoots: number;
  @ApiProperty() frames: number;
  @ApiProperty() files: number;
  @ApiProperty() bytes: number;
  @ApiProperty() sidecars: number;
  @ApiProperty({ description: 'frames whose day was not read' }) daysUnread: number;
  @ApiProperty({ type: LeftOutDto, description: `what stays out: ${LEFT_OUT.join(', ')}` }) out: LeftOutDto;
}

export class AdoptedDto {
  @ApiProperty() id: string;
  @ApiProperty({ type: String, nullable: true, description: 'full path; null: its drive is away' })
  at: string | null;
  @ApiProperty({ description: 'below its drive; empty: the drive itself' }) path: string;
  @ApiProperty() drive: string;
  @ApiProperty() online: boolean;
  @ApiProperty({ enum: ADOPT_RULES }) rule: AdoptRule;
  @ApiProperty() sidecars: boolean;
  @ApiProperty() shoots: number;
  @ApiProperty() frames: number;
  @ApiProperty({ description: 'files that were not read whole yet' }) unread: number;
  @ApiProperty({ type: String, nullable: true }) trouble: string | null;
  @ApiProperty({ description: 'it is being looked at' }) busy: boolean;
  @ApiProperty({ type: String, nullable: true }) firstShoot: string | null;

  static of({ adopted, ...now }: AdoptedNow): AdoptedDto {
    const { id, path, rule, sidecars } = adopted;
    return { id, path, rule, sidecars, ...now };
  }
}

export class TakeInDto {
  @ApiProperty({ description: 'named by the pattern; otherwise names stay, unless they are taken' })
  @IsBoolean()
  rename: boolean;
  @ApiPropertyOptional({ description: 'missing: the studio’s' })
  @IsOptional()
  @IsString()
  @MaxLength(200)
  pattern?: string;
}

export class TakenInDto implements TakenIn {
  @ApiProperty({ description: 'shoots of which a job was begun' }) shoots: number;
  @ApiProperty() frames: number;
  @ApiProperty({ type: [String], description: 'why a shoot could not be taken in' }) left: string[];
}

export class ForgottenDto {
  @ApiProperty() frames: number;
}
