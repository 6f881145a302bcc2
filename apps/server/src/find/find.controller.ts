import { Body, Controller, Get, HttpCode, Param, Post, Query, Req, Res } from '@nestjs/common';
import { ApiConsumes, ApiOkResponse, ApiTags } from '@nestjs/swagger';
import type { FoundFacet, FoundFolders, FramesADay, Suggestion } from '@arkiv/core';
import type { Request, Response } from 'express';
import { DroppedPictures, type Dropped, type HeldAgainst } from './dropped.service';
import {
  DroppedAskedDto,
  DroppedDto,
  FindDto,
  FoundColumnsDto,
  FoldersAskedDto,
  FoundDto,
  FoundFoldersDto,
  FoundFacetDto,
  FoundPageAskedDto,
  FramesADayDto,
  FramesByIdDto,
  HeldAgainstDto,
  HoldAgainstDto,
  MOST_IDS,
  SuggestionDto,
  SuggestionsAskedDto,
  YearAskedDto,
} from './find.dto';
import { FindService } from './find.service';

/** Sends what is JSON already. */
function json(response: Response, text: string): string {
  response.type('application/json');
  return text;
}

@ApiTags('find')
@Controller('api/find')
export class FindController {
  constructor(
    private readonly service: FindService,
    private readonly dropped: DroppedPictures,
  ) {}

  /** Frames anywhere in the archive that a line of words and facts finds: how many, under which headings, and the first. */
  @Post()
  @HttpCode(200)
  @ApiOkResponse({ type: FoundDto })
  async find(@Body() body: FindDto, @Res({ passthrough: true }) response: Response): Promise<string> {
    const found = await this.service.find(
      {
        line: body.line,
        typing: body.typing ?? false,
        rejects: body.rejects ?? false,
        bin: body.bin ?? false,
        heading: body.heading ?? 'none',
        oldestFirst: body.oldestFirst ?? false,
        fold: body.fold ?? false,
        like: body.like ?? null,
        album: body.album ?? null,
        seen: body.seen ?? null,
      },
      // The window that asked has asked something else since, or is gone.
      (overtake) => response.on('close', overtake),
    );
    // Where it was overtaken nobody reads it.
    return json(response, found ?? 'null');
  }

  /** The frame that a picture from elsewhere was made from, or what the picture is like; the bytes of its file are the body. */
  @Post('picture')
  @HttpCode(200)
  @ApiConsumes('application/octet-stream')
  @ApiOkResponse({ type: DroppedDto })
  picture(@Query() { name }: DroppedAskedDto, @Req() request: Request): Promise<Dropped> {
    return this.dropped.of(name ?? 'the picture', request);
  }

  /** Holds a picture that was not found at once against some more frames, those that came last first. */
  @Post('picture/:token/further')
  @HttpCode(200)
  @ApiOkResponse({ type: HeldAgainstDto })
  further(@Param('token') token: string, @Body() { before }: HoldAgainstDto): Promise<HeldAgainst> {
    return this.dropped.further(token, before ?? null);
  }

  /** How many frames were taken on each day of a year. */
  @Get('days')
  @ApiOkResponse({ type: FramesADayDto })
  days(@Query() { year }: YearAskedDto): Promise<FramesADay> {
    return this.service.days(year);
  }

  /** The folders in which frames lie, as they lie on the drives: those in one. */
  @Get('folders')
  @ApiOkResponse({ type: FoundFoldersDto })
  folders(@Query() { path }: FoldersAskedDto): Promise<FoundFolders> {
    return this.service.folders(path ?? '');
  }

  /** What could be typed further. */
  @Get('suggestions')
  @ApiOkResponse({ type: [SuggestionDto] })
  suggestions(@Query() { line }: SuggestionsAskedDto): Promise<Suggestion[]> {
    return this.service.suggestions(line);
  }

  /** Frames of any shoots by their ids, in this order; what is nowhere any more is left out. */
  @Post('frames')
  @HttpCode(200)
  @ApiOkResponse({ type: FoundColumnsDto })
  async byIds(
    @Body() { ids }: FramesByIdDto,
    @Res({ passthrough: true }) response: Response,
  ): Promise<string> {
    return json(response, await this.service.frames(ids));
  }

  /** Of some frames the ids of those whose pictures lie on drives that are away. */
  @Post('away')
  @HttpCode(200)
  @ApiOkResponse({ type: [String] })
  away(@Body() { ids }: FramesByIdDto): Promise<string[]> {
    return this.service.away(ids);
  }

  /** Some of the frames that were found. */
  @Get(':token/frames')
  @ApiOkResponse({ type: FoundColumnsDto })
  async frames(
    @Param('token') token: string,
    @Query() { from, count }: FoundPageAskedDto,
    @Res({ passthrough: true }) response: Response,
  ): Promise<string> {
    return json(response, await this.service.page(token, from, count));
  }

  /** Ids of the frames that were found, in their order; the first of very many. */
  @Get(':token/ids')
  @ApiOkResponse({ type: [String] })
  ids(@Param('token') token: string): Promise<string[]> {
    return this.service.ids(token, MOST_IDS);
  }

  /** How many of the found frames have each value of each fact. */
  @Get(':token/facets')
  @ApiOkResponse({ type: [FoundFacetDto] })
  async facets(@Param('token') token: string): Promise<FoundFacetDto[]> {
    const facets = await this.service.facets(token);
    return (Object.keys(facets) as FoundFacet[]).map((fact) => ({ fact, ...facets[fact]! }));
  }
}
