import { Body, Controller, Delete, Get, HttpCode, Param, Post } from '@nestjs/common';
import { ApiCreatedResponse, ApiNoContentResponse, ApiOkResponse, ApiTags } from '@nestjs/swagger';
import {
  HereFileDto,
  MadeUploadLinkDto,
  NamedFileDto,
  NewUploadDto,
  NewUploadLinkDto,
  UploadDto,
  UploadLinkDto,
  WholeFileDto,
} from './uploads.dto';
import { OutsideListener } from '../outside/outsideListener';
import { UploadLinksService } from './uploadLinks.service';
import { UploadsService } from './uploads.service';

@ApiTags('uploads')
@Controller('api/uploads')
export class UploadsController {
  constructor(
    private readonly uploads: UploadsService,
    private readonly links: UploadLinksService,
    private readonly listener: OutsideListener,
  ) {}

  /** Links by which people outside send pictures, the newest first. */
  @Get('links')
  @ApiOkResponse({ type: [UploadLinkDto] })
  async allLinks(): Promise<UploadLinkDto[]> {
    const { address } = this.listener.place();
    return (await this.links.list()).map(({ id, title, name, most, came, until, at, token, code }) => ({
      ...{ id, title, name, most, came, until, at, code, address: token && `${address}/u/${token}` },
    }));
  }

  @Post('links')
  @ApiCreatedResponse({ type: MadeUploadLinkDto })
  makeLink(@Body() { title, name, ...wish }: NewUploadLinkDto): Promise<MadeUploadLinkDto> {
    return this.links.make({ ...wish, title: title.trim(), name: name.trim() });
  }

  /** It opens nothing any more; what has come by it stays. */
  @Delete('links/:id')
  @HttpCode(204)
  @ApiNoContentResponse()
  revoke(@Param('id') id: string): Promise<void> {
    return this.links.revoke(id);
  }

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
