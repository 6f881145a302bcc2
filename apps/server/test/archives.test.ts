import { existsSync, mkdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import Database from 'better-sqlite3';
import { VolumesService } from '../src/volumes/volumes.service';
import { diskError, FaultyDisk } from './faultyDisk';
import { ended, startServer } from './serverProcess';
import {
  Client,
  filesBelow,
  removeFolder,
  startArkiv,
  takenIn,
  temporaryFolder,
  until,
  volumeOf,
  type TestArkiv,
} from './testArkiv';

interface Drive {
  id: string;
  name: string;
  online: boolean;
  belongsTo: string | null;
}
interface Here {
  folder: string;
  name: string;
  own: boolean;
  address: string | null;
  open: boolean;
  there: boolean;
}
const refusal = (code: string) => ({ status: 409, body: { code } });
const archivesOn = (drive: string) =>
  (
    JSON.parse(readFileSync(path.join(drive, '.arkiv-volume.json'), 'utf8')) as {
      archives: { name: string }[];
    }
  ).archives.map(({ name }) => name);

describe('a drive', () => {
  let place: string;
  let drive: string;
  let first: TestArkiv;
  let second: TestArkiv;
  const add = (arkiv: TestArkiv, root: string, more = {}) =>
    arkiv.ask<Drive & { code: string; message: string }>('POST', '/volumes', {
      ...{ root, name: 'Blue', role: 'working', create: true },
      ...more,
    });
  const known = async (arkiv: TestArkiv, id: string) =>
    (await arkiv.get<Drive[]>('/volumes')).find((one) => one.id === id)!;
  beforeEach(async () => {
    place = temporaryFolder();
    drive = path.join(place, 'drive');
    first = await startArkiv(path.join(place, 'first'), undefined, { standIns: false });
    second = await startArkiv(path.join(place, 'second'), undefined, { standIns: false });
    await first.ask('PATCH', '/settings', { archiveName: 'Weddings' });
    await second.ask('PATCH', '/settings', { archiveName: 'Press' });
  });
  afterEach(async () => {
    await first.stop();
    await second.stop();
    removeFolder(place);
  });

  it('belongs to one archive: another one is refused, told whose it is, and has a folder of its own on it', async () => {
    const { id } = (await add(first, drive)).body;
    const refused = await add(second, drive);
    expect(refused).toMatchObject(refusal('volume.belongs'));
    expect(refused.body.message).toContain('“Weddings”');
    expect(await second.get('/volumes')).toEqual([]);
    expect(archivesOn(drive)).toEqual(['Weddings']);
    const own = await add(second, path.join(drive, 'Press'));
    expect(own.status).toBe(201);
    expect(own.body.id).not.toBe(id);
    expect(archivesOn(path.join(drive, 'Press'))).toEqual(['Press']);
    expect(await known(first, id)).toMatchObject({ online: true, belongsTo: null });
  });

  it('is made another archive’s only where that is asked for, and the first one then leaves it alone', async () => {
    const { id } = (await add(first, drive)).body;
    writeFileSync(path.join(drive, 'a picture.jpg'), 'of whoever took it');
    expect((await add(second, drive, { takeOver: true })).status).toBe(201);
    expect(archivesOn(drive)).toEqual(['Press']);
    expect(await known(second, id)).toMatchObject({ online: true, belongsTo: null });
    expect(await known(first, id)).toMatchObject({ online: false, belongsTo: 'Press' });
    // It does not sign it anew, whatever it looks at and whatever it is called.
    await first.ask('PATCH', '/settings', { archiveName: 'Weddings and balls' });
    await first.app.get(VolumesService).lookAround();
    expect(archivesOn(drive)).toEqual(['Press']);
    // And it comes back at a press.
    expect((await first.ask('POST', `/volumes/${id}/back`)).status).toBe(204);
    expect(archivesOn(drive)).toEqual(['Weddings and balls']);
    expect(await known(first, id)).toMatchObject({ online: true, belongsTo: null });
    expect(await known(second, id)).toMatchObject({ online: false, belongsTo: 'Weddings and balls' });
    expect(readFileSync(path.join(drive, 'a picture.jpg'), 'utf8')).toBe('of whoever took it');
  });

  it('is known to be another archive’s before it is made this one’s, so that what that left on it is asked about after a power cut too', async () => {
    const { id } = (await add(first, drive)).body;
    const disk = new FaultyDisk();
    await second.stop();
    second = await startArkiv(second.data, disk, { standIns: false });
    const database = new Database(path.join(second.data, 'archive.sqlite'), { readonly: true });
    const heldBy = () =>
      (
        database.prepare('SELECT "heldBy" FROM volume WHERE id = ?').get(id) as
          { heldBy: string | null } | undefined
      )?.heldBy;
    const known: unknown[] = [];
    const cut = (file: string, bytes: Uint8Array) => {
      if (!file.includes('.arkiv-volume.json')) return bytes;
      known.push(heldBy());
      throw diskError('EROFS');
    };
    disk.onWrite = cut;
    // Where it cannot be written, it is not this archive’s, and nothing is said of it.
    expect(await add(second, drive, { takeOver: true })).toMatchObject({
      body: { code: 'volume.folder' },
    });
    expect(known).toEqual([expect.stringContaining('Weddings')]);
    expect(heldBy()).toBeUndefined();
    expect(archivesOn(drive)).toEqual(['Weddings']);
    disk.onWrite = (_, bytes) => bytes;
    expect((await add(second, drive, { takeOver: true })).status).toBe(201);
    await first.ask('POST', `/volumes/${id}/back`);
    await second.app.get(VolumesService).settled(id);
    disk.onWrite = cut;
    expect((await second.ask<{ code: string }>('POST', `/volumes/${id}/back`)).body.code).toBe(
      'volume.folder',
    );
    expect(known).toEqual([expect.stringContaining('Weddings'), expect.stringContaining('Weddings')]);
    expect(heldBy()).toBeNull();
    expect(archivesOn(drive)).toEqual(['Weddings']);
    database.close();
  });

  it('that two archives had signed before each had its own stays both’s', async () => {
    const { id } = (await add(first, drive)).body;
    const file = path.join(drive, '.arkiv-volume.json');
    const said = JSON.parse(readFileSync(file, 'utf8')) as { archives: object[] };
    const { archive } = await second.get<{ archive: object }>('/settings');
    writeFileSync(file, JSON.stringify({ ...said, archives: [...said.archives, archive] }));
    expect((await add(second, drive)).status).toBe(201);
    for (const arkiv of [first, second]) expect(await known(arkiv, id)).toMatchObject({ online: true });
  });

  it('is no adopted folder’s either, where it is another archive’s', async () => {
    await add(first, drive);
    mkdirSync(path.join(drive, 'ball'));
    writeFileSync(path.join(drive, 'ball', 'OCK_0001.JPG'), 'a picture');
    const refused = await second.ask('POST', '/adopted', {
      ...{ path: path.join(drive, 'ball'), rule: 'top', sidecars: false },
    });
    expect(refused).toMatchObject(refusal('volume.belongs'));
  });
});

it('frames of a drive that another archive made its own are kept as those of one that is away', async () => {
  const { arkiv, data, shootId } = await takenIn('OCK_9969');
  const backup = volumeOf(data, 'backup');
  const id = await arkiv.volumeId('backup');
  const before = filesBelow(backup);
  const other = await startArkiv(temporaryFolder(), undefined, { standIns: false });
  await other.post('/volumes', { root: backup, name: 'Theirs', role: 'backup', takeOver: true });
  // Nothing on it is read, written or called lost: the copies are known, and the other drive shows the frames.
  const first = await arkiv.post<{ jobId: string }>('/copies/verifications', { shootId });
  expect((await arkiv.rest(first.jobId)).job).toMatchObject({ state: 'done', filesDone: 5, filesFailed: 0 });
  const { files, damaged } = (
    await arkiv.get<{ id: string; files: number; damaged: number }[]>('/volumes')
  ).find((one) => one.id === id)!;
  expect([files > 0, damaged]).toEqual([true, 0]);
  const { id: frames } = await arkiv.frames(shootId);
  await arkiv.mark('stars', 0, 4, frames[0]!);
  // What is owed to it waits, as it does for a drive that is away.
  await until(async () =>
    (await arkiv.get<{ volumeId: string }[]>('/marks/sidecars')).some(({ volumeId }) => volumeId === id),
  );
  expect(filesBelow(volumeOf(data, 'working')).some((file) => file.endsWith('.xmp'))).toBe(true);
  expect(filesBelow(backup)).toEqual(before);
  await arkiv.ask('POST', `/volumes/${id}/back`);
  const { jobId } = await arkiv.post<{ jobId: string }>('/copies/verifications', { volumeId: id });
  expect((await arkiv.rest(jobId)).job).toMatchObject({ state: 'done', filesFailed: 0 });
  await other.stop();
  removeFolder(other.data);
  await arkiv.stop();
  removeFolder(data);
});

describe('the archives of a computer', () => {
  it('are listed, made, opened where they answered before, closed, and taken off the list', async () => {
    const place = temporaryFolder();
    const env = { ARKIV_STAND_INS: '0', ARKIV_ARCHIVES: path.join(place, 'archives.json') };
    const { process: server, client } = await startServer(path.join(place, 'first'), env);
    await client.ask('PATCH', '/settings', { archiveName: 'Weddings' });
    const here = async (asked = client) => await asked.get<Here[]>('/archives');
    expect(await here()).toEqual([expect.objectContaining({ name: 'Weddings', own: true, open: true })]);
    // A new one, in a folder that is made for it.
    const folder = path.join(place, 'second');
    const { address } = await client.post<{ address: string }>('/archives', { name: 'Press', folder });
    const second = new Client(address.replace(/\/$/, ''));
    expect((await second.get<{ archive: { name: string } }>('/settings')).archive.name).toBe('Press');
    expect(await here()).toEqual([
      expect.objectContaining({ name: 'Weddings', own: true }),
      expect.objectContaining({ name: 'Press', own: false, folder, open: true, address }),
    ]);
    expect((await here(second)).map(({ name }) => name)).toEqual(['Press', 'Weddings']);
    // Both ways lead to the one that is open.
    expect(await client.post('/archives/open', { folder })).toEqual({ address });
    expect(await client.post('/archives', { name: 'Whatever', folder })).toEqual({ address });
    // Closed by its own page, it is opened again where its bookmarks lead.
    expect((await second.ask('POST', '/archives/close')).status).toBe(204);
    const its = async () => (await here()).find((one) => one.folder === folder);
    await until(async () => (await its())?.open === false);
    expect(await its()).toMatchObject({ name: 'Press', there: true, address: null });
    expect(await client.post('/archives/open', { folder })).toEqual({ address });
    await second.ask('POST', '/archives/close');
    await until(async () => (await its())?.open === false);
    // What is not where it was is said so, and is not begun anew.
    renameSync(folder, `${folder} elsewhere`);
    expect(await its()).toMatchObject({ there: false, open: false });
    expect(await client.ask('POST', '/archives/open', { folder })).toMatchObject(refusal('archive.gone'));
    expect(existsSync(folder)).toBe(false);
    expect((await client.ask('POST', '/archives/forget', { folder })).status).toBe(204);
    expect(await here()).toHaveLength(1);
    expect(await client.ask('POST', '/archives/open', { folder })).toMatchObject({
      ...{ status: 404, body: { code: 'archive.unknown' } },
    });
    server.kill('SIGTERM');
    await ended(server);
    removeFolder(place);
  });

  it('are refused by their folder’s name where that holds something else, and with what their server says', async () => {
    const place = temporaryFolder();
    const list = path.join(place, 'archives.json');
    const arkiv = await startArkiv(path.join(place, 'own'), undefined, {
      standIns: false,
      archivesFile: list,
    });
    const add = (folder: string) =>
      arkiv.ask<{ code: string; message: string }>('POST', '/archives', { name: 'Press', folder });
    mkdirSync(path.join(place, 'full'));
    writeFileSync(path.join(place, 'full', 'a text'), 'not ours');
    for (const [folder, why] of [
      ['press', 'it is not a full path'],
      [path.join(place, 'full'), 'there is something else in it'],
      [path.join(place, 'full', 'a text'), 'it is not a folder'],
    ]) {
      const { status, body } = await add(folder!);
      expect([status, body.code]).toEqual([400, 'archive.folder']);
      expect(body.message).toContain(why);
    }
    // One whose own settings cannot be used says so, and nothing of it goes on running.
    const broken = path.join(place, 'broken');
    await (await startArkiv(broken, undefined, { standIns: false })).stop();
    writeFileSync(path.join(broken, 'arkiv.config.json'), '{ "port": "high" }');
    const { status, body } = await add(broken);
    expect([status, body.code]).toEqual([409, 'archive.start']);
    expect(body.message).toContain('Settings cannot be used: port');
    await arkiv.stop();
    removeFolder(place);
  });
});
