import {
  Body,
  Controller,
  Get,
  Header,
  HttpCode,
  Param,
  Post,
  Put,
  Query,
  StreamableFile,
} from '@nestjs/common';
import { ApiOkResponse, ApiProduces, ApiTags } from '@nestjs/swagger';
import { AddReaderDto, CardDto, CardSummaryDto, ReaderDto, StateDeviceDto } from './readers.dto';
import { ReadersService, type ReaderInfo } from './readers.service';

@ApiTags('readers')
@Controller('api/readers')
export class ReadersController {
  constructor(private readonly readers: ReadersService) {}

  @Get()
  @ApiOkResponse({ type: [ReaderDto] })
  async list(): Promise<ReaderDto[]> {
    return Promise.all((await this.readers.list()).map((reader) => this.shown(reader)));
  }

  @Post()
  @ApiOkResponse({ type: ReaderDto })
  async add(@Body() body: AddReaderDto): Promise<ReaderDto> {
    return this.shown(await this.readers.addFolder(body.root, body.name));
  }

  private async shown(reader: ReaderInfo): Promise<ReaderDto> {
    return {
      ...reader,
      deviceUnknown: reader.card !== null && (await this.readers.disksOf(reader.id)) === null,
    };
  }

  @Get(':id/card')
  @ApiOkResponse({ type: CardDto })
  async card(@Param('id') id: string): Promise<CardDto> {
    return CardDto.of(await this.readers.scan(id));
  }

  /** The card's frames without their facts: at once, for their small pictures. */
  @Get(':id/listing')
  @ApiOkResponse({ type: CardDto })
  async listing(@Param('id') id: string): Promise<CardDto> {
    return CardDto.of(await this.readers.listing(id));
  }

  @Get(':id/summary')
  @ApiOkResponse({ type: CardSummaryDto })
  async summary(@Param('id') id: string): Promise<CardSummaryDto> {
    return CardSummaryDto.of(await this.readers.scan(id));
  }

  @Get(':id/picture')
  @ApiProduces('image/jpeg')
  // The same path on another card is another picture: the address carries the card's fingerprint as well.
  @Header('Cache-Control', 'private, max-age=86400, immutable')
  async picture(
    @Param('id') id: string,
    @Query('path') file: string,
    @Query('size') size: string,
    @Query('card') card?: string,
  ): Promise<StreamableFile> {
    const bytes = await this.readers.picture(id, file, size === 'thumb' ? 'smallest' : 'largest', card);
    return new StreamableFile(bytes, { type: 'image/jpeg' });
  }

  @Put(':id/device')
  @HttpCode(204)
  async state(@Param('id') id: string, @Body() body: StateDeviceDto): Promise<void> {
    await this.readers.state(id, body.device ?? null);
  }

  @Post(':id/eject')
  @HttpCode(204)
  async eject(@Param('id') id: string): Promise<void> {
    await this.readers.eject(id);
  }
}
