import { Body, Controller, Get, HttpCode, Param, Post, Res } from '@nestjs/common';
import { ApiCreatedResponse, ApiOkResponse, ApiProduces, ApiProperty, ApiTags } from '@nestjs/swagger';
import { Type } from 'class-transformer';
import { IsString, MaxLength, MinLength, ValidateNested } from 'class-validator';
import type { Response } from 'express';
import { StartedJobDto } from '../jobs/jobs.dto';
import { OutputSpecDto } from '../settings/plans.dto';
import { DeliveryService, type DeliveryPlan, type DeliveryResult } from './delivery.service';

export class StartDeliveryDto {
  @ApiProperty() @IsString() @MinLength(1) @MaxLength(80) name: string;
  @ApiProperty() @IsString() volumeId: string;
  @ApiProperty({ type: OutputSpecDto }) @ValidateNested() @Type(() => OutputSpecDto) spec: OutputSpecDto;
}

export class DeliveryPlanDto implements DeliveryPlan {
  @ApiProperty() folder: string;
  @ApiProperty() frames: number;
  @ApiProperty() rule: string;
  @ApiProperty({ type: [String] }) names: string[];
}

export class ZipDto {
  @ApiProperty() path: string;
  @ApiProperty({ description: 'bytes' }) size: number;
  @ApiProperty() sha256: string;
}

export class DeliveryResultDto implements DeliveryResult {
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

@ApiTags('delivery')
@Controller('api')
export class DeliveryController {
  constructor(private readonly delivery: DeliveryService) {}

  /** What a delivery would make, before it does. */
  @Post('shoots/:id/deliveries/plan')
  @HttpCode(200)
  @ApiOkResponse({ type: DeliveryPlanDto })
  plan(@Param('id') id: string, @Body() body: StartDeliveryDto): Promise<DeliveryPlanDto> {
    return this.delivery.plan(id, body);
  }

  @Get('shoots/:id/deliveries')
  @ApiOkResponse({ type: [DeliveryDto] })
  list(@Param('id') id: string): Promise<DeliveryDto[]> {
    return this.delivery.list(id);
  }

  @Post('shoots/:id/deliveries')
  @ApiCreatedResponse({ type: StartedJobDto })
  start(@Param('id') id: string, @Body() body: StartDeliveryDto): Promise<StartedJobDto> {
    return this.delivery.start(id, body);
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
