// What is kept of an archive's numbers against what its rows say, counted by the server's own check, with its foreign keys.
import { createRequire } from 'node:module';
import path from 'node:path';
import { ROOT } from '../../bootstrap.mjs';

/** In words, each difference; none when all numbers are true. No server may have the archive open. */
export async function differencesIn(data) {
  const require = createRequire(path.join(ROOT, 'apps/server/package.json'));
  require('reflect-metadata');
  const { NestFactory } = require('@nestjs/core');
  const part = (name) => require(`./dist/${name}.js`);
  const { CONFIG_DEFAULTS } = part('config/config');
  const app = await NestFactory.createApplicationContext(
    part('app.module').AppModule.with({ ...CONFIG_DEFAULTS, dataDir: data, port: 0, standIns: false }),
    { logger: ['error'] },
  );
  try {
    const recounts = app.get(part('frames/recounts.service').Recounts);
    await recounts.settled();
    const shared = app.get(part('duplicates/sharedContents.service').SharedContents);
    return [...(await recounts.differences()), ...(await shared.differences())];
  } finally {
    await app.close();
  }
}
