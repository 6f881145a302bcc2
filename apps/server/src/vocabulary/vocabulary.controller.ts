import {
  Body,
  Controller,
  Get,
  HttpCode,
  Param,
  Post,
  Put,
  Query,
  Req,
  Res,
  StreamableFile,
} from '@nestjs/common';
import { ApiNoContentResponse, ApiOkResponse, ApiProduces, ApiTags } from '@nestjs/swagger';
import type { Request, Response } from 'express';
import type { VocabularyChange } from './term.entity';
import {
  BringTermsDto,
  BroughtDto,
  FollowingDto,
  LastChangeDto,
  ShootRostersDto,
  termChange,
  TermChangeDto,
  TermColumnsDto,
  UnfiledWordDto,
  VocabularyChangeDto,
  VocabularyTextAskedDto,
} from './vocabulary.dto';
import { RostersService } from './rosters.service';
import { VocabularyService } from './vocabulary.service';

const TYPES = { indented: 'text/plain', turtle: 'text/turtle' } as const;
const ENDINGS = { indented: 'txt', turtle: 'ttl' } as const;

const shown = ({ id, at, words, state, frames }: VocabularyChange): VocabularyChangeDto => ({
  ...{ id, at, words, state, frames },
});

@ApiTags('vocabulary')
@Controller('api/vocabulary')
export class VocabularyController {
  constructor(
    private readonly vocabulary: VocabularyService,
    private readonly shootRosters: RostersService,
  ) {}

  /** All terms, as columns: id, word, parent, synonyms (JSON), kind, deliver (0 or 1). */
  @Get()
  @ApiOkResponse({ type: TermColumnsDto })
  async terms(
    @Req() request: Request,
    @Res({ passthrough: true }) response: Response,
  ): Promise<StreamableFile> {
    const gzip = request.acceptsEncodings('gzip') === 'gzip';
    const columns = await this.vocabulary.columns(gzip);
    response.vary('Accept-Encoding');
    if (gzip) response.setHeader('Content-Encoding', 'gzip');
    return new StreamableFile(columns, { type: 'application/json; charset=utf-8' });
  }

  /** What was done last, and can be taken back. */
  @Get('last')
  @ApiOkResponse({ type: LastChangeDto })
  async last(): Promise<LastChangeDto> {
    const last = await this.vocabulary.last();
    return { last: last && shown(last) };
  }

  /** The numbered lists by which persons of a shoot are named. */
  @Get('rosters/:shootId')
  @ApiOkResponse({ type: ShootRostersDto })
  async rosters(@Param('shootId') shootId: string): Promise<ShootRostersDto> {
    return { terms: await this.shootRosters.of(shootId) };
  }

  @Put('rosters/:shootId')
  @HttpCode(204)
  @ApiNoContentResponse()
  async useRosters(@Param('shootId') shootId: string, @Body() { terms }: ShootRostersDto): Promise<void> {
    await this.shootRosters.use(shootId, terms);
  }

  /** Keywords of frames that are no term. */
  @Get('unfiled')
  @ApiOkResponse({ type: [UnfiledWordDto] })
  unfiled(): Promise<UnfiledWordDto[]> {
    return this.vocabulary.unfiled();
  }

  @Get('text')
  @ApiProduces(...Object.values(TYPES))
  @ApiOkResponse({ schema: { type: 'string' } })
  async text(@Query() { format }: VocabularyTextAskedDto): Promise<StreamableFile> {
    return new StreamableFile(Buffer.from(await this.vocabulary.text(format)), {
      type: `${TYPES[format]}; charset=utf-8`,
      disposition: `attachment; filename="vocabulary.${ENDINGS[format]}"`,
    });
  }

  /** What a change would do to frames; an error says why it cannot be. */
  @Post('preview')
  @HttpCode(200)
  @ApiOkResponse({ type: FollowingDto })
  preview(@Body() change: TermChangeDto): Promise<FollowingDto> {
    return this.vocabulary.preview(termChange(change));
  }

  @Post('changes')
  @HttpCode(200)
  @ApiOkResponse({ type: VocabularyChangeDto })
  async change(@Body() change: TermChangeDto): Promise<VocabularyChangeDto> {
    return shown(await this.vocabulary.change(termChange(change)));
  }

  @Post('undo')
  @HttpCode(200)
  @ApiOkResponse({ type: VocabularyChangeDto })
  async undo(): Promise<VocabularyChangeDto> {
    return shown(await this.vocabulary.undo());
  }

  @Post('terms')
  @HttpCode(200)
  @ApiOkResponse({ type: BroughtDto })
  bring(@Body() { text, format, bring }: BringTermsDto): Promise<BroughtDto> {
    return this.vocabulary.bring(text, format, bring);
  }
}
