import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { DueTexts } from '../src/frames/dueTexts.service';
import { Reading, UnitOfWork } from '../src/db/unitOfWork';
import { dataWithCard, removeFolder, startArkiv, volumeOf, type TestArkiv } from './testArkiv';

describe('the archive’s own lists on its drives', () => {
  let arkiv: TestArkiv;
  let data: string;
  beforeEach(async () => {
    data = dataWithCard({ until: 'OCK_9971' });
    arkiv = await startArkiv(data);
  });
  afterEach(async () => {
    await arkiv.stop();
    removeFolder(data);
  });

  const folderOn = (name: 'working' | 'backup' | 'edit') => path.join(volumeOf(data, name), '.arkiv-archive');
  const read = (name: 'working' | 'backup') =>
    JSON.parse(readFileSync(path.join(folderOn(name), 'studio.json'), 'utf8')) as Record<string, unknown>;
  /** What was decided is noted beside the answer, and written after a while of quiet. */
  const written = async () => {
    for (let i = 0; i < 100; i++) {
      await arkiv.app.get(UnitOfWork).settled();
      const due: unknown[] = await arkiv.app
        .get(Reading)
        .source.query(`SELECT 1 FROM text_due WHERE kind = 'archive'`);
      if (due.length > 0) break;
      await new Promise((resolve) => setTimeout(resolve, 20));
    }
    await arkiv.app.get(DueTexts).flush();
  };
  const say = async (settings: object) => {
    expect((await arkiv.ask('PATCH', '/settings', settings)).status).toBe(200);
    await written();
  };

  it('say what the studio decided, on each drive of the archive and on none for editing', async () => {
    await say({ studio: 'Lantern Row', welcomed: true, requiredCopies: 2, previewGigabytes: 30 });
    const archive = expect.objectContaining({ name: 'Lantern Row' }) as unknown;
    expect(read('working')).toMatchObject({ schema: 1, archive, studio: 'Lantern Row', requiredCopies: 2 });
    expect(read('backup')).toEqual(read('working'));
    expect(Object.keys(read('working'))).toEqual(expect.arrayContaining(['rules', 'plans', 'labels']));
    // What is this machine's is nothing that a drive says.
    expect(Object.keys(read('working'))).not.toEqual(expect.arrayContaining(['previewGigabytes']));
    expect(existsSync(folderOn('edit'))).toBe(false);
  });

  it('reach a drive that was away when it is back', async () => {
    const drive = (state: string) => arkiv.ask('PUT', '/stand-ins/drives/backup', { state });
    await drive('unplugged');
    await say({ studio: 'Lantern Row' });
    expect(read('working').studio).toBe('Lantern Row');
    expect(existsSync(path.join(volumeOf(data, 'backup'), '.arkiv-archive'))).toBe(false);
    await drive('well');
    await arkiv.app.get(DueTexts).flush();
    expect(read('backup')).toEqual(read('working'));
  });

  it('that somebody changed are kept beside ours, never written over', async () => {
    await say({ studio: 'Lantern Row' });
    const file = path.join(folderOn('working'), 'studio.json');
    writeFileSync(file, '{"studio":"by hand"}\n');
    await say({ studio: 'Mill Stage' });
    expect(read('working').studio).toBe('Mill Stage');
    const aside = readdirSync(folderOn('working')).filter((name) => name.startsWith('studio_found-'));
    expect(aside).toHaveLength(1);
    expect(readFileSync(path.join(folderOn('working'), aside[0]!), 'utf8')).toBe('{"studio":"by hand"}\n');
  });
});
