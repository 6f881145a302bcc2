import { readFileSync } from 'node:fs';
import path from 'node:path';
import { VolumesService } from '../src/volumes/volumes.service';
import { removeFolder, startArkiv, temporaryFolder, volumeOf } from './testArkiv';
import { ended, serverProcess, startServer } from './serverProcess';

describe('a data directory', () => {
  let data: string;
  beforeEach(() => (data = temporaryFolder()));
  afterEach(() => removeFolder(data));

  it('has one server: a second start is refused, with the address of the running one', async () => {
    const first = await startServer(data);
    try {
      const second = serverProcess(data);
      let said = '';
      second.stderr!.on('data', (chunk: Buffer) => (said += String(chunk)));
      expect(await ended(second)).toBe(1);
      expect(said).toContain(`open already: ${first.client.base}/`);
      // The first one goes on as if nothing had been.
      expect(await first.client.get('/health')).toMatchObject({ volumes: 3 });
    } finally {
      first.process.kill();
      await ended(first.process);
    }
  });

  it('is free again when its server was killed, whatever that one left behind', async () => {
    const first = await startServer(data);
    first.process.kill('SIGKILL');
    await ended(first.process);
    expect(readFileSync(path.join(data, 'arkiv.address'), 'utf8')).toContain(first.client.base);
    const second = await startServer(data);
    expect(readFileSync(path.join(data, 'arkiv.address'), 'utf8')).toContain(second.client.base);
    second.process.kill();
    await ended(second.process);
  });

  it('is refused before the database is opened: two in one process are refused as well', async () => {
    const arkiv = await startArkiv(data);
    await expect(startArkiv(data)).rejects.toMatchObject({ code: 'archive.open' });
    await arkiv.stop();
    await (await startArkiv(data)).stop();
  });

  it('is an archive with an id and a name, which its drives bear', async () => {
    const arkiv = await startArkiv(data);
    const own = (name: 'working') =>
      JSON.parse(readFileSync(path.join(volumeOf(data, name), '.arkiv-volume.json'), 'utf8')) as {
        archives: { id: string; name: string }[];
      };
    const { archive } = await arkiv.get<{ archive: { id: string; name: string } }>('/settings');
    expect(archive).toMatchObject({ id: expect.stringMatching(/^[0-9A-Z]{26}$/), name: 'Arkiv' });
    expect(own('working').archives).toEqual([archive]);
    await arkiv.ask('PATCH', '/settings', { studio: 'Lantern Row' });
    // Drives are signed after the answer, in the order of all that is looked at on them.
    await arkiv.app.get(VolumesService).lookAround();
    expect(own('working').archives).toEqual([{ id: archive.id, name: 'Lantern Row' }]);
    await arkiv.stop();
  });
});
