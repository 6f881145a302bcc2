import { Body, Controller, Get, HttpCode, Param, Patch, Post, Query } from '@nestjs/common';
import { ApiOkResponse, ApiTags } from '@nestjs/swagger';
import { AddVolumeDto, ChangeVolumeDto, SuggestedPlaceDto, VolumeDto } from './volumes.dto';
import { PlacesService } from './places.service';
import { VolumesService } from './volumes.service';

@ApiTags('volumes')
@Controller('api/volumes')
export class VolumesController {
  constructor(
    private readonly volumes: VolumesService,
    private readonly places: PlacesService,
  ) {}

  @Get()
  @ApiOkResponse({ type: [VolumeDto] })
  async list(): Promise<VolumeDto[]> {
    return (await this.volumes.list()).map(VolumeDto.of);
  }

  /** Where pictures could live. */
  @Get('suggestions')
  @ApiOkResponse({ type: [SuggestedPlaceDto] })
  suggestions(): Promise<SuggestedPlaceDto[]> {
    return this.places.suggestions();
  }

  /** Folders whose full path begins so. */
  @Get('folders')
  @ApiOkResponse({ type: [String] })
  folders(@Query('from') from: string): Promise<string[]> {
    return this.places.foldersFrom(from ?? '');
  }

  @Post()
  @ApiOkResponse({ type: VolumeDto })
  async add(@Body() body: AddVolumeDto): Promise<VolumeDto> {
    const { id } = await this.volumes.add(body);
    return this.one(id);
  }

  @Patch(':id')
  @ApiOkResponse({ type: VolumeDto })
  async change(@Param('id') id: string, @Body() body: ChangeVolumeDto): Promise<VolumeDto> {
    await this.volumes.change(id, body);
    return this.one(id);
  }

  /** Makes a drive this archive's again, which another one had made its own. */
  @Post(':id/back')
  @HttpCode(204)
  async takeBack(@Param('id') id: string): Promise<void> {
    await this.volumes.takeBack(id);
  }

  @Post(':id/eject')
  @HttpCode(204)
  async eject(@Param('id') id: string): Promise<void> {
    await this.volumes.eject(id);
  }

  private async one(id: string): Promise<VolumeDto> {
    return VolumeDto.of((await this.volumes.list()).find(({ volume }) => volume.id === id)!);
  }
}
