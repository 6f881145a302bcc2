import { Body, Controller, Get, Param, Post, Query } from '@nestjs/common';
import { ApiCreatedResponse, ApiOkResponse, ApiTags } from '@nestjs/swagger';
import { StartedJobDto } from '../jobs/jobs.dto';
import { CopiesAskedDto, CopyPlanDto, KeptOnDto, ReleaseAskedDto, ReleasePlanDto } from './copies.dto';
import { ReleaseHandler } from './release.handler';
import { CopiesService } from './copies.service';

@ApiTags('copies')
@Controller('api/copies')
export class CopiesController {
  constructor(
    private readonly copies: CopiesService,
    private readonly releasing: ReleaseHandler,
  ) {}

  /** What “copy now” would do. */
  @Get('missing')
  @ApiOkResponse({ type: CopyPlanDto })
  plan(@Query() asked: CopiesAskedDto): Promise<CopyPlanDto> {
    return this.copies.plan(asked);
  }

  /** Makes missing copies and puts damaged ones right. */
  @Post('missing')
  @ApiCreatedResponse({ type: StartedJobDto })
  copyNow(@Body() asked: CopiesAskedDto): Promise<StartedJobDto> {
    return this.copies.copyNow(asked);
  }

  /** What taking a shoot off a drive would do. */
  @Get('release')
  @ApiOkResponse({ type: ReleasePlanDto })
  releasePlan(@Query() asked: ReleaseAskedDto): Promise<ReleasePlanDto> {
    return this.releasing.plan({ ...asked, butKeepers: asked.butKeepers ?? false });
  }

  /** Takes a shoot off a drive, each file once its other copies were read again. */
  @Post('release')
  @ApiCreatedResponse({ type: StartedJobDto })
  release(@Body() asked: ReleaseAskedDto): Promise<StartedJobDto> {
    return this.releasing.start({ ...asked, butKeepers: asked.butKeepers ?? false });
  }

  /** How a shoot is kept, drive by drive. */
  @Get('shoots/:id')
  @ApiOkResponse({ type: [KeptOnDto] })
  kept(@Param('id') id: string): Promise<KeptOnDto[]> {
    return this.copies.kept(id);
  }

  /** Reads copies again and holds them against their checksums. */
  @Post('verifications')
  @ApiCreatedResponse({ type: StartedJobDto })
  verify(@Body() asked: CopiesAskedDto): Promise<StartedJobDto> {
    return this.copies.verify(asked);
  }
}
