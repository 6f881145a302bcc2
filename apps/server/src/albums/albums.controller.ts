import { Body, Controller, Get, HttpCode, Param, Patch, Post, Query, StreamableFile } from '@nestjs/common';
import { ApiCreatedResponse, ApiOkResponse, ApiProduces, ApiTags } from '@nestjs/swagger';
import { AlbumStore } from '../marks/albumStore';
import {
  AlbumChangeDto,
  AlbumDto,
  AlbumTextAskedDto,
  BringAlbumsDto,
  BroughtAlbumsDto,
  HeldAlbumDto,
  NewAlbumDto,
} from './albums.dto';
import { AlbumsService } from './albums.service';
import { AlbumTexts } from './albumTexts.service';

const TYPES = { json: 'application/json', names: 'text/plain' } as const;
const ENDINGS = { json: 'json', names: 'txt' } as const;

@ApiTags('albums')
@Controller('api/albums')
export class AlbumsController {
  constructor(
    private readonly store: AlbumStore,
    private readonly albums: AlbumsService,
    private readonly texts: AlbumTexts,
  ) {}

  /** All albums, those that were taken away too. */
  @Get()
  @ApiOkResponse({ type: [AlbumDto] })
  list(): Promise<AlbumDto[]> {
    return this.store.all();
  }

  /** What each of them holds by now. */
  @Get('held')
  @ApiOkResponse({ type: [HeldAlbumDto] })
  held(): Promise<HeldAlbumDto[]> {
    return this.albums.held();
  }

  @Post()
  @ApiCreatedResponse({ type: AlbumDto })
  create(@Body() { name, parent, rule, pile }: NewAlbumDto): Promise<AlbumDto> {
    return this.albums.create({ name, parent: parent ?? null, rule: rule ?? null }, pile ?? null);
  }

  /** Albums out of a text; no file is touched. */
  @Post('texts')
  @HttpCode(200)
  @ApiOkResponse({ type: BroughtAlbumsDto })
  bring(@Body() { text, name, bring }: BringAlbumsDto): Promise<BroughtAlbumsDto> {
    return this.texts.bring(text, name, bring);
  }

  /** All albums as a text. */
  @Get('text')
  @ApiProduces(TYPES.json)
  @ApiOkResponse({ schema: { type: 'string' } })
  async all(): Promise<StreamableFile> {
    return file(await this.texts.json(null), 'albums', 'json');
  }

  /** One with those below it as a text: JSON, or the names of its frames' files. */
  @Get(':id/text')
  @ApiProduces(...Object.values(TYPES))
  @ApiOkResponse({ schema: { type: 'string' } })
  async text(@Param('id') id: string, @Query() { format }: AlbumTextAskedDto): Promise<StreamableFile> {
    const { name } = await this.store.get(id);
    return file(await (format === 'json' ? this.texts.json(id) : this.texts.names(id)), name, format);
  }

  /** Renames, moves, takes away, brings back, or says by what it is filled and which frame stands for it. */
  @Patch(':id')
  @ApiOkResponse({ type: AlbumDto })
  change(@Param('id') id: string, @Body() change: AlbumChangeDto): Promise<AlbumDto> {
    return this.albums.update(id, change);
  }
}

function file(text: string, name: string, format: keyof typeof TYPES): StreamableFile {
  const safe = encodeURIComponent(`${name}.${ENDINGS[format]}`).replace(/['()*]/g, '_');
  return new StreamableFile(Buffer.from(text), {
    type: `${TYPES[format]}; charset=utf-8`,
    disposition: `attachment; filename*=UTF-8''${safe}`,
  });
}
