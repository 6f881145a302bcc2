import { Body, Controller, Get, HttpCode, Param, Post, Res } from '@nestjs/common';
import {
  ApiCreatedResponse,
  ApiOkResponse,
  ApiProduces,
  ApiProperty,
  ApiPropertyOptional,
  ApiTags,
} from '@nestjs/swagger';
import { IsOptional, IsString, Length, MaxLength, MinLength } from 'class-validator';
import type { OutputSpec } from '@arkiv/core';
import type { Response } from 'express';
import { StartedJobDto } from '../jobs/jobs.dto';
import { IsOutputSpecs, OutputSpecDto } from '../settings/plans.dto';
import {
  DeliveryService,
  type DeliveryPlan,
  type DeliveryRequest,
  type DeliveryResult,
} from './delivery.service';

/** Characters of a line: more nobody types. */
const LONGEST_LINE = 1000;

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
  @ApiProperty() rule: string;
  @ApiProperty({ type: [String] }) names: string[];
  @ApiProperty() files: number;
  @ApiProperty({ description: 'frames of which nothing can go as it is, where a spec asks for that' })
  unfinished: number;
}

export class ZipDto {
  @ApiProperty() path: string;
  @ApiProperty({ description: 'bytes' }) size: number;
  @ApiProperty() sha256: string;
}

export class DeliveryResultDto implements DeliveryResult {
  @ApiProperty({ description: 'which of the keepers it is of; empty: all' }) line: string;
  @ApiProperty({ description: 'frames that it would be of by now, and is not' }) fresh: number;
  @ApiProperty() volumeId: string;
  @ApiProperty() volume: string;
  @ApiProperty() folder: string;
  @ApiProperty() files: number;
  @ApiProperty({ description: 'bytes' }) bytes: number;
  @ApiProperty() failed: number;
  @ApiProperty() manifest: string;
  @ApiProperty({ type: ZipDto }) zip: ZipDto;
}

export class DeliveryDto {
  @ApiProperty() jobId: string;
  @ApiProperty() title: string;
  @ApiProperty() at: number;
  @ApiProperty({ type: DeliveryResultDto }) result: DeliveryResultDto;
}

const requestOf = ({ line = '', ...body }: StartDeliveryDto): DeliveryRequest => ({
  ...body,
  line: line.trim(),
});

@ApiTags('delivery')
@Controller('api')
export class DeliveryController {
  constructor(private readonly delivery: DeliveryService) {}

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
