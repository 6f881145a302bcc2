import { Body, Controller, Get, HttpCode, Post, Res, UseGuards } from '@nestjs/common';
import { ApiNoContentResponse, ApiOkResponse, ApiTags } from '@nestjs/swagger';
import type { Response } from 'express';
import { FromHere } from '../access/fromHere';
import { ArchiveAddressDto, ArchiveFolderDto, ArchiveHereDto, NewArchiveDto } from './archives.dto';
import { ArchivesService } from './archives.service';
import { Starter } from './starter';

/** The archives of this computer, for who sits at it. */
@ApiTags('archives')
@Controller('api/archives')
@UseGuards(FromHere)
export class ArchivesController {
  constructor(
    private readonly archives: ArchivesService,
    private readonly starter: Starter,
  ) {}

  /** All that are on its list: the one that is asked first, then the one that was opened last. */
  @Get()
  @ApiOkResponse({ type: [ArchiveHereDto] })
  list(): Promise<ArchiveHereDto[]> {
    return this.archives.all();
  }

  /** Makes one in a folder, and opens it. */
  @Post()
  @HttpCode(200)
  @ApiOkResponse({ type: ArchiveAddressDto })
  add(@Body() { name, folder }: NewArchiveDto): Promise<ArchiveAddressDto> {
    return this.archives.add(name.trim(), folder);
  }

  /** Where one answers; its server is started where it does not run. */
  @Post('open')
  @HttpCode(200)
  @ApiOkResponse({ type: ArchiveAddressDto })
  open(@Body() { folder }: ArchiveFolderDto): Promise<ArchiveAddressDto> {
    return this.archives.open(folder);
  }

  /** Takes one off the list; its folder stays as it is. */
  @Post('forget')
  @HttpCode(204)
  @ApiNoContentResponse()
  forget(@Body() { folder }: ArchiveFolderDto): Promise<void> {
    return this.archives.forget(folder);
  }

  /** Ends the server of the one that is asked. */
  @Post('close')
  @HttpCode(204)
  @ApiNoContentResponse()
  close(@Res({ passthrough: true }) response: Response): void {
    // Whoever asked for it hears that it is done.
    response.once('close', () => this.starter.end());
  }
}
