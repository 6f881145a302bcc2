import 'reflect-metadata';
import os from 'node:os';
import path from 'node:path';
import { NestFactory } from '@nestjs/core';
import type { NestExpressApplication } from '@nestjs/platform-express';
import { AppModule } from './app.module';
import { ArkivError } from '@arkiv/core';
import { Access } from './access/access.service';
import { certificateFor } from './access/certificate';
import { isLoopback, makeConfig } from './config/config';
import { dataFolder } from './config/dataFolder';
import { ArchiveLock } from './db/archiveLock';
import { NodeDisk } from './disk/nodeDisk';
import { readOwn } from './disk/place';
import { setUp } from './setup';
import { Clock } from './system/clock';
import { FileLogger } from './system/fileLogger';
import { hostShown } from './system/hostShown';

// A drive that hangs takes a thread with each file it is asked for; with the four that are usual, two jobs on it would
// hold up all others. Read when the first of them is begun, which is after this.
process.env.UV_THREADPOOL_SIZE ??= '32';

/** Leaves out what the framework says of a start that fails: the reason is said once, in words. */
class StartLogger extends FileLogger {
  override error(message: unknown, ...rest: unknown[]): void {
    if (rest.at(-1) !== 'ExceptionHandler') super.error(message, ...rest);
  }
}

async function main(): Promise<void> {
  const dataDir = path.resolve(
    process.env.ARKIV_DATA || dataFolder(process.platform, process.env, os.homedir()),
  );
  const text = await readOwn(new NodeDisk(), path.join(dataDir, 'arkiv.config.json'));
  const config = makeConfig(text ? (JSON.parse(text) as Record<string, unknown>) : {}, {
    ...process.env,
    ARKIV_DATA: dataDir,
  });
  const network = !isLoopback(config.host);
  const certificate = network ? await certificateFor(config, new NodeDisk(), new Clock().now()) : null;
  const app = await NestFactory.create<NestExpressApplication>(AppModule.with(config), {
    logger: await StartLogger.open(dataDir, ['error', 'warn']),
    // What stops the start is said once, below.
    abortOnError: false,
    forceCloseConnections: true,
    bodyParser: false,
    ...(certificate ? { httpsOptions: { cert: certificate.cert, key: certificate.key } } : {}),
  });
  setUp(app, config);
  const access = app.get(Access);
  if (config.passwordFile !== '') await access.setFromFile(config.passwordFile);
  if (certificate) {
    try {
      await access.open(certificate.fingerprint);
    } catch (error) {
      await app.close();
      throw error;
    }
  }
  await app.listen(config.port, config.host);
  const address = app.getHttpServer().address() as { port: number };
  const place = `${network ? 'https' : 'http'}://${hostShown(config.host)}:${address.port}/`;
  await app.get(ArchiveLock).tell(place);
  console.log(`Arkiv is at ${place}`);
  if (certificate?.own)
    console.log(
      `Browsers ask once whether its certificate is trusted. Its SHA-256 is ${certificate.fingerprint}`,
    );
}

main().catch((error: unknown) => {
  const next = error instanceof ArkivError ? ` ${error.body().next}` : '';
  const taken = (error as { code?: string }).code === 'EADDRINUSE';
  console.error(
    taken
      ? `Arkiv could not start: another program answers at this port already. Choose another one with ARKIV_PORT.`
      : `Arkiv could not start: ${(error as Error).message}${next}`,
  );
  process.exitCode = 1;
});
