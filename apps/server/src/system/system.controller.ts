import { Body, Controller, Get, Patch } from '@nestjs/common';
import { ApiOkResponse, ApiTags } from '@nestjs/swagger';
import { ArkivConfig } from '../config/config';
import { MIGRATIONS } from '../db/migrations';
import { Disk } from '../disk/disk';
import { EventsService } from '../events/events.service';
import { VolumesService } from '../volumes/volumes.service';
import { SettingsService } from './settings.service';
import { ChangeSettingsDto, HealthDto, SettingsDto } from './system.dto';

export const VERSION = '0.1.0';

@ApiTags('system')
@Controller('api')
export class SystemController {
  constructor(
    private readonly config: ArkivConfig,
    private readonly settings: SettingsService,
    private readonly volumes: VolumesService,
    private readonly disk: Disk,
    private readonly events: EventsService,
  ) {}

  @Get('health')
  @ApiOkResponse({ type: HealthDto })
  async health(): Promise<HealthDto> {
    const volumes = await this.volumes.list();
    return {
      version: VERSION,
      schema: new (MIGRATIONS.at(-1)!)().name,
      free: (await this.disk.space(this.config.dataDir)).free,
      volumesOnline: volumes.filter((v) => v.online).length,
      volumes: volumes.length,
    };
  }

  @Get('settings')
  @ApiOkResponse({ type: SettingsDto })
  async get(): Promise<SettingsDto> {
    const archive = await this.settings.archive();
    return { ...(await this.settings.all()), archive, standIns: this.config.standIns };
  }

  @Patch('settings')
  @ApiOkResponse({ type: SettingsDto })
  async change(@Body() body: ChangeSettingsDto): Promise<SettingsDto> {
    await this.settings.set(body);
    // Drives say whose they are; those that are away are signed when they are added or seen again.
    if (body.studio !== undefined || body.archiveName !== undefined) await this.volumes.signAll();
    this.events.publish('settings', {});
    return this.get();
  }
}
