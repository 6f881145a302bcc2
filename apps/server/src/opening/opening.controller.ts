import { Body, Controller, Get, HttpCode, Param, Post, Put, Req, UseGuards } from '@nestjs/common';
import { ApiNoContentResponse, ApiOkResponse, ApiTags } from '@nestjs/swagger';
import type { Request } from 'express';
import { FromHere, isFromHere } from '../access/fromHere';
import {
  LyingFilesDto,
  OpenedDto,
  OpenCopiesDto,
  OpenFramesDto,
  ProgramsDto,
  ShowFolderDto,
} from './opening.dto';
import { OpeningService } from './opening.service';

@ApiTags('opening')
@Controller('api/opening')
export class OpeningController {
  constructor(private readonly opening: OpeningService) {}

  /** Where the files of a frame lie: below each drive, and in whole for who sits at this computer. */
  @Get('frames/:id')
  @ApiOkResponse({ type: LyingFilesDto })
  async files(@Param('id') id: string, @Req() request: Request): Promise<LyingFilesDto> {
    const here = isFromHere(request);
    return { here, files: await this.opening.files(id, here), copyOf: await this.opening.copyOf(id) };
  }

  /** Shows a file in its folder, on this computer. */
  @Post('folder')
  @HttpCode(204)
  @UseGuards(FromHere)
  @ApiNoContentResponse()
  folder(@Body() { assetId, volumeId }: ShowFolderDto): Promise<void> {
    return this.opening.showFolder(assetId, volumeId);
  }

  /** Hands frames to another program on this computer. */
  @Post('frames')
  @HttpCode(200)
  @UseGuards(FromHere)
  @ApiOkResponse({ type: OpenedDto })
  frames(@Body() { frameIds, program }: OpenFramesDto): Promise<OpenedDto> {
    return this.opening.open(frameIds, program);
  }

  /** Hands copies that lie with editing to another program on this computer. */
  @Post('copies')
  @HttpCode(200)
  @UseGuards(FromHere)
  @ApiOkResponse({ type: OpenedDto })
  copies(@Body() { frameIds, volumeId, program }: OpenCopiesDto): Promise<OpenedDto> {
    return this.opening.openCopies(frameIds, volumeId, program);
  }

  @Get('programs')
  @UseGuards(FromHere)
  @ApiOkResponse({ type: ProgramsDto })
  async programs(): Promise<ProgramsDto> {
    return { programs: await this.opening.programs() };
  }

  /** Which programs there are: whoever sits elsewhere cannot say, as these are started here. */
  @Put('programs')
  @HttpCode(204)
  @UseGuards(FromHere)
  @ApiNoContentResponse()
  setPrograms(@Body() { programs }: ProgramsDto): Promise<void> {
    return this.opening.setPrograms(programs);
  }
}
