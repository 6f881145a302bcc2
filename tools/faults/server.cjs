// The server as it is, with disk and writer replaced by ones that fail when told to.
require('reflect-metadata');
const { Test } = require('@nestjs/testing');
const { AppModule } = require('@arkiv/server/dist/app.module.js');
const { makeConfig } = require('@arkiv/server/dist/config/config.js');
const { UnitOfWork } = require('@arkiv/server/dist/db/unitOfWork.js');
const { WRITE_SOURCE } = require('@arkiv/server/dist/db/sources.js');
const { Happenings } = require('@arkiv/server/dist/events/domainEvents.js');
const { Disk } = require('@arkiv/server/dist/disk/disk.js');
const { NodeDisk } = require('@arkiv/server/dist/disk/nodeDisk.js');
const { setUp } = require('@arkiv/server/dist/setup.js');
const { Control, FaultDisk } = require('./disk.cjs');

const asked = JSON.parse(process.env.ARKIV_FAULT);
const control = new Control(asked.fault, asked.places, asked.sabotage);

/** Numbers every transaction: dies before it, inside it before the commit, or after it. */
class FaultyWork extends UnitOfWork {
  write(work) {
    if (!control.strikes('commit')) return super.write(work);
    const { when } = control.fault;
    const dead = new Promise(() => {});
    if (when === 'before') {
      control.die();
      return dead;
    }
    if (when === 'half')
      return super.write(async (manager) => {
        await work(manager);
        control.die();
        return dead;
      });
    return super.write(work).then(() => {
      control.die();
      return dead;
    });
  }
}

async function main() {
  const config = makeConfig({}, { ...process.env, ARKIV_STAND_INS: '0', ARKIV_WEB: '' });
  const builder = Test.createTestingModule({ imports: [AppModule.with(config)] })
    .overrideProvider(Disk)
    .useValue(new FaultDisk(new NodeDisk(), control))
    .overrideProvider(UnitOfWork)
    .useFactory({
      factory: (source, happenings) => new FaultyWork(source, happenings),
      inject: [WRITE_SOURCE, Happenings],
    });
  const app = (await builder.compile()).createNestApplication({
    logger: asked.loud ? ['error', 'warn'] : false,
    bodyParser: false,
    forceCloseConnections: true,
  });
  setUp(app, config);
  const http = app.getHttpAdapter().getInstance();
  http.post('/faults/arm', (_, response) => {
    control.arm();
    response.json({});
  });
  http.post('/faults/forget', (_, response) => {
    control.forget?.();
    response.json({});
  });
  http.get('/faults/counts', (_, response) => response.json({ counts: control.counts, on: control.on }));
  await app.listen(0, '127.0.0.1');
  console.log(`Arkiv is at http://127.0.0.1:${app.getHttpServer().address().port}/`);
}

main().catch((error) => {
  console.error(error.stack);
  process.exit(1);
});
