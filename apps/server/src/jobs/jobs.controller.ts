import { Controller, Get, HttpCode, Param, Post, Query } from '@nestjs/common';
import { ApiOkResponse, ApiQuery, ApiTags } from '@nestjs/swagger';
import { JobDto, JobReportDto } from './jobs.dto';
import { JobStore } from './jobStore';
import { JobsService } from './jobs.service';

@ApiTags('jobs')
@Controller('api/jobs')
export class JobsController {
  constructor(
    private readonly jobs: JobsService,
    private readonly store: JobStore,
  ) {}

  /** The newest first, a page at a time: `before` names the last one of the page before. */
  @Get()
  @ApiOkResponse({ type: [JobDto] })
  @ApiQuery({ name: 'shoot', required: false })
  @ApiQuery({ name: 'before', required: false })
  list(@Query('shoot') shootId?: string, @Query('before') before?: string): Promise<JobDto[]> {
    return this.jobs.list({ ...(shootId ? { shootId } : {}), ...(before ? { before } : {}) });
  }

  /** Where a job stands, with every item that failed or was only partly done. */
  @Get(':id')
  @ApiOkResponse({ type: JobReportDto })
  async report(@Param('id') id: string): Promise<JobReportDto> {
    const job = await this.jobs.get(id);
    return { job: this.jobs.progress(job), failures: await this.store.failures(id) };
  }

  @Post(':id/pause')
  @HttpCode(204)
  pause(@Param('id') id: string): Promise<void> {
    return this.jobs.pause(id);
  }

  @Post(':id/resume')
  @HttpCode(204)
  resume(@Param('id') id: string): Promise<void> {
    return this.jobs.resume(id);
  }

  @Post(':id/cancel')
  @HttpCode(204)
  cancel(@Param('id') id: string): Promise<void> {
    return this.jobs.cancel(id);
  }

  @Post(':id/first')
  @HttpCode(204)
  first(@Param('id') id: string): Promise<void> {
    return this.jobs.first(id);
  }

  @Post(':id/retry')
  @HttpCode(204)
  retry(@Param('id') id: string): Promise<void> {
    return this.jobs.retry(id);
  }

  @Post(':id/seen')
  @HttpCode(204)
  see(@Param('id') id: string): Promise<void> {
    return this.jobs.see(id);
  }
}
