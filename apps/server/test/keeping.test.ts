import {
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  renameSync,
  statSync,
  utimesSync,
  writeFileSync,
} from 'node:fs';
import path from 'node:path';
import Database from 'better-sqlite3';
import { LOOK_VERSION, MAKER_VERSION } from '@arkiv/core';
import { DatabaseCopies } from '../src/db/databaseCopies';
import { PreviewsService } from '../src/previews/previews.service';
import { PreviewStore } from '../src/previews/previewStore';
import { FileLogger } from '../src/system/fileLogger';
import { SettingsService } from '../src/settings/settings.service';
import {
  dataWithCard,
  filesBelow,
  removeFolder,
  startArkiv,
  temporaryFolder,
  type TestArkiv,
  until,
} from './testArkiv';

const DAY = 24 * 60 * 60 * 1000;

describe('what the server keeps for itself', () => {
  let arkiv: TestArkiv;
  let data: string;
  let pictures: string[];
  const previews = () => path.join(data, 'previews', `v${MAKER_VERSION}`);
  const kept = () => filesBelow(previews());
  const bytes = () => kept().reduce((sum, file) => sum + statSync(path.join(previews(), file)).size, 0);
  const fileOf = (picture: string, name: string) =>
    path.join(previews(), picture.slice(0, 2), `${picture}.${name}`);
  const ask = (picture: string, size: string) =>
    fetch(`${arkiv.base}/api/previews/v${MAKER_VERSION}/${picture}/${size}`);
  const drives = async (state: string) => {
    for (const name of ['working', 'backup']) await arkiv.ask('PUT', `/stand-ins/drives/${name}`, { state });
  };
  /** Each preview is looked at in the background once it is made: a use of its own, which leaves a file. */
  const measured = (which: readonly string[]) =>
    until(() => which.every((picture) => existsSync(fileOf(picture, `look-${LOOK_VERSION}`))));
  const limit = async (gigabytes: number) => {
    await arkiv.app.get(SettingsService).set({ previewGigabytes: gigabytes });
    await arkiv.app.get(PreviewStore).tidySoon();
  };

  beforeAll(async () => {
    data = dataWithCard({ until: 'OCK_9976' });
    arkiv = await startArkiv(data, undefined, { looks: true });
    const { jobId, shootId } = await arkiv.takeIn();
    await arkiv.rest(jobId);
    pictures = (await arkiv.frames(shootId)).picture;
    for (const picture of pictures) for (const size of ['thumb', 'screen']) await ask(picture, size);
    await measured(pictures);
  });
  afterAll(async () => {
    await arkiv.stop();
    removeFolder(data);
  });

  it('lets the previews that were not used for longest go when there are too many, thumbnails last', async () => {
    const [old, fresh] = [pictures[0]!, pictures[1]!];
    const before = Date.now() - 40 * DAY;
    for (const picture of pictures)
      for (const name of ['screen.jpg', 'thumb.webp'])
        utimesSync(fileOf(picture, name), new Date(before), new Date(before));
    // Looking at one is a use, written down at once where the last was long ago.
    await ask(fresh, 'screen');
    expect(Date.now() - statSync(fileOf(fresh, 'screen.jpg')).mtimeMs).toBeLessThan(DAY);
    const screens = kept().filter((file) => file.endsWith('screen.jpg')).length;
    await limit((bytes() * 0.95) / 1e9);
    const left = kept();
    expect(left.filter((file) => file.endsWith('screen.jpg')).length).toBeLessThan(screens);
    expect(left.filter((file) => file.endsWith('thumb.webp'))).toHaveLength(pictures.length);
    expect(left).toContain(path.relative(previews(), fileOf(fresh, 'screen.jpg')));
    // What has gone is made again when it is asked for.
    expect((await ask(old, 'screen')).status).toBe(200);
    await measured([old]);
  });

  it('never lets the thumbnail of a frame go whose drives are away', async () => {
    await drives('unplugged');
    await limit(1e-9);
    expect(kept().filter((file) => !file.endsWith('thumb.webp'))).toEqual([]);
    expect(kept()).toHaveLength(pictures.length);
    expect((await ask(pictures[0]!, 'thumb')).status).toBe(200);
    await drives('well');
    await limit(1e-9);
    expect(kept()).toEqual([]);
    expect((await ask(pictures[0]!, 'thumb')).status).toBe(200);
  });

  it('shows the thumbnail of an earlier maker while nothing better can be made, and lets it go then', async () => {
    await limit(20);
    await ask(pictures[2]!, 'screen');
    const older = fileOf(pictures[2]!, 'thumb.webp').replace(`v${MAKER_VERSION}`, `v${MAKER_VERSION - 1}`);
    mkdirSync(path.dirname(older), { recursive: true });
    renameSync(fileOf(pictures[2]!, 'thumb.webp'), older);
    await drives('unplugged');
    await limit(20);
    const answer = await ask(pictures[2]!, 'thumb');
    expect(Buffer.from(await answer.arrayBuffer()).equals(readFileSync(older))).toBe(true);
    await drives('well');
    await limit(20);
    expect(filesBelow(path.join(data, 'previews', `v${MAKER_VERSION - 1}`))).toEqual([]);
    expect((await ask(pictures[2]!, 'thumb')).status).toBe(200);
  });

  it('finds a thumbnail also where its own takes the place of the first one while it is asked for', async () => {
    const [picture] = pictures;
    const store = arkiv.app.get(PreviewStore);
    const own = await store.read(picture!, 'thumb');
    await store.drop(picture!, 'screen');
    await store.drop(picture!, 'thumb');
    const read = store.read.bind(store);
    const reading = jest.spyOn(store, 'read').mockImplementation(async (key, size) => {
      // What another asked for is kept at the worst moment there is.
      if (size === 'quick' && (await store.has(key, 'quick'))) {
        await store.keep(key, 'thumb', own!);
        await store.drop(key, 'quick');
      }
      return read(key, size);
    });
    try {
      expect(await arkiv.app.get(PreviewsService).get(picture!, 'thumb')).toEqual(own);
    } finally {
      reading.mockRestore();
    }
  });

  it('copies the database once a day and keeps a week of copies', async () => {
    const folder = path.join(data, 'database-copies');
    const copies = arkiv.app.get(DatabaseCopies);
    await copies.copyIfDue();
    const [today] = readdirSync(folder);
    expect(today).toBe(`archive-${new Date().toISOString().slice(0, 10)}.sqlite`);
    for (let day = 10; day < 20; day++) writeFileSync(path.join(folder, `archive-2020-01-${day}.sqlite`), '');
    // What a killed run left behind is no copy, and today's is made anew beside ten old ones.
    renameSync(path.join(folder, today!), path.join(folder, 'archive-2020-01-20.sqlite.part'));
    writeFileSync(path.join(folder, `${today}.part`), 'half');
    await Promise.all([copies.copyIfDue(), copies.copyIfDue()]);
    expect(
      readdirSync(folder)
        .filter((name) => name.endsWith('.sqlite'))
        .sort(),
    ).toEqual([...[14, 15, 16, 17, 18, 19].map((day) => `archive-2020-01-${day}.sqlite`), today]);
    const copy = new Database(path.join(folder, today!), { readonly: true });
    expect(copy.prepare('SELECT COUNT(*) AS n FROM frame').get()).toEqual({ n: pictures.length });
    copy.close();
    await copies.copyIfDue();
    expect(await copies.days()).toHaveLength(7);
  });

  it('writes its log into files of which each ends when it is full', async () => {
    const folder = temporaryFolder();
    const log = await FileLogger.open(folder, []);
    const print = log as unknown as {
      printMessages(messages: string[], context: string, level: string): void;
    };
    const quiet = jest.spyOn(process.stdout, 'write').mockReturnValue(true);
    for (let i = 0; i < 11; i++) print.printMessages([`${i}:${'x'.repeat(1024 * 1024)}`], 'test', 'warn');
    await log.close();
    quiet.mockRestore();
    const files = filesBelow(path.join(folder, 'logs'));
    expect(files.length).toBeGreaterThan(1);
    const all = files.map((file) => readFileSync(path.join(folder, 'logs', file), 'utf8')).join('');
    for (let i = 0; i < 11; i++) expect(all).toContain(`warn test: ${i}:`);
    removeFolder(folder);
  });
});
