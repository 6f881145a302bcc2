import { Body, Controller, Get, HttpCode, Param, Post, Req, Res, StreamableFile } from '@nestjs/common';
import {
  ApiConsumes,
  ApiCreatedResponse,
  ApiOkResponse,
  ApiProduces,
  ApiProperty,
  ApiPropertyOptional,
  ApiTags,
} from '@nestjs/swagger';
import { IsBoolean, IsOptional, IsString, Length, Matches, MaxLength, MinLength } from 'class-validator';
import type { OutputSpec } from '@arkiv/core';
import type { Request, Response } from 'express';
import { StartedJobDto } from '../jobs/jobs.dto';
import type { SetAlong } from '../ledger/delivery.entity';
import { IsOutputSpecs, LEGAL_FOLDER, OutputSpecDto } from '../settings/plans.dto';
import {
  DeliveryService,
  type DeliveryChanges,
  type DeliveryPlan,
  type DeliveryResult,
} from './delivery.service';
import type { DeliveryRequest } from './deliverySet';
import { bodyBytes } from '../system/bodyBytes';
import { MOST_WATERMARK, Watermarks } from './watermarks.service';

/** Characters of a line: more nobody types. */
const LONGEST_LINE = 1000;

export class WatermarkPictureDto {
  @ApiProperty({ description: 'the name that specs know it by' }) picture: string;
}

export class StartDeliveryDto {
  @ApiProperty() @IsString() @MinLength(1) @MaxLength(80) name: string;
  @ApiProperty() @IsString() volumeId: string;
  @ApiPropertyOptional({ description: 'which of the keepers: a line of words and facts; missing: all' })
  @IsOptional()
  @IsString()
  @MaxLength(LONGEST_LINE)
  line?: string;
  @ApiProperty({ type: [OutputSpecDto], description: 'all are made at once' })
  @IsOutputSpecs()
  specs: OutputSpec[];
  @ApiPropertyOptional({
    description: 'folder of the raws, which go along with their sidecars; missing: they do not',
  })
  @IsOptional()
  @IsString()
  @MaxLength(60)
  @Matches(LEGAL_FOLDER)
  raws?: string;
  @ApiPropertyOptional({ description: 'a PDF of all pictures with their names' })
  @IsOptional()
  @IsBoolean()
  sheet?: boolean;
  @ApiPropertyOptional({ description: 'as a bag (RFC 8493)' })
  @IsOptional()
  @IsBoolean()
  bag?: boolean;
}

export class SampleAskedDto extends StartDeliveryDto {
  @ApiPropertyOptional({ description: 'missing: the first keeper' })
  @IsOptional()
  @IsString()
  @Length(26, 26)
  frameId?: string;
}

export class SampleFromDto {
  @ApiProperty({ description: 'key of the picture that it is made of' }) picture: string;
  @ApiProperty() width: number;
  @ApiProperty() height: number;
}

export class SampleDto {
  @ApiProperty() frameId: string;
  @ApiProperty({ description: 'of the file that would be made' }) name: string;
  @ApiProperty() bytes: number;
  @ApiProperty() width: number;
  @ApiProperty() height: number;
  @ApiProperty({ type: SampleFromDto }) from: SampleFromDto;
  @ApiProperty({ description: 'media type' }) type: string;
  @ApiProperty({ description: 'the file, in base64' }) data: string;
}

export class SamplesDto {
  @ApiProperty({ type: SampleDto, nullable: true }) sample: SampleDto | null;
}

export class DeliveryPlanDto implements DeliveryPlan {
  @ApiProperty() folder: string;
  @ApiProperty() frames: number;
  @ApiProperty({ type: [String], description: 'ids of the first of them' }) first: string[];
  @ApiProperty() rule: string;
  @ApiProperty({ type: [String] }) names: string[];
  @ApiProperty() files: number;
  @ApiProperty({ description: 'frames of which nothing can go as it is, where a spec asks for that' })
  unfinished: number;
  @ApiProperty({ description: 'frames that are finished here, of which a file as it is shows nothing' })
  withoutFinish: number;
  @ApiProperty({ description: 'frames whose raw goes along' }) raws: number;
  @ApiProperty({ description: 'bytes of these raws' }) rawBytes: number;
  @ApiProperty({ description: 'its folder is there already: under this name it cannot be made' })
  exists: boolean;
}

export class SetAlongDto implements SetAlong {
  @ApiProperty({ type: String, nullable: true, description: 'folder of the raws; null: none go along' })
  raws: string | null;
  @ApiProperty() sheet: boolean;
  @ApiProperty() bag: boolean;
}

export class DeliveryChangesDto implements DeliveryChanges {
  @ApiProperty({ description: 'files of frames that are not in it yet' }) fresh: number;
  @ApiProperty({ description: 'files that would be others by now' }) changed: number;
  @ApiProperty({ description: 'files of frames that are no part of it any more' }) gone: number;
  @ApiProperty({ type: [String], description: 'names of some of these, in this order' }) names: string[];
  @ApiProperty({ type: String, nullable: true, description: 'why it cannot be told' })
  problem: string | null;
}

export class ZipDto {
  @ApiProperty() path: string;
  @ApiProperty({ description: 'bytes' }) size: number;
  @ApiProperty() sha256: string;
}

export class DeliveryResultDto implements DeliveryResult {
  @ApiProperty({ description: 'which of the keepers it is of; empty: all' }) line: string;
  @ApiProperty() volumeId: string;
  @ApiProperty() volume: string;
  @ApiProperty() folder: string;
  @ApiProperty() files: number;
  @ApiProperty({ description: 'bytes' }) bytes: number;
  @ApiProperty() failed: number;
  @ApiProperty({ description: 'how many times it was made by now' }) times: number;
  @ApiProperty({ type: SetAlongDto }) along: SetAlongDto;
  @ApiProperty() manifest: string;
  @ApiProperty({ type: String, nullable: true, description: 'the sheet of its pictures' })
  sheet: string | null;
  @ApiProperty({ type: ZipDto }) zip: ZipDto;
}

export class DeliveryDto {
  @ApiProperty() jobId: string;
  @ApiProperty() title: string;
  @ApiProperty() at: number;
  @ApiProperty({ type: DeliveryResultDto }) result: DeliveryResultDto;
}

const requestOf = ({
  line = '',
  raws,
  sheet = false,
  bag = false,
  ...body
}: StartDeliveryDto): DeliveryRequest => ({
  ...body,
  line: line.trim(),
  along: { raws: raws ?? null, sheet, bag },
});

@ApiTags('delivery')
@Controller('api')
export class DeliveryController {
  constructor(
    private readonly delivery: DeliveryService,
    private readonly watermarks: Watermarks,
  ) {}

  /** Keeps a picture that output specs lay over others; its bytes are the body, a PNG. */
  @Post('watermarks')
  @ApiConsumes('application/octet-stream')
  @ApiCreatedResponse({ type: WatermarkPictureDto })
  async keepWatermark(@Req() request: Request): Promise<WatermarkPictureDto> {
    return { picture: await this.watermarks.keep(await bodyBytes(request, MOST_WATERMARK)) };
  }

  @Get('watermarks/:picture')
  @ApiProduces('image/png')
  async watermark(@Param('picture') picture: string): Promise<StreamableFile> {
    return new StreamableFile(await this.watermarks.bytes(picture), { type: 'image/png' });
  }

  /** What a delivery would make, before it does. */
  @Post('shoots/:id/deliveries/plan')
  @HttpCode(200)
  @ApiOkResponse({ type: DeliveryPlanDto })
  plan(@Param('id') id: string, @Body() body: StartDeliveryDto): Promise<DeliveryPlanDto> {
    return this.delivery.plan(id, requestOf(body));
  }

  /** One keeper made by the first of the specs, to be looked at beside the picture that it is made of. */
  @Post('shoots/:id/deliveries/sample')
  @HttpCode(200)
  @ApiOkResponse({ type: SamplesDto })
  async sample(@Param('id') id: string, @Body() { frameId, ...body }: SampleAskedDto): Promise<SamplesDto> {
    const made = await this.delivery.sample(id, requestOf(body), frameId ?? null);
    return { sample: made && { ...made, data: Buffer.from(made.data).toString('base64') } };
  }

  @Get('shoots/:id/deliveries')
  @ApiOkResponse({ type: [DeliveryDto] })
  list(@Param('id') id: string): Promise<DeliveryDto[]> {
    return this.delivery.list(id);
  }

  @Post('shoots/:id/deliveries')
  @ApiCreatedResponse({ type: StartedJobDto })
  start(@Param('id') id: string, @Body() body: StartDeliveryDto): Promise<StartedJobDto> {
    return this.delivery.start(id, requestOf(body));
  }

  /** What a set would be by now, against what it is. */
  @Get('deliveries/:job/changes')
  @ApiOkResponse({ type: DeliveryChangesDto })
  changes(@Param('job') job: string): Promise<DeliveryChangesDto> {
    return this.delivery.changes(job);
  }

  /** Brings a set up to date, in its folder. */
  @Post('deliveries/:job/again')
  @ApiCreatedResponse({ type: StartedJobDto })
  again(@Param('job') job: string): Promise<StartedJobDto> {
    return this.delivery.again(job);
  }

  /** The sheet of its pictures, to be looked at in the browser. */
  @Get('deliveries/:job/sheet')
  @ApiProduces('application/pdf')
  async sheet(@Param('job') job: string, @Res() response: Response): Promise<void> {
    const file = await this.delivery.sheetFile(job);
    response.sendFile(
      file,
      { dotfiles: 'allow', headers: { 'content-type': 'application/pdf' } },
      (error) => {
        if (error && !response.headersSent) response.status(500).end();
        else if (error) response.destroy();
      },
    );
  }

  /** The zip, with ranges, so that a broken download can be carried on. A failure breaks the response off. */
  @Get('deliveries/:job/zip')
  @ApiProduces('application/zip')
  async zip(@Param('job') job: string, @Res() response: Response): Promise<void> {
    const { file, name } = await this.delivery.zipFile(job);
    response.download(file, name, { dotfiles: 'allow' }, (error) => {
      if (error && !response.headersSent) response.status(500).end();
      else if (error) response.destroy();
    });
  }
}
