import { Body, Controller, Get, HttpCode, Param, Post } from '@nestjs/common';
import { ApiCreatedResponse, ApiNoContentResponse, ApiOkResponse, ApiTags } from '@nestjs/swagger';
import { HereFileDto, NamedFileDto, NewUploadDto, UploadDto, WholeFileDto } from './uploads.dto';
import { UploadsService } from './uploads.service';

@ApiTags('uploads')
@Controller('api/uploads')
export class UploadsController {
  constructor(private readonly uploads: UploadsService) {}

  /** What is coming, and what waits to be taken in; the newest first. */
  @Get()
  @ApiOkResponse({ type: [UploadDto] })
  list(): Promise<UploadDto[]> {
    return this.uploads.all();
  }

  @Post()
  @ApiCreatedResponse({ type: UploadDto })
  begin(@Body() { name }: NewUploadDto): Promise<UploadDto> {
    return this.uploads.begin(name.trim());
  }

  @Get(':id')
  @ApiOkResponse({ type: UploadDto })
  one(@Param('id') id: string): Promise<UploadDto> {
    return this.uploads.one(id);
  }

  /** What is whole of it: that need not be sent again. */
  @Get(':id/files')
  @ApiOkResponse({ type: [HereFileDto] })
  whole(@Param('id') id: string): Promise<HereFileDto[]> {
    return this.uploads.whole(id);
  }

  /** A file has come to its end: it is held against the checksum of its sender. */
  @Post(':id/files/:file')
  @HttpCode(200)
  @ApiOkResponse({ type: NamedFileDto })
  finish(
    @Param('id') id: string,
    @Param('file') file: string,
    @Body() { sha256 }: WholeFileDto,
  ): Promise<NamedFileDto> {
    return this.uploads.finish(id, file, sha256);
  }

  /** Lets go of one of which nothing is whole. */
  @Post(':id/forget')
  @HttpCode(204)
  @ApiNoContentResponse()
  forget(@Param('id') id: string): Promise<void> {
    return this.uploads.forget(id);
  }

  /** Nothing more comes: what is whole can be taken in. */
  @Post(':id/close')
  @HttpCode(200)
  @ApiOkResponse({ type: UploadDto })
  close(@Param('id') id: string): Promise<UploadDto> {
    return this.uploads.close(id);
  }
}
