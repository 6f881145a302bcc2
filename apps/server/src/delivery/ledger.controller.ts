import { Body, Controller, Delete, Get, Header, HttpCode, Param, Post, Query } from '@nestjs/common';
import {
  ApiCreatedResponse,
  ApiOkResponse,
  ApiProduces,
  ApiProperty,
  ApiPropertyOptional,
  ApiTags,
} from '@nestjs/swagger';
import { IsOptional, IsString, Length, Matches, MaxLength, MinLength } from 'class-validator';
import {
  DeliveryLedger,
  type LedgerAsked,
  type LedgerEntry,
  type LedgerMonth,
  type LedgerPage,
  type LedgerPerson,
  type Posting,
  type WentOut,
} from './deliveryLedger.service';

export class LedgerAskedDto implements LedgerAsked {
  @ApiPropertyOptional() @IsOptional() @IsString() @MaxLength(200) client?: string;
  @ApiPropertyOptional() @IsOptional() @IsString() @Length(26, 26) shootId?: string;
  @ApiPropertyOptional() @IsOptional() @IsString() @Length(26, 26) frameId?: string;
  @ApiPropertyOptional({ description: 'YYYY' }) @IsOptional() @Matches(/^\d{4}$/) year?: string;
}

export class LedgerPageAskedDto extends LedgerAskedDto {
  @ApiPropertyOptional({ description: 'as the page before said' })
  @IsOptional()
  @Matches(/^\d+_[0-9A-Z]{26}$/)
  before?: string;
}

export class LedgerPersonDto implements LedgerPerson {
  @ApiProperty() name: string;
  @ApiProperty({ type: Number, nullable: true, description: 'when they last came in' })
  openedAt: number | null;
  @ApiProperty() favourites: number;
  @ApiProperty() chosen: number;
  @ApiProperty() remarks: number;
  @ApiProperty({ description: 'files that they took along' }) taken: number;
}

export class LedgerEntryDto implements LedgerEntry {
  @ApiProperty() id: string;
  @ApiProperty({ enum: ['set', 'posting', 'mail', 'gallery'] }) kind: LedgerEntry['kind'];
  @ApiProperty({ description: 'how the set is called, or where it was posted' }) name: string;
  @ApiProperty({ description: 'milliseconds since 1970 UTC' }) at: number;
  @ApiProperty() shootId: string;
  @ApiProperty() shoot: string;
  @ApiProperty() client: string;
  @ApiProperty() frames: number;
  @ApiProperty() files: number;
  @ApiProperty({ type: [String], description: 'the sentence of each of its specs' }) forms: string[];
  @ApiProperty({ description: 'it brought a set up to date' }) again: boolean;
  @ApiProperty({ type: [String], description: 'destinations at which files of it were proven to be' })
  sentTo: string[];
  @ApiProperty({ type: [LedgerPersonDto], description: 'people of a client in a gallery' })
  people: LedgerPersonDto[];
}

export class LedgerPageDto implements LedgerPage {
  @ApiProperty({ type: [LedgerEntryDto] }) entries: LedgerEntryDto[];
  @ApiProperty({ type: String, nullable: true, description: 'from where the next page goes on' })
  next: string | null;
}

export class WentOutDto implements WentOut {
  @ApiProperty() frameId: string;
  @ApiProperty({ description: 'how many times it went out' }) times: number;
  @ApiProperty({ description: 'when last, milliseconds since 1970 UTC' }) at: number;
  @ApiProperty({ description: 'as what it went out last' }) name: string;
}

export class LedgerMonthDto implements LedgerMonth {
  @ApiProperty({ description: 'YYYY-MM' }) month: string;
  @ApiProperty() frames: number;
  @ApiProperty() keepers: number;
  @ApiProperty({ description: 'frames that went out, ever' }) delivered: number;
}

export class PostingDto implements Omit<Posting, 'line'> {
  @ApiProperty() @IsString() @Length(26, 26) shootId: string;
  @ApiPropertyOptional({ description: 'which of the keepers: a line of words and facts; missing: all' })
  @IsOptional()
  @IsString()
  @MaxLength(1000)
  line?: string;
  @ApiProperty() @IsString() @MinLength(1) @MaxLength(80) where: string;
  @ApiProperty({ description: 'YYYY-MM-DD' })
  @Matches(/^\d{4}-(0[1-9]|1[0-2])-(0[1-9]|[12]\d|3[01])$/)
  day: string;
}

export class EnteredDto {
  @ApiProperty() id: string;
  @ApiProperty() frames: number;
}

@ApiTags('ledger')
@Controller('api')
export class LedgerController {
  constructor(private readonly ledger: DeliveryLedger) {}

  /** What went out, the newest first, a page of it. */
  @Get('ledger')
  @ApiOkResponse({ type: LedgerPageDto })
  page(@Query() { before, ...asked }: LedgerPageAskedDto): Promise<LedgerPageDto> {
    return this.ledger.page(asked, before ?? null);
  }

  /** A line for each file that went out. */
  @Get('ledger/list.csv')
  @Header('content-type', 'text/csv; charset=utf-8')
  @Header('content-disposition', 'attachment; filename="ledger.csv"')
  @ApiProduces('text/csv')
  csv(@Query() asked: LedgerAskedDto): Promise<string> {
    return this.ledger.csv(asked);
  }

  /** Years of which there is something to tell, the newest first. */
  @Get('ledger/years')
  @ApiOkResponse({ type: [String] })
  years(): Promise<string[]> {
    return this.ledger.years();
  }

  /** Frames taken, kept and delivered, month by month. */
  @Get('ledger/years/:year')
  @ApiOkResponse({ type: [LedgerMonthDto] })
  months(@Param('year') year: string): Promise<LedgerMonthDto[]> {
    return this.ledger.months(year);
  }

  /** Frames of a shoot that went out. */
  @Get('shoots/:id/went-out')
  @ApiOkResponse({ type: [WentOutDto] })
  wentOut(@Param('id') id: string): Promise<WentOutDto[]> {
    return this.ledger.ofShoot(id);
  }

  /** Enters what was posted online by hand. */
  @Post('ledger/postings')
  @ApiCreatedResponse({ type: EnteredDto })
  enter(@Body() { line = '', ...body }: PostingDto): Promise<EnteredDto> {
    return this.ledger.enter({ ...body, line: line.trim() });
  }

  /** Takes a posting out again. */
  @Delete('ledger/postings/:id')
  @HttpCode(204)
  takeOut(@Param('id') id: string): Promise<void> {
    return this.ledger.takeOut(id);
  }
}
