import { Body, Controller, Delete, Get, HttpCode, Param, Post, Put, Req } from '@nestjs/common';
import { ApiCreatedResponse, ApiNoContentResponse, ApiOkResponse, ApiTags } from '@nestjs/swagger';
import type { Request } from 'express';
import { isFromHere } from '../access/fromHere';
import { ExampleAskedDto, WatchExampleDto, WatchRuleDto, WatchWishDto } from './watch.dto';
import { WatchService } from './watch.service';

@ApiTags('watch')
@Controller('api/watch')
export class WatchController {
  constructor(private readonly watch: WatchService) {}

  /** Folders that are watched. */
  @Get()
  @ApiOkResponse({ type: [WatchRuleDto] })
  async rules(@Req() request: Request): Promise<WatchRuleDto[]> {
    return (await this.watch.rules()).map((rule) => WatchRuleDto.of(rule, isFromHere(request)));
  }

  @Post()
  @ApiCreatedResponse({ type: WatchRuleDto })
  async add(@Body() wish: WatchWishDto, @Req() request: Request): Promise<WatchRuleDto> {
    return WatchRuleDto.of(await this.watch.save(null, { ...wish }), isFromHere(request));
  }

  /** What would happen now with what lies in the folder. Nothing is changed. */
  @Post('example')
  @HttpCode(200)
  @ApiOkResponse({ type: WatchExampleDto })
  example(@Body() { id, ...wish }: ExampleAskedDto): Promise<WatchExampleDto> {
    return this.watch.example(id ?? null, wish);
  }

  @Put(':id')
  @ApiOkResponse({ type: WatchRuleDto })
  async change(
    @Param('id') id: string,
    @Body() wish: WatchWishDto,
    @Req() request: Request,
  ): Promise<WatchRuleDto> {
    return WatchRuleDto.of(await this.watch.save(id, { ...wish }), isFromHere(request));
  }

  /** The folder is watched no more. What lies in it stays. */
  @Delete(':id')
  @HttpCode(204)
  @ApiNoContentResponse()
  remove(@Param('id') id: string): Promise<void> {
    return this.watch.remove(id);
  }

  /** Tries the files that stayed once more. */
  @Post(':id/again')
  @HttpCode(204)
  @ApiNoContentResponse()
  again(@Param('id') id: string): Promise<void> {
    return this.watch.again(id);
  }
}
