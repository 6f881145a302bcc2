import { Body, Controller, Get, Post } from '@nestjs/common';
import { ApiCreatedResponse, ApiOkResponse, ApiTags } from '@nestjs/swagger';
import { StartedJobDto } from '../jobs/jobs.dto';
import { OnDrivesDto, RebuildAskedDto } from './rebuild.dto';
import { RebuildService } from './rebuild.service';

@ApiTags('rebuild')
@Controller('api/rebuild')
export class RebuildController {
  constructor(private readonly rebuild: RebuildService) {}

  /** Archives that drives tell of and this one, which is empty, could become. */
  @Get()
  @ApiOkResponse({ type: [OnDrivesDto] })
  archives(): Promise<OnDrivesDto[]> {
    return this.rebuild.archives();
  }

  /** Makes an archive anew from its drives. */
  @Post()
  @ApiCreatedResponse({ type: StartedJobDto })
  begin(@Body() { archiveId }: RebuildAskedDto): Promise<StartedJobDto> {
    return this.rebuild.begin(archiveId);
  }
}
