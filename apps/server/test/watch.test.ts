import {
  appendFileSync,
  copyFileSync,
  existsSync,
  linkSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import path from 'node:path';
import { Reading } from '../src/db/unitOfWork';
import { WatchService } from '../src/watch/watch.service';
import {
  cardOf,
  dataWithCard,
  filesBelow,
  outsideManifest,
  removeFolder,
  sha256sumCheck,
  startArkiv,
  until,
  volumeOf,
  type TestArkiv,
} from './testArkiv';

interface Rule {
  id: string;
  name: string;
  root: string | null;
  on: boolean;
  busy: boolean;
  left: { path: string; reason: string }[];
  trouble: string | null;
  taken: number;
}
interface Shoot {
  id: string;
  title: string;
  date: string;
  frames: number;
}

describe('A watched folder', () => {
  let arkiv: TestArkiv;
  let data: string;
  let folder: string;

  beforeEach(async () => {
    data = dataWithCard({ until: 'OCK_9972' });
    folder = path.join(data, 'from ana');
    mkdirSync(folder);
    arkiv = await startArkiv(data);
  });
  afterEach(async () => {
    await arkiv.stop();
    removeFolder(data);
  });

  const wish = (more: object = {}) => ({
    ...{
      name: 'From Ana',
      root: folder,
      on: true,
      types: ['raw', 'jpeg', 'other', 'clip'],
      below: true,
      out: '',
    },
    ...{
      settleSeconds: 0,
      shootId: null,
      title: 'Second body',
      client: 'Lantern Row',
      place: '',
      plan: null,
    },
    ...{ template: null, album: null, after: 'keep', ...more },
  });
  const add = (more: object = {}) => arkiv.post<Rule>('/watch', wish(more));
  const rule = async () => (await arkiv.get<Rule[]>('/watch'))[0]!;
  const card = (file: string) => path.join(cardOf(data), 'DCIM/100OCKHM', file);
  /** Puts a file of the card into the folder as a copying program does: whole, under its name at once. */
  const drop = (file: string, as = file) => {
    const to = path.join(folder, as);
    mkdirSync(path.dirname(to), { recursive: true });
    copyFileSync(card(file), `${to}.copying`);
    renameSync(`${to}.copying`, to);
  };
  const shoots = () => arkiv.get<Shoot[]>('/shoots');
  const taken = (n: number) =>
    until(async () => {
      const { taken: now, busy } = await rule();
      return now >= n && !busy;
    });
  /** Looks once more, and is done with it. */
  const looked = async () => arkiv.app.get(WatchService).look((await rule()).id);

  it('is taken in by itself, a shoot for each day, with the proof of a card; nothing comes twice', async () => {
    drop('OCK_9968.JPG');
    drop('OCK_9968.DNG');
    await add();
    await taken(2);
    const [shoot] = await shoots();
    expect(shoot).toMatchObject({ title: 'Second body', date: '2026-10-16', frames: 1 });
    // Equal content under another name is said to be here, and makes no second frame; a new one goes into the same shoot.
    drop('OCK_9968.JPG', 'again/renamed.jpg');
    drop('OCK_9970.JPG');
    await taken(4);
    expect(await shoots()).toEqual([expect.objectContaining({ id: shoot!.id, frames: 2 })]);
    const sums = new Set(outsideManifest(folder).values());
    for (const drive of ['working', 'backup'] as const) {
      const home = path.join(volumeOf(data, drive), '2026/2026-10-16_second-body');
      sha256sumCheck(home, '.arkiv/manifest.sha256');
      const here = outsideManifest(path.join(home, 'originals'));
      expect(
        [...here]
          .filter(([file]) => !file.endsWith('.xmp'))
          .map(([, sum]) => sum)
          .sort(),
      ).toEqual([...sums].sort());
      expect(readdirSync(path.join(home, '.arkiv/receipts')).some((name) => name.includes('from-ana'))).toBe(
        true,
      );
    }
    // The folder is as it was, and a restart takes nothing in again.
    expect(filesBelow(folder)).toHaveLength(4);
    const { id } = await rule();
    await arkiv.stop();
    arkiv = await startArkiv(data);
    await arkiv.app.get(WatchService).look(id);
    await arkiv.app.get(WatchService).look(id);
    expect(await rule()).toMatchObject({ taken: 4, busy: false, trouble: null, left: [] });
    expect(await shoots()).toEqual([expect.objectContaining({ frames: 2 })]);
  });

  it('is heard of at once also where somebody took it away and made it anew', async () => {
    // Nothing is seen for the sake of the slow round.
    clearInterval((arkiv.app.get(WatchService) as unknown as { round: NodeJS.Timeout }).round);
    drop('OCK_9968.JPG');
    await add();
    await taken(1);
    rmSync(folder, { recursive: true });
    await until(async () => (await rule()).trouble !== null);
    drop('OCK_9972.JPG');
    await taken(2);
    expect(await rule()).toMatchObject({ trouble: null });
  });

  it('gives what is proven to its own bin, and only that', async () => {
    drop('OCK_9968.JPG', 'day 1/OCK_9968.JPG');
    await arkiv.ask('PUT', '/stand-ins/drives/backup', { state: 'unplugged' });
    await add({ after: 'bin' });
    await until(async () => (await rule()).left.length === 1);
    expect((await rule()).left).toEqual([
      {
        path: 'day 1/OCK_9968.JPG',
        reason: '1 of 2 proven copies are there: it is moved when there are enough',
      },
    ]);
    expect(filesBelow(folder)).toEqual(['day 1/OCK_9968.JPG']);
    // The second drive is back, and has its copy: now it may go.
    await arkiv.ask('PUT', '/stand-ins/drives/backup', { state: 'well' });
    await until(async () =>
      (await arkiv.get<{ role: string; online: boolean }[]>('/volumes')).every(({ online }) => online),
    );
    const { jobId } = await arkiv.post<{ jobId: string }>('/copies/missing');
    await arkiv.rest(jobId);
    await until(async () => {
      await looked();
      return (await rule()).left.length === 0;
    });
    const [bin] = readdirSync(path.join(folder, '.arkiv-bin'));
    const place = path.join(folder, '.arkiv-bin', bin!);
    expect(filesBelow(place)).toEqual(['bin.json', 'day 1/OCK_9968.JPG']);
    expect(
      readFileSync(path.join(place, 'day 1/OCK_9968.JPG')).equals(readFileSync(card('OCK_9968.JPG'))),
    ).toBe(true);
    const said = JSON.parse(readFileSync(path.join(place, 'bin.json'), 'utf8')) as {
      files: { path: string; sha256: string }[];
    };
    expect(said.files.map((file) => [file.path, file.sha256])).toEqual([
      ['day 1/OCK_9968.JPG', outsideManifest(place).get('day 1/OCK_9968.JPG')],
    ]);
    // What lies in the bin is no new picture.
    await looked();
    expect(await rule()).toMatchObject({ taken: 1, busy: false });
  });

  it('gives what came with a picture to the bin after it, when a stop came between them', async () => {
    drop('OCK_9968.JPG');
    writeFileSync(path.join(folder, 'OCK_9968.WAV'), 'what was said at the time');
    await add();
    await taken(2);
    // The picture is in the bin, and its voice note was not moved any more.
    const bin = path.join(folder, '.arkiv-bin/2026-10-16_abcdef');
    mkdirSync(bin, { recursive: true });
    renameSync(path.join(folder, 'OCK_9968.JPG'), path.join(bin, 'OCK_9968.JPG'));
    // One that nobody has taken in lies there, too.
    writeFileSync(path.join(folder, 'OCK_9969.WAV'), 'something else');
    await arkiv.ask('PUT', `/watch/${(await rule()).id}`, wish({ after: 'bin' }));
    await until(() => !existsSync(path.join(folder, 'OCK_9968.WAV')));
    await looked();
    expect(filesBelow(folder).filter((file) => !file.startsWith('.'))).toEqual(['OCK_9969.WAV']);
    expect(await rule()).toMatchObject({ taken: 2, left: [], busy: false });
  });

  it('gives what was archived before as well, but never the archive’s own file under a second name', async () => {
    const started = await arkiv.takeIn();
    await arkiv.rest(started.jobId);
    const drive = volumeOf(data, 'working');
    const own = path.join(
      drive,
      filesBelow(drive).find((file) => file.endsWith('_0001.jpg'))!,
    );
    drop('OCK_9970.JPG');
    linkSync(own, path.join(folder, 'own.jpg'));
    await add({ after: 'bin' });
    await until(
      async () => (await rule()).left.length === 1 && !existsSync(path.join(folder, 'OCK_9970.JPG')),
    );
    expect((await rule()).left).toEqual([
      { path: 'own.jpg', reason: 'it is the archive’s own copy on “Working drive”' },
    ]);
    expect(filesBelow(folder).filter((file) => !file.startsWith('.arkiv-bin'))).toEqual(['own.jpg']);
    expect((await shoots()).filter(({ title }) => title === 'Second body')).toEqual([]);
    expect(existsSync(own)).toBe(true);
  });

  it('leaves a file alone that is still being written, and names one that stays unfinished', async () => {
    const whole = readFileSync(card('OCK_9969.JPG'));
    const file = path.join(folder, 'OCK_9969.JPG');
    writeFileSync(file, whole.subarray(0, 1000));
    await add({ settleSeconds: 1 });
    await looked();
    expect(await rule()).toMatchObject({ left: [], busy: false });
    await until(async () => (await rule()).left.length === 1);
    expect((await rule()).left[0]!.reason).toMatch(/its end is missing/);
    expect(await shoots()).toEqual([]);
    appendFileSync(file, whole.subarray(1000));
    await taken(1);
    expect(await rule()).toMatchObject({ left: [] });
    expect((await shoots())[0]).toMatchObject({ frames: 1 });
  });

  it('says before what would happen, and changes nothing by it', async () => {
    drop('OCK_9968.JPG');
    drop('OCK_9968.DNG');
    drop('OCK_9970.JPG', 'Private/OCK_9970.JPG');
    writeFileSync(path.join(folder, 'notes.txt'), 'words');
    const before = filesBelow(data).filter((file) => !/sqlite|log/.test(file));
    const { status, body } = await arkiv.ask<object>(
      'POST',
      '/watch/example',
      wish({ types: ['raw'], out: 'private' }),
    );
    expect([status, body]).toEqual([
      200,
      {
        shoots: [
          {
            ...{ title: 'Second body', date: '2026-10-16', existing: false, frames: 1, files: 1 },
            bytes: readFileSync(card('OCK_9968.DNG')).length,
            names: [
              {
                from: 'OCK_9968.DNG',
                to: '2026/2026-10-16_second-body/originals/second-body_20261016_0001.dng',
              },
            ],
          },
        ],
        ...{ more: 0, takenBefore: 0, left: 0 },
        outside: { hidden: 0, below: 0, out: 1, type: 1, unknown: 1 },
        drives: ['Working drive', 'Backup drive'],
      },
    ]);
    expect(filesBelow(data).filter((file) => !/sqlite|log/.test(file))).toEqual(before);
    expect(await arkiv.get('/watch')).toEqual([]);
  });

  it('goes into one shoot and an album where that is wanted, and leaves out what is to stay out', async () => {
    const started = await arkiv.takeIn();
    await arkiv.rest(started.jobId);
    const album = await arkiv.post<{ id: string }>('/albums', { name: 'From outside' });
    const before = (await arkiv.frames(started.shootId)).count;
    const fresh = Buffer.concat([
      readFileSync(card('OCK_9969.JPG')).subarray(0, -2),
      Buffer.from([0xff, 0xd9]),
    ]);
    // Another picture than the card's: a comment more.
    const comment = Buffer.from([0xff, 0xfe, 0, 6, 1, 2, 3, 4]);
    writeFileSync(
      path.join(folder, 'NEW.JPG'),
      Buffer.concat([fresh.subarray(0, 2), comment, fresh.subarray(2)]),
    );
    drop('OCK_9970.JPG', 'not for you/OCK_9970.JPG');
    await add({ shootId: started.shootId, album: album.id, out: 'Not For You' });
    await taken(1);
    const after = await arkiv.columns(started.shootId);
    expect(after.id).toHaveLength(before + 1);
    expect(after.albums!.filter((its) => String(its).includes(album.id))).toHaveLength(1);
    expect((await rule()).taken).toBe(1);
  });

  it('goes where the frames of its shoot are, once that is merged into another', async () => {
    const { jobId, shootId } = await arkiv.takeIn();
    await arkiv.rest(jobId);
    const moved = async (asked: object) => {
      const its = await arkiv.post<{ jobId: string; shootId: string }>('/moves', asked);
      expect(await arkiv.rest(its.jobId)).toMatchObject({ job: { state: 'done' }, failures: [] });
      return its;
    };
    const frameIds = (await arkiv.frames(shootId)).id.slice(0, 1);
    const split = await moved({ kind: 'split', shootId, frameIds, title: 'Doors', rename: false });
    await add({ shootId: split.shootId });
    await moved({ kind: 'merge', shootId: split.shootId, into: shootId, rename: false });
    // The form shows the shoot that it means.
    expect(await rule()).toMatchObject({ shootId });
    const before = (await arkiv.frames(shootId)).count;
    const bytes = readFileSync(card('OCK_9969.JPG'));
    const comment = Buffer.from([0xff, 0xfe, 0, 6, 1, 2, 3, 4]);
    writeFileSync(
      path.join(folder, 'NEW.JPG'),
      Buffer.concat([bytes.subarray(0, 2), comment, bytes.subarray(2)]),
    );
    await taken(1);
    expect((await arkiv.frames(shootId)).count).toBe(before + 1);
    expect((await shoots()).map(({ id }) => id)).toEqual([shootId]);
    // So does a card that somebody adds to the shoot who has not seen yet that it was merged.
    expect(await arkiv.takeIn({ shootId: split.shootId })).toMatchObject({ shootId });
  });

  it('says why nothing is taken in, and goes on by itself when that is over', async () => {
    const gone = `${folder} elsewhere`;
    await add();
    renameSync(folder, gone);
    await looked();
    expect(await rule()).toMatchObject({ trouble: 'The folder is not there.' });
    renameSync(gone, folder);
    drop('OCK_9968.JPG');
    await looked();
    await taken(1);
    expect(await rule()).toMatchObject({ trouble: null });
    // Switched off, it is left alone.
    const { id } = await rule();
    await arkiv.ask('PUT', `/watch/${id}`, wish({ on: false }));
    drop('OCK_9970.JPG');
    await looked();
    expect(await rule()).toMatchObject({ taken: 1, busy: false });
    expect((await arkiv.ask('DELETE', `/watch/${id}`)).status).toBe(204);
    expect(await arkiv.get('/watch')).toEqual([]);
    expect(filesBelow(folder)).toEqual(['OCK_9968.JPG', 'OCK_9970.JPG']);
  });

  it('goes on where a stop cut it off: nothing is lost, and nothing comes twice', async () => {
    const files = [
      'OCK_9968.JPG',
      'OCK_9968.DNG',
      'OCK_9969.JPG',
      'OCK_9969.DNG',
      'OCK_9970.JPG',
      'OCK_9971.JPG',
    ];
    files.forEach((file) => drop(file));
    const sums = [...outsideManifest(folder).values()].sort();
    await add({ after: 'bin' });
    for (let stops = 0; stops < 3; stops++) {
      await until(async () => (await rule()).busy || (await rule()).taken === files.length);
      await arkiv.stop();
      arkiv = await startArkiv(data);
    }
    await taken(files.length);
    // The last that cleaning does is to say in each folder of the bin what lies there.
    await until(() => {
      const here = filesBelow(folder).map((file) => file.split('/'));
      const saying = here.filter(([, , name]) => name === 'bin.json').map(([, moved]) => moved);
      return here.every(([at, moved]) => at === '.arkiv-bin' && saying.includes(moved));
    });
    expect((await shoots()).map(({ frames }) => frames)).toEqual([4]);
    for (const drive of ['working', 'backup'] as const) {
      const originals = path.join(volumeOf(data, drive), '2026/2026-10-16_second-body/originals');
      const here = [...outsideManifest(originals)].filter(([file]) => !file.endsWith('.xmp'));
      expect(here.map(([, sum]) => sum).sort()).toEqual(sums);
    }
    const bin = [...outsideManifest(folder)].filter(([file]) => !file.endsWith('bin.json'));
    expect(bin.map(([, sum]) => sum).sort()).toEqual(sums);
  });

  it('takes in nothing any more once a drive lies in it, and says so', async () => {
    await add({ after: 'bin' });
    const drive = path.join(folder, 'a drive');
    mkdirSync(drive);
    await arkiv.post('/volumes', { root: drive, name: 'Too near', role: 'working' });
    copyFileSync(card('OCK_9968.JPG'), path.join(drive, 'OCK_9968.JPG'));
    await looked();
    expect((await rule()).trouble).toMatch(/the drive “Too near” lies in it/);
    expect(await shoots()).toEqual([]);
    expect(existsSync(path.join(drive, 'OCK_9968.JPG'))).toBe(true);
  });

  it('is none that holds a drive, belongs to a shoot, is watched already or is not there', async () => {
    const started = await arkiv.takeIn();
    await arkiv.rest(started.jobId);
    await add();
    const refused = async (root: string) => {
      const { body } = await arkiv.ask<{ code: string; message: string }>('POST', '/watch', wish({ root }));
      return [body.code, body.message];
    };
    const drive = volumeOf(data, 'working');
    for (const [root, why] of [
      [data, 'From Ana'],
      [path.join(folder, 'below'), 'there is no such folder'],
      [path.dirname(drive), 'lies in it'],
      [drive, 'lies in it'],
      [path.join(drive, '2026'), 'a folder of the archive'],
      [path.join(drive, '2026/2026-10-16_press-night/originals'), 'a folder of the archive'],
      ['relative', 'not a full path'],
    ] as const) {
      const [code, message] = await refused(root);
      expect([root, code, message]).toEqual([root, 'watch.folder', expect.stringContaining(why)]);
    }
    expect(await arkiv.app.get(Reading).source.query('SELECT COUNT(*) AS n FROM watch_rule')).toEqual([
      { n: 1 },
    ]);
  });
});
