import path from 'node:path';
import { plainToInstance, Type } from 'class-transformer';
import { IsBoolean, IsInt, IsString, Matches, Max, Min, validateSync } from 'class-validator';

/** All settings of the server, checked once at its start. */
export class ArkivConfig {
  @IsString()
  dataDir: string;

  /** what a new archive is called; one that has a name keeps it */
  @IsString()
  name: string;

  /** the list of this computer's archives; empty: none is kept */
  @IsString()
  archivesFile: string;

  @IsString()
  host: string;

  @Type(() => Number)
  @IsInt()
  @Min(0)
  @Max(65535)
  port: number;

  /** simulated reader, cards and volumes; only in the demo and in tests */
  @IsBoolean()
  standIns: boolean;

  /** the owner's certificate and its key, PEM files; empty: one is made where other machines can reach the server */
  @IsString()
  certificate: string;

  @IsString()
  privateKey: string;

  /** a file whose first line becomes the studio password at the start; for a machine without a screen, or a forgotten one */
  @IsString()
  passwordFile: string;

  /** where the built interface lies; empty: none is served */
  @IsString()
  webDir: string;

  /** where galleries are served, apart from the archive: an address of this machine, and a port; -1: three above the archive's */
  @IsString()
  galleryHost: string;

  @Type(() => Number)
  @IsInt()
  @Min(-1)
  @Max(65535)
  galleryPort: number;

  /** how clients reach them, where that is another address: `https://pictures.example.org`; empty: it is the same */
  @IsString()
  @Matches(/^$|^https?:\/\/[^\s/@?#]+$/, {
    message: 'galleryAddress begins with https:// and ends with the name',
  })
  galleryAddress: string;

  /** where the built script and style of galleries lie; empty: beside the interface's */
  @IsString()
  galleryDir: string;
}

export const CONFIG_DEFAULTS: ArkivConfig = {
  dataDir: 'data',
  name: '',
  archivesFile: '',
  host: '127.0.0.1',
  port: 4750,
  standIns: false,
  certificate: '',
  privateKey: '',
  passwordFile: '',
  webDir: '',
  galleryHost: '127.0.0.1',
  galleryPort: -1,
  galleryAddress: '',
  galleryDir: '',
};

/** Puts the settings together: defaults, then the data directory's file, then ARKIV_* variables. Throws on bad ones. */
export function makeConfig(
  file: Record<string, unknown>,
  env: Record<string, string | undefined>,
): ArkivConfig {
  const fromEnv: Record<string, unknown> = {};
  const take = (key: keyof ArkivConfig, name: string) => {
    if (env[name] !== undefined) fromEnv[key] = env[name];
  };
  take('dataDir', 'ARKIV_DATA');
  take('name', 'ARKIV_NAME');
  take('archivesFile', 'ARKIV_ARCHIVES');
  take('host', 'ARKIV_HOST');
  take('port', 'ARKIV_PORT');
  take('webDir', 'ARKIV_WEB');
  take('galleryHost', 'ARKIV_GALLERY_HOST');
  take('galleryPort', 'ARKIV_GALLERY_PORT');
  take('galleryAddress', 'ARKIV_GALLERY_ADDRESS');
  take('galleryDir', 'ARKIV_GALLERY_WEB');
  take('certificate', 'ARKIV_CERTIFICATE');
  take('privateKey', 'ARKIV_PRIVATE_KEY');
  take('passwordFile', 'ARKIV_PASSWORD_FILE');
  if (env.ARKIV_STAND_INS !== undefined) fromEnv.standIns = env.ARKIV_STAND_INS === '1';
  const config = plainToInstance(ArkivConfig, { ...CONFIG_DEFAULTS, ...file, ...fromEnv });
  const problems = validateSync(config, { whitelist: true, forbidNonWhitelisted: true });
  if (problems.length > 0) {
    const list = problems.map((p) => `${p.property}: ${Object.values(p.constraints ?? {}).join(', ')}`);
    throw new Error(`Settings cannot be used: ${list.join('; ')}`);
  }
  config.dataDir = path.resolve(config.dataDir);
  return config;
}

/** Whether only programs on this machine can reach a server at this address. */
export function isLoopback(host: string): boolean {
  return host === 'localhost' || host === '::1' || /^127(\.\d{1,3}){3}$/.test(host);
}
