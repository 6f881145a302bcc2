import { Body, Controller, Get, Patch } from '@nestjs/common';
import { ApiOkResponse, ApiTags } from '@nestjs/swagger';
import { ArkivConfig } from '../config/config';
import { SettingsService } from './settings.service';
import { ChangeSettingsDto, SettingsDto } from './settings.dto';

@ApiTags('settings')
@Controller('api/settings')
export class SettingsController {
  constructor(
    private readonly config: ArkivConfig,
    private readonly settings: SettingsService,
  ) {}

  @Get()
  @ApiOkResponse({ type: SettingsDto })
  async get(): Promise<SettingsDto> {
    const archive = await this.settings.archive();
    const { programs: _, ...settings } = await this.settings.all();
    return { ...settings, archive, standIns: this.config.standIns };
  }

  @Patch()
  @ApiOkResponse({ type: SettingsDto })
  async change(@Body() body: ChangeSettingsDto): Promise<SettingsDto> {
    await this.settings.set(body);
    return this.get();
  }
}
