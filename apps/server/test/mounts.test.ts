import { execFileSync } from 'node:child_process';
import { cpSync, existsSync, mkdirSync, renameSync, symlinkSync, unlinkSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { MountSource } from '../src/disk/mounts/mounts';
import { SidecarsService } from '../src/sidecars/sidecars.service';
import { VolumesService } from '../src/volumes/volumes.service';
import { bind, canMount, ImageDisk, unmount } from './realMounts';
import {
  filesBelow,
  removeFolder,
  startArkiv,
  temporaryFolder,
  testCard,
  volumeOf,
  type TestArkiv,
} from './testArkiv';

interface Drive {
  id: string;
  name: string;
  online: boolean;
  silent: boolean;
  device: string;
  deviceUnknown: boolean;
}

interface Reader {
  id: string;
  name: string;
  kind: string;
  card: string | null;
}

/** Asks until the answer is as wanted; what comes and goes is noticed by looking, not by being told. */
async function until<T>(ask: () => Promise<T>, wanted: (found: T) => boolean): Promise<T> {
  for (let i = 0; i < 600; i++) {
    const found = await ask();
    if (wanted(found)) return found;
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
  throw new Error(`not found in time: ${JSON.stringify(await ask())}`);
}

const mountable = canMount(temporaryFolder());
const onRealMounts = mountable ? describe : describe.skip;

onRealMounts('real drives and cards', () => {
  let place: string;
  let disk: ImageDisk;
  let arkiv: TestArkiv;
  const at = (name: string) => path.join(place, name);
  const drives = () => arkiv.get<Drive[]>('/volumes');
  const readers = () => arkiv.get<Reader[]>('/readers');
  const add = (name: string, root: string, role: string) =>
    arkiv.post<Drive>('/volumes', { root, name, role });

  beforeEach(async () => {
    place = temporaryFolder();
    disk = new ImageDisk(at('disk.img'));
    disk.mount(1, at('one'));
    disk.mount(2, at('two'));
    arkiv = await startArkiv(at('data'), undefined, { standIns: false });
  });
  afterEach(async () => {
    await arkiv.stop();
    for (const name of ['one', 'two', 'elsewhere', 'bound', 'card']) unmount(at(name));
    disk.remove();
    removeFolder(place);
  });

  it('that are two partitions of one disk count as one device, as does the disk that the image lies on', async () => {
    mkdirSync(at('folder'));
    const [one, two, folder] = [
      await add('One', at('one'), 'working'),
      await add('Two', at('two'), 'backup'),
      await add('Folder', at('folder'), 'backup'),
    ];
    expect(one.deviceUnknown).toBe(false);
    const names = (await drives()).map((d) => d.device);
    expect(new Set(names).size).toBe(1);
    expect([one, two, folder].map((d) => d.online)).toEqual([true, true, true]);
  });

  it('count by the owner’s word where he gives it, whatever was found out', async () => {
    await add('One', at('one'), 'working');
    const two = await add('Two', at('two'), 'backup');
    await arkiv.ask('PATCH', `/volumes/${two.id}`, { device: 'blue drive' });
    expect(new Set((await drives()).map((d) => d.device)).size).toBe(2);
    await arkiv.ask('PATCH', `/volumes/${two.id}`, { device: null });
    expect(new Set((await drives()).map((d) => d.device)).size).toBe(1);
  });

  it('are not made distinct by what somebody wrote into their id file', async () => {
    for (const name of ['one', 'two'])
      writeFileSync(
        at(`${name}/.arkiv-volume.json`),
        JSON.stringify({ id: `DRIVE-${name}`, name, made: '2031-01-01T00:00:00Z', device: name }),
      );
    await add('One', at('one'), 'working');
    await add('Two', at('two'), 'backup');
    expect(new Set((await drives()).map((d) => d.device)).size).toBe(1);
  });

  it('appear on the Desk when they are mounted, and go when they are taken out', async () => {
    mkdirSync(at('two/DCIM'));
    cpSync(path.join(testCard(), 'DCIM/100OCKHM/OCK_9971.JPG'), at('two/DCIM/100OCKHM/OCK_9971.JPG'));
    const [card] = await until(readers, (list) => list.length === 1);
    expect(card).toMatchObject({ kind: 'card', card: 'two' });
    const scan = await arkiv.get<{ frames: { base: string }[] }>(`/readers/${card!.id}/card`);
    expect(scan.frames.map((f) => f.base)).toEqual(['OCK_9971']);
    unmount(at('two'));
    await until(readers, (list) => list.length === 0);
    // The same card in another place is the same card to a job that waits for it.
    disk.mount(2, at('elsewhere'));
    const [again] = await until(readers, (list) => list.length === 1);
    expect(again!.card).toBe('elsewhere');
    expect(existsSync('/dev/disk/by-uuid') ? again!.id : card!.id).toBe(card!.id);
  });

  it('of an archive are known again by their id file under any mount point, a folder on them too', async () => {
    mkdirSync(at('two/Arkiv'));
    await add('One', at('one'), 'working');
    await add('Two', at('two/Arkiv'), 'backup');
    unmount(at('two'));
    unmount(at('one'));
    await until(drives, (list) => list.every((d) => !d.online));
    disk.mount(2, at('elsewhere'));
    const found = await until(drives, (list) => list.some((d) => d.online));
    expect(found.map(({ name, online }) => [name, online])).toEqual([
      ['One', false],
      ['Two', true],
    ]);
  });

  it('keep their own place and disk when they are taken out while these are looked at', async () => {
    mkdirSync(at('two/Arkiv'));
    const two = await add('Two', at('two/Arkiv'), 'backup');
    const source = arkiv.app.get(MountSource);
    const asked = source.disksOf.bind(source);
    // Between the look at the drive and the look at what it lies on, the folder it was mounted on lies bare.
    source.disksOf = (file) => {
      unmount(at('two'));
      return asked(file);
    };
    await arkiv.app.get(VolumesService).lookAround();
    source.disksOf = asked;
    expect((await drives())[0]).toMatchObject({ online: false, device: two.device });
    disk.mount(2, at('elsewhere'));
    await until(drives, (list) => list[0]!.online);
  });

  async function takeIn(readerId: string): Promise<string> {
    const { fingerprint } = await arkiv.get<{ fingerprint: string }>(`/readers/${readerId}/card`);
    const settings = await arkiv.get<{ pattern: string; folders: object }>('/settings');
    const { jobId } = await arkiv.post<{ jobId: string }>('/intakes', {
      ...{ readerId, fingerprint, title: 'Pond', date: '2031-05-02', client: '', place: '' },
      ...{ pattern: settings.pattern, folders: settings.folders, seqStart: 1, zoneMinutes: 120 },
      targets: (await drives()).map((d) => d.id),
    });
    return jobId;
  }
  const clear = async (readerId: string) => {
    const { fingerprint } = await arkiv.get<{ fingerprint: string }>(`/readers/${readerId}/card`);
    const { jobId } = await arkiv.post<{ jobId: string }>(`/readers/${readerId}/clear`, { fingerprint });
    return arkiv.rest(jobId);
  };
  const FRAME = 'DCIM/100OCKHM/OCK_9971.JPG';

  it('let an intake go on that waited for its card, and are cleared by copies on other devices only', async () => {
    mkdirSync(at('backup'));
    await add('One', at('one'), 'working');
    await add('Backup', at('backup'), 'backup');
    for (const { id } of await drives()) await arkiv.ask('PATCH', `/volumes/${id}`, { device: id });
    cpSync(path.join(testCard(), FRAME), at(`two/${FRAME}`));
    const [card] = await until(readers, (list) => list.length === 1);
    const readerId = card!.id;
    // Taken out between the plan and the first byte.
    const jobId = await takeIn(readerId);
    await arkiv.ask('POST', `/jobs/${jobId}/pause`);
    unmount(at('two'));
    await arkiv.ask('POST', `/jobs/${jobId}/resume`);
    const { job } = await arkiv.rest(jobId);
    if (job.state !== 'done') {
      expect(job.state).toBe('waiting');
      expect(job.reason).toMatch(/Insert it again/);
    }
    disk.mount(2, at('two'));
    await until(
      () => arkiv.rest(jobId),
      (report) => report.job.state === 'done',
    );
    await until(readers, (list) => list.length === 1);
    const clearance = () => arkiv.get<{ safe: boolean }>(`/readers/${readerId}/clearance`);
    expect(await clearance()).toMatchObject({ safe: true });
    // By the owner's word the card is the backup drive: what lies there proves nothing about it.
    const backup = (await drives()).find((d) => d.name === 'Backup')!;
    await arkiv.ask('PUT', `/readers/${readerId}/device`, { device: backup.id });
    expect(await clearance()).toMatchObject({ safe: false });
    expect((await clear(readerId)).job.reason).toMatch(/stay on the card/);
    expect(existsSync(at(`two/${FRAME}`))).toBe(true);
    await arkiv.ask('PUT', `/readers/${readerId}/device`, { device: null });
    expect((await clear(readerId)).job.reason).toBeNull();
    expect(existsSync(at(`two/${FRAME}`))).toBe(false);
  });

  it('never prove themselves when they are mounted once more as a reader', async () => {
    await arkiv.ask('PATCH', '/settings', { requiredCopies: 1 });
    await add('One', at('one'), 'working');
    cpSync(path.join(testCard(), FRAME), at(`card/${FRAME}`));
    const card = await arkiv.post<Reader>('/readers', { root: at('card'), name: 'Folder' });
    await arkiv.rest(await takeIn(card.id));
    // What a sidecar adds to the folder would make it another card.
    await arkiv.app.get(SidecarsService).flush();
    const archived = filesBelow(at('one')).filter((file) => file.endsWith('.jpg'));
    expect(archived).toHaveLength(1);
    bind(path.join(at('one'), path.dirname(archived[0]!)), at('bound'));
    const reader = await arkiv.post<Reader>('/readers', { root: at('bound'), name: 'Bound' });
    expect((await clear(reader.id)).job.reason).toMatch(/stay on the card/);
    expect(filesBelow(at('one')).filter((file) => file.endsWith('.jpg'))).toEqual(archived);
    // Not even by the owner's word: it is the very same file.
    await arkiv.ask('PUT', `/readers/${reader.id}/device`, { device: 'a card of its own' });
    const report = await clear(reader.id);
    expect(report.job.reason).toMatch(/stay on the card/);
    expect(JSON.stringify(report)).toMatch(/is this very file/);
    expect(filesBelow(at('one')).filter((file) => file.endsWith('.jpg'))).toEqual(archived);
  });
});

describe('a drive that hangs', () => {
  it('holds up nothing else, says so, and is there again when it answers', async () => {
    const data = temporaryFolder();
    const arkiv = await startArkiv(data);
    try {
      const file = path.join(data, 'elsewhere/.arkiv-volume.json');
      mkdirSync(path.dirname(file));
      await arkiv.post('/volumes', { root: path.dirname(file), name: 'Far away', role: 'backup' });
      const drives = () => arkiv.get<Drive[]>('/volumes');
      // Opening a pipe that nobody writes to hangs as a dead network share does.
      renameSync(file, `${file}.kept`);
      execFileSync('mkfifo', [file]);
      // As many questions as there are threads: each that hangs would take one of them.
      const asked = await Promise.all(Array.from({ length: 6 }, drives));
      for (const list of asked)
        expect(list.find((d) => d.name === 'Far away')).toMatchObject({ online: false, silent: true });
      expect(asked[0]!.filter((d) => d.online)).toHaveLength(3);
      // Files are still read: the interface’s first needs go through the same threads.
      writeFileSync(path.join(volumeOf(data, 'edit'), 'DCIM'), '');
      expect((await arkiv.get<Reader[]>('/readers')).length).toBe(2);
      unlinkSync(file);
      renameSync(`${file}.kept`, file);
      await until(drives, (list) => list.find((d) => d.name === 'Far away')!.online);
    } finally {
      await arkiv.stop();
      removeFolder(data);
    }
  });
});

describe('a link in a simulated reader', () => {
  it('is a card that is noticed without being told', async () => {
    const data = temporaryFolder();
    mkdirSync(path.join(data, 'stand-ins/cards/late/DCIM'), { recursive: true });
    const arkiv = await startArkiv(data);
    try {
      symlinkSync(path.join(data, 'stand-ins/cards/late'), path.join(data, 'stand-ins/reader/slot-2'));
      const list = await until(
        () => arkiv.get<Reader[]>('/readers'),
        (found) => found.some((r) => r.card === 'late'),
      );
      expect(list.find((r) => r.card === 'late')).toMatchObject({ id: 'slot-2', name: 'Reader 2' });
    } finally {
      await arkiv.stop();
      removeFolder(data);
    }
  });
});
