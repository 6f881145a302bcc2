import 'reflect-metadata';
import os from 'node:os';
import path from 'node:path';
import { NestFactory } from '@nestjs/core';
import type { NestExpressApplication } from '@nestjs/platform-express';
import { AppModule } from './app.module';
import { CONFIG_DEFAULTS } from './config/config';
import { openApi } from './setup';

/** Prints the API's description; the web's types are made of it. */
async function main(): Promise<void> {
  const dataDir = path.join(os.tmpdir(), `arkiv-openapi-${process.pid}`);
  const app = await NestFactory.create<NestExpressApplication>(
    AppModule.with({ ...CONFIG_DEFAULTS, dataDir, standIns: true }),
    { logger: ['error'] },
  );
  process.stdout.write(`${JSON.stringify(openApi(app), null, 1)}\n`);
  await app.close();
}

void main();
