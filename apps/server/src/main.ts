import 'reflect-metadata';
import path from 'node:path';
import { NestFactory } from '@nestjs/core';
import type { NestExpressApplication } from '@nestjs/platform-express';
import { AppModule } from './app.module';
import { makeConfig } from './config/config';
import { NodeDisk } from './disk/nodeDisk';
import { readOwn } from './disk/place';
import { setUp } from './setup';

async function main(): Promise<void> {
  const dataDir = path.resolve(process.env.ARKIV_DATA ?? 'data');
  const text = await readOwn(new NodeDisk(), path.join(dataDir, 'arkiv.config.json'));
  const config = makeConfig(text ? (JSON.parse(text) as Record<string, unknown>) : {}, {
    ...process.env,
    ARKIV_DATA: dataDir,
  });
  const app = await NestFactory.create<NestExpressApplication>(AppModule.with(config), {
    logger: ['error', 'warn'],
    forceCloseConnections: true,
    bodyParser: false,
  });
  setUp(app, config);
  await app.listen(config.port, config.host);
  const address = app.getHttpServer().address() as { port: number };
  console.log(`Arkiv is at http://${config.host}:${address.port}/`);
}

main().catch((error: unknown) => {
  console.error(`Arkiv could not start: ${(error as Error).message}`);
  process.exitCode = 1;
});
