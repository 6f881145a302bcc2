import { Controller, Get, HttpCode, Param, Post } from '@nestjs/common';
import { ApiCreatedResponse, ApiNoContentResponse, ApiOkResponse, ApiTags } from '@nestjs/swagger';
import { StartedJobDto } from '../jobs/jobs.dto';
import { CarriedDto, CarryResultDto, FollowedDto } from './carried.dto';
import { CarriedService } from './carried.service';

@ApiTags('carried')
@Controller('api/carried')
export class CarriedController {
  constructor(private readonly carried: CarriedService) {}

  /** Drives on which another archive left shoots that are not taken in yet. */
  @Get()
  @ApiOkResponse({ type: [CarriedDto] })
  all(): Promise<CarriedDto[]> {
    return this.carried.all();
  }

  /** What came of taking them in. */
  @Get('results/:jobId')
  @ApiOkResponse({ type: CarryResultDto })
  result(@Param('jobId') id: string): Promise<CarryResultDto> {
    return this.carried.result(id);
  }

  /** Gives frames the names that they were given there, on every drive here. */
  @Post('results/:jobId/names')
  @ApiCreatedResponse({ type: FollowedDto })
  takeNames(@Param('jobId') id: string): Promise<FollowedDto> {
    return this.carried.takeNames(id);
  }

  /** Puts what was taken out there into the bin here. */
  @Post('results/:jobId/bin')
  @ApiCreatedResponse({ type: FollowedDto })
  binToo(@Param('jobId') id: string): Promise<FollowedDto> {
    return this.carried.binToo(id);
  }

  @Post(':volumeId')
  @ApiCreatedResponse({ type: StartedJobDto })
  begin(@Param('volumeId') id: string): Promise<StartedJobDto> {
    return this.carried.begin(id);
  }

  /** They are let lie where they are. */
  @Post(':volumeId/leave')
  @HttpCode(204)
  @ApiNoContentResponse()
  leave(@Param('volumeId') id: string): Promise<void> {
    return this.carried.leave(id);
  }
}
