import { Body, Controller, Get, HttpCode, Param, Post, Put } from '@nestjs/common';
import { ApiNoContentResponse, ApiOkResponse, ApiTags } from '@nestjs/swagger';
import { EditsOfFrameDto, ReturnAnswerDto, ReturnDto, ReturnFoldersDto } from './returns.dto';
import { ReturnsService } from './returns.service';
import { ReturnsWatch } from './returnsWatch.service';

@ApiTags('returns')
@Controller('api')
export class ReturnsController {
  constructor(
    private readonly returns: ReturnsService,
    private readonly watch: ReturnsWatch,
  ) {}

  /** What came back from editing, the newest first. */
  @Get('shoots/:id/returns')
  @ApiOkResponse({ type: [ReturnDto] })
  list(@Param('id') id: string): Promise<ReturnDto[]> {
    return this.returns.list(id);
  }

  /** Looks into the folders where edits come back, now. */
  @Post('shoots/:id/returns/look')
  @HttpCode(204)
  @ApiNoContentResponse()
  look(@Param('id') id: string): Promise<void> {
    return this.watch.look(id);
  }

  /** Folders in which edits come back, besides the shoot's own. */
  @Get('shoots/:id/returns/folders')
  @ApiOkResponse({ type: ReturnFoldersDto })
  async folders(@Param('id') id: string): Promise<ReturnFoldersDto> {
    return { folders: await this.returns.folders(id) };
  }

  @Put('shoots/:id/returns/folders')
  @ApiOkResponse({ type: ReturnFoldersDto })
  async setFolders(
    @Param('id') id: string,
    @Body() { folders }: ReturnFoldersDto,
  ): Promise<ReturnFoldersDto> {
    return { folders: await this.returns.setFolders(id, folders) };
  }

  /** Says what an edit was made from. */
  @Put('returns/:assetId/originals')
  @HttpCode(204)
  @ApiNoContentResponse()
  answer(@Param('assetId') assetId: string, @Body() { frameIds }: ReturnAnswerDto): Promise<void> {
    return this.returns.answer(assetId, frameIds);
  }

  /** A frame's edits, and what its camera took. */
  @Get('returns/of/:frameId')
  @ApiOkResponse({ type: EditsOfFrameDto })
  editsOf(@Param('frameId') frameId: string): Promise<EditsOfFrameDto> {
    return this.returns.editsOf(frameId);
  }
}
