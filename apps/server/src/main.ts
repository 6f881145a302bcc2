import 'reflect-metadata';
import os from 'node:os';
import path from 'node:path';
import { NestFactory } from '@nestjs/core';
import type { NestExpressApplication } from '@nestjs/platform-express';
import { AppModule } from './app.module';
import { ArkivError } from '@arkiv/core';
import { ArchiveList } from './archives/archiveList';
import { ArchivesService } from './archives/archives.service';
import { firstFree, portsToTry } from './archives/freePort';
import type { Started } from './archives/starter';
import { Access } from './access/access.service';
import { certificateFor } from './access/certificate';
import { isLoopback, makeConfig, type ArkivConfig } from './config/config';
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

/**
 * Milliseconds that a connection stays open with nothing asked over it. A window asks now and then; after five seconds, which are usual,
 * it had to connect anew, or met a connection that was just being closed. Proxies that stand before a server keep theirs for a minute.
 */
const KEPT_OPEN = 65_000;

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
  // Simulated devices are for trying things out: no such archive is listed among those that work is done in.
  if (process.env.ARKIV_ARCHIVES === undefined && !config.standIns)
    config.archivesFile = path.join(dataFolder(process.platform, process.env, os.homedir()), 'archives.json');
  if (!isPortGiven(text, process.env)) config.port = await portOf(config);
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
  app.getHttpServer().keepAliveTimeout = KEPT_OPEN;
  const address = app.getHttpServer().address() as { port: number };
  const place = `${network ? 'https' : 'http'}://${hostShown(config.host)}:${address.port}/`;
  await app.get(ArchiveLock).tell(place);
  await app.get(ArchivesService).answersAt(address.port);
  tell({ address: place });
  console.log(`Arkiv is at ${place}`);
  if (certificate?.own)
    console.log(
      `Browsers ask once whether its certificate is trusted. Its SHA-256 is ${certificate.fingerprint}`,
    );
}

/** Whoever named a port wants that one and no other. */
const isPortGiven = (text: string | null, env: NodeJS.ProcessEnv): boolean =>
  env.ARKIV_PORT !== undefined || (text !== null && 'port' in (JSON.parse(text) as object));

/** An archive answers where it did last; beside others it finds a place of its own. */
async function portOf({ archivesFile, dataDir, host, port }: ArkivConfig): Promise<number> {
  const listed = await new ArchiveList(new NodeDisk(), archivesFile).all();
  const last = listed.find(({ folder }) => folder === dataDir)?.port ?? null;
  return firstFree(host, portsToTry(last, port));
}

/** To the archive from whose page this one was opened, if it was. */
function tell(said: Started): void {
  if (process.connected) process.send!(said, () => process.connected && process.disconnect());
}

main().catch((error: unknown) => {
  const next = error instanceof ArkivError ? ` ${error.body().next}` : '';
  const taken = (error as { code?: string }).code === 'EADDRINUSE';
  const why = taken
    ? 'another program answers at this port already. Choose another one with ARKIV_PORT.'
    : `${(error as Error).message}${next}`;
  console.error(`Arkiv could not start: ${why}`);
  tell({ failed: why });
  process.exitCode = 1;
});
