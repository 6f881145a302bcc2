import { Controller, Get } from '@nestjs/common';
import { ApiOkResponse, ApiProperty, ApiTags } from '@nestjs/swagger';
import { Access } from '../access/access.service';
import { ArkivConfig } from '../config/config';
import { DatabaseCopies } from '../db/databaseCopies';
import { MIGRATIONS } from '../db/migrations';
import { Disk } from '../disk/disk';
import { PreviewStore } from '../previews/previewStore';
import { VolumesService } from '../volumes/volumes.service';

export const VERSION = '0.1.0';

export class MachineDto {
  @ApiProperty({ description: 'where the index, previews and logs lie' }) dataDir: string;
  @ApiProperty({ description: 'bytes' }) previewBytes: number;
  @ApiProperty({ type: [String], description: 'days, oldest first' }) databaseCopies: string[];
  @ApiProperty({ description: 'other machines can reach the server' }) network: boolean;
  @ApiProperty() hasPassword: boolean;
  @ApiProperty({ type: String, nullable: true, description: 'SHA-256 of the certificate; null: plain HTTP' })
  fingerprint: string | null;
}

export class HealthDto {
  @ApiProperty() version: string;
  @ApiProperty() schema: string;
  @ApiProperty({ description: 'bytes free for the database and previews' }) free: number;
  @ApiProperty() volumesOnline: number;
  @ApiProperty() volumes: number;
}

/** What the server keeps for itself, and who can reach it. */
@ApiTags('machine')
@Controller('api')
export class MachineController {
  constructor(
    private readonly config: ArkivConfig,
    private readonly store: PreviewStore,
    private readonly copies: DatabaseCopies,
    private readonly access: Access,
    private readonly volumes: VolumesService,
    private readonly disk: Disk,
  ) {}

  @Get('health')
  @ApiOkResponse({ type: HealthDto })
  async health(): Promise<HealthDto> {
    const volumes = await this.volumes.all();
    const online = await Promise.all(volumes.map((volume) => this.volumes.isOnline(volume)));
    return {
      version: VERSION,
      schema: new (MIGRATIONS.at(-1)!)().name,
      free: (await this.disk.space(this.config.dataDir)).free,
      volumesOnline: online.filter(Boolean).length,
      volumes: volumes.length,
    };
  }

  @Get('machine')
  @ApiOkResponse({ type: MachineDto })
  async get(): Promise<MachineDto> {
    return {
      dataDir: this.config.dataDir,
      previewBytes: await this.store.bytes(),
      databaseCopies: await this.copies.days(),
      network: this.access.required,
      hasPassword: await this.access.hasPassword(),
      fingerprint: this.access.fingerprint,
    };
  }
}
