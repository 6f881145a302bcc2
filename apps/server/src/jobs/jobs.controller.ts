import { Controller, Get, HttpCode, Param, Post, Query } from '@nestjs/common';
import { ApiOkResponse, ApiQuery, ApiTags } from '@nestjs/swagger';
import { JobDto, JobReportDto } from './jobs.dto';
import { JobsService } from './jobs.service';

@ApiTags('jobs')
@Controller('api/jobs')
export class JobsController {
  constructor(private readonly jobs: JobsService) {}

  @Get()
  @ApiOkResponse({ type: [JobDto] })
  @ApiQuery({ name: 'shoot', required: false })
  list(@Query('shoot') shoot?: string): Promise<JobDto[]> {
    return this.jobs.list(shoot ? { shootId: shoot } : {});
  }

  /** Where a job stands, with every item that failed or was only partly done. */
  @Get(':id')
  @ApiOkResponse({ type: JobReportDto })
  async report(@Param('id') id: string): Promise<JobReportDto> {
    const job = await this.jobs.get(id);
    const items = (await this.jobs.items(id)).filter((item) => item.reason !== null);
    return {
      job: await this.jobs.progress(job),
      failures: items.map((item) => {
        const { from, path } = item.data as { from?: string; path?: string };
        return { file: from ?? path ?? `item ${item.seq + 1}`, reason: item.reason ?? '' };
      }),
    };
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
