import { Body, Controller, Get, Post } from '@nestjs/common';
import { ApiOkResponse, ApiTags } from '@nestjs/swagger';
import { AddVolumeDto, VolumeDto } from './volumes.dto';
import { VolumesService } from './volumes.service';

@ApiTags('volumes')
@Controller('api/volumes')
export class VolumesController {
  constructor(private readonly volumes: VolumesService) {}

  @Get()
  @ApiOkResponse({ type: [VolumeDto] })
  async list(): Promise<VolumeDto[]> {
    return (await this.volumes.list()).map(VolumeDto.of);
  }

  @Post()
  @ApiOkResponse({ type: VolumeDto })
  async add(@Body() body: AddVolumeDto): Promise<VolumeDto> {
    const { id } = await this.volumes.add(body);
    return VolumeDto.of((await this.volumes.list()).find(({ volume }) => volume.id === id)!);
  }
}
