import { Body, Controller, HttpCode, Post } from '@nestjs/common';
import { ApiOkResponse, ApiTags } from '@nestjs/swagger';
import { AppliedMarksDto, MarksDto } from './marks.dto';
import { MarksService } from './marks.service';

@ApiTags('marks')
@Controller('api/marks')
export class MarksController {
  constructor(private readonly marks: MarksService) {}

  @Post()
  @HttpCode(200)
  @ApiOkResponse({ type: AppliedMarksDto })
  apply(@Body() body: MarksDto): Promise<AppliedMarksDto> {
    return this.marks.apply(body.operations);
  }
}
