import { Controller, Get } from '@nestjs/common';
import { ApiOkResponse, ApiProperty, ApiTags } from '@nestjs/swagger';
import { Access } from '../access/access.service';
import { ArkivConfig } from '../config/config';
import { DatabaseCopies } from '../db/databaseCopies';
import { PreviewStore } from '../previews/previewStore';

export class MachineDto {
  @ApiProperty({ description: 'where the index, previews and logs lie' }) dataDir: string;
  @ApiProperty({ description: 'bytes' }) previewBytes: number;
  @ApiProperty({ type: [String], description: 'days, oldest first' }) databaseCopies: string[];
  @ApiProperty({ description: 'other machines can reach the server' }) network: boolean;
  @ApiProperty() hasPassword: boolean;
  @ApiProperty({ type: String, nullable: true, description: 'SHA-256 of the certificate; null: plain HTTP' })
  fingerprint: string | null;
}

/** What the server keeps for itself, and who can reach it. */
@ApiTags('machine')
@Controller('api/machine')
export class MachineController {
  constructor(
    private readonly config: ArkivConfig,
    private readonly store: PreviewStore,
    private readonly copies: DatabaseCopies,
    private readonly access: Access,
  ) {}

  @Get()
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
