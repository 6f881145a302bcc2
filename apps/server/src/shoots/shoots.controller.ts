import { Body, Controller, Get, HttpCode, Param, Put, Query, Req, Res, StreamableFile } from '@nestjs/common';
import { ApiOkResponse, ApiTags } from '@nestjs/swagger';
import type { Request, Response } from 'express';
import { Happenings } from '../events/domainEvents';
import {
  ChooseLeadsDto,
  FolderLeadsDto,
  CorrectClocksDto,
  FrameColumnsDto,
  ShootFramesAskedDto,
  ShootDto,
  ShootGroupDto,
  ShootGroupsAskedDto,
  ShootsAskedDto,
  ShootTotalsDto,
  SkimmedFrameDto,
} from './shoots.dto';
import { ShootsService, type ShootGroup, type SkimmedFrame } from './shoots.service';

@ApiTags('shoots')
@Controller('api/shoots')
export class ShootsController {
  constructor(
    private readonly shoots: ShootsService,
    private readonly happenings: Happenings,
  ) {}

  /** A page of shoots, the newest first; `before` names the last one of the page before. */
  @Get()
  @ApiOkResponse({ type: [ShootDto] })
  async list(@Query() asked: ShootsAskedDto): Promise<ShootDto[]> {
    return (await this.shoots.list(asked)).map(ShootDto.of);
  }

  /** All of them in numbers, by month. */
  @Get('totals')
  @ApiOkResponse({ type: ShootTotalsDto })
  totals(@Query() { find }: ShootsAskedDto): Promise<ShootTotalsDto> {
    return this.shoots.totals(find);
  }

  /** All clients, or all places, each with its shoots in numbers. */
  @Get('groups')
  @ApiOkResponse({ type: [ShootGroupDto] })
  groups(@Query() { by }: ShootGroupsAskedDto): Promise<ShootGroup[]> {
    return this.shoots.groups(by);
  }

  @Get(':id')
  @ApiOkResponse({ type: ShootDto })
  async get(@Param('id') id: string): Promise<ShootDto> {
    return ShootDto.of(await this.shoots.summary(await this.shoots.get(id)));
  }

  /** Its frames in order of time, spread evenly over it: what one sees who passes over it. */
  @Get(':id/skim')
  @ApiOkResponse({ type: [SkimmedFrameDto] })
  skim(@Param('id') id: string): Promise<SkimmedFrame[]> {
    return this.shoots.skim(id);
  }

  /** Says which frames stand for it. */
  @Put(':id/leads')
  @HttpCode(204)
  leads(@Param('id') id: string, @Body() { frameIds }: ChooseLeadsDto): Promise<void> {
    return this.shoots.chooseLeads(id, 'chosenLeads', frameIds);
  }

  /** Says which frames stand for its folders, each for the one that it lies in. */
  @Put(':id/folder-leads')
  @HttpCode(204)
  folderLeads(@Param('id') id: string, @Body() { frameIds }: FolderLeadsDto): Promise<void> {
    return this.shoots.chooseLeads(id, 'folderLeads', frameIds);
  }

  /** Corrects clocks of bodies; the camera's own times and the files' names stay. */
  @Put(':id/clocks')
  @HttpCode(204)
  clocks(@Param('id') id: string, @Body() body: CorrectClocksDto): Promise<void> {
    return this.shoots.correctClocks(id, body.corrections);
  }

  /** Ids of its frames whose pictures lie on drives that are away. */
  @Get(':id/away')
  @ApiOkResponse({ type: [String] })
  away(@Param('id') id: string): Promise<string[]> {
    return this.shoots.away(id);
  }

  /** Its frames as packed columns: all of them, or some by their ids. */
  @Get(':id/frames')
  @ApiOkResponse({ type: FrameColumnsDto })
  async frames(
    @Param('id') id: string,
    @Query() { only }: ShootFramesAskedDto,
    @Req() request: Request,
    @Res({ passthrough: true }) response: Response,
  ): Promise<StreamableFile> {
    const gzip = request.acceptsEncodings('gzip') === 'gzip';
    const columns = await this.shoots.columns(id, { ...(only && { only }), gzip });
    if (!only) this.happenings.tell('opened', { shootId: id });
    response.vary('Accept-Encoding');
    if (gzip) response.setHeader('Content-Encoding', 'gzip');
    return new StreamableFile(columns, { type: 'application/json; charset=utf-8' });
  }
}
