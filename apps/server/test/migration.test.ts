import { mkdirSync, readdirSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { DataSource } from 'typeorm';
import { MIGRATIONS } from '../src/db/migrations';
import { removeFolder, startArkiv, temporaryFolder } from './testArkiv';

/** Schema of the last version that told partitions apart instead of disks. */
const OF_BEFORE = 2;

async function oldDatabase(data: string, fill: (source: DataSource) => Promise<void>): Promise<void> {
  const source = await new DataSource({
    type: 'better-sqlite3',
    database: path.join(data, 'archive.sqlite'),
    migrations: MIGRATIONS.slice(0, OF_BEFORE),
  }).initialize();
  await source.runMigrations();
  await fill(source);
  await source.destroy();
}

describe('a database of an earlier version', () => {
  it('is taken over: its drives keep their files, and are judged anew', async () => {
    const data = temporaryFolder();
    const root = path.join(data, 'pictures');
    mkdirSync(root);
    writeFileSync(
      path.join(root, '.arkiv-volume.json'),
      JSON.stringify({ id: 'V1', name: 'Old', made: 'x', device: 'mine' }),
    );
    await oldDatabase(data, async (source) => {
      const add = `INSERT INTO volume (id, name, root, role, device, "addedAt") VALUES (?, ?, ?, ?, ?, 1)`;
      await source.query(add, ['V1', 'Old', root, 'working', 'mine']);
      await source.query(add, ['V2', 'Away', '/no/such/place', 'backup', 'device-7']);
      await source.query(`INSERT INTO setting VALUES ('creator', '"Ines Ockham"')`);
    });
    const arkiv = await startArkiv(data, undefined, { standIns: false });
    try {
      const settings = await arkiv.get<{ creator: string; archive: { id: string } }>('/settings');
      expect(settings).toMatchObject({ creator: 'Ines Ockham', archive: { id: expect.any(String) } });
      await arkiv.ask('PATCH', '/volumes/V1', { name: 'Old' });
      const drives =
        await arkiv.get<{ id: string; online: boolean; device: string; deviceUnknown: boolean }[]>(
          '/volumes',
        );
      // What the id file said is nobody's word; a drive that is away is unknown until it is seen.
      expect(drives.find((d) => d.id === 'V1')).toMatchObject({ online: true });
      expect(drives.find((d) => d.id === 'V1')!.device).not.toBe('mine');
      expect(drives.find((d) => d.id === 'V2')).toMatchObject({ online: false, deviceUnknown: true });
      // A copy of what was there before stands beside it.
      expect(readdirSync(data).filter((name) => name.startsWith('archive.sqlite.before-'))).toHaveLength(1);
    } finally {
      await arkiv.stop();
      removeFolder(data);
    }
  });
});
