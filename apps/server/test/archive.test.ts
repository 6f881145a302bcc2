import { filterProblem, matches, QUERY_FIELDS, toSql, type Filter, type QueryFrame } from '@arkiv/core';
import { copyFileSync, existsSync, readdirSync } from 'node:fs';
import path from 'node:path';
import Database from 'better-sqlite3';
import { openReadSource, openWriteSource } from '../src/db/sources';
import { Reading, UnitOfWork } from '../src/db/unitOfWork';
import { NodeDisk } from '../src/disk/nodeDisk';
import { Frame } from '../src/frames/frame.entity';
import { FramesService, queryFrame } from '../src/frames/frames.service';
import { Shoot } from '../src/shoots/shoot.entity';
import { Clock } from '../src/system/clock';
import { Setting } from '../src/system/setting.entity';
import type { VolumesService } from '../src/volumes/volumes.service';
import { removeFolder, temporaryFolder } from './testArkiv';

describe('the archive’s database', () => {
  let folder: string;
  let close: () => Promise<void>;
  let work: UnitOfWork;
  let reading: Reading;

  beforeEach(async () => {
    folder = temporaryFolder();
    const file = path.join(folder, 'archive.sqlite');
    const write = await openWriteSource(file, new NodeDisk(), new Clock());
    const read = await openReadSource(file);
    work = new UnitOfWork(write);
    reading = new Reading(read);
    close = async () => {
      await read.destroy();
      await write.destroy();
    };
  });
  afterEach(async () => {
    await close();
    removeFolder(folder);
  });

  it('keeps every write of many that were asked for at once', async () => {
    await work.write((m) => m.save(Setting, { key: 'n', value: 0 }));
    const add = () =>
      work.write(async (manager) => {
        const { value } = await manager.findOneByOrFail(Setting, { key: 'n' });
        await new Promise((resolve) => setTimeout(resolve, 1));
        await manager.save(Setting, { key: 'n', value: (value as number) + 1 });
      });
    await Promise.all(Array.from({ length: 40 }, add));
    expect((await reading.manager.findOneByOrFail(Setting, { key: 'n' })).value).toBe(40);
  });

  it('takes back all of a write that fails, and none of its neighbours', async () => {
    const good = work.write((m) => m.save(Setting, { key: 'a', value: 1 }));
    const bad = work.write(async (m) => {
      await m.save(Setting, { key: 'b', value: 1 });
      throw new Error('on purpose');
    });
    const next = work.write((m) => m.save(Setting, { key: 'c', value: 1 }));
    await expect(bad).rejects.toThrow('on purpose');
    await Promise.all([good, next]);
    expect((await reading.manager.find(Setting)).map((s) => s.key).sort()).toEqual(['a', 'c']);
  });

  it('cannot be written over the reading connection', async () => {
    await expect(reading.manager.save(Setting, { key: 'x', value: 1 })).rejects.toThrow(/readonly/);
  });

  it('syncs every commit to the disk', async () => {
    expect(await work.write((m) => m.query('PRAGMA synchronous'))).toEqual([{ synchronous: 2 }]);
    expect(await work.write((m) => m.query('PRAGMA journal_mode'))).toEqual([{ journal_mode: 'wal' }]);
  });

  it('refuses an archive that a newer Arkiv wrote, and leaves it as it is', async () => {
    await close();
    const file = path.join(folder, 'archive.sqlite');
    const database = new Database(file);
    database
      .prepare(`INSERT INTO migrations (timestamp, name) VALUES (9999999999999, 'FromTheFuture')`)
      .run();
    database.close();
    copyFileSync(file, `${file}.before`);
    await expect(openWriteSource(file, new NodeDisk(), new Clock())).rejects.toMatchObject({
      code: 'archive.newer',
    });
    expect(existsSync(file)).toBe(true);
    expect(readdirSync(folder).some((f) => f.includes('before-'))).toBe(false);
    close = () => Promise.resolve();
  });

  it('finds by SQL just what the predicate lets through, for every kind of filter', async () => {
    const shoot = {
      id: 's',
      title: 't',
      date: '2031-04-18',
      client: '',
      place: '',
      folders: [],
      plan: {},
      pattern: '',
      nextSeq: 1,
      seqBy: 'shoot',
      zoneMinutes: 0,
      createdAt: 0,
      revision: 1,
    };
    const pick = <T>(list: readonly T[], i: number): T => list[i % list.length]!;
    await work.write(async (manager) => {
      await manager.insert(Shoot, shoot as never);
      for (let i = 0; i < 240; i++) {
        const frame: Partial<Frame> = {
          id: `f${i}`,
          shootId: 's',
          state: 'here',
          name: pick(['Straße_1', 'ÉTÉ_2', 'plain_3'], i),
          original: `OCK_${i}`,
          folder: '',
          place: '',
          verdict: pick(['keep', 'reject', 'undecided'], i),
          stars: i % 6,
          label: pick([null, 'A', 'M'], i >> 1),
          instant: i % 7 ? i : null,
          millis: 0,
          correctionMillis: 0,
          body: pick(['Ockham Five', null], i),
          lens: null,
          aperture: pick([2.8, 4, null], i >> 2),
          iso: pick([100, 400, null], i),
          orientation: 1,
          role: 'original',
          format: 'jpeg',
          raw: 'none',
          markedAt: 0,
          sidecarDue: 0,
        };
        await manager.insert(Frame, frame as never);
      }
    });
    const filters: Filter[] = [
      { all: [] },
      { any: [] },
      { field: 'stars', atLeast: 3 },
      { field: 'iso', atMost: 200 },
      { not: { field: 'iso', atMost: 200 } },
      { field: 'body', none: true },
      { not: { field: 'body', is: 'Ockham Five' } },
      { field: 'verdict', oneOf: ['keep', 'reject'] },
      { field: 'verdict', oneOf: [] },
      { field: 'name', contains: 'ete' },
      { field: 'aperture', between: [2, 3] },
      {
        any: [
          {
            all: [
              { field: 'label', is: 'A' },
              { field: 'stars', is: 2 },
            ],
          },
          {
            not: {
              any: [
                { field: 'iso', none: true },
                { field: 'stars', atMost: 4 },
              ],
            },
          },
        ],
      },
    ];
    // Every field against every kind of condition and every kind of value: what is taken from outside must agree.
    const values = ['3', 3, 'keep', 2.8, '2.8', 'A', 'OCK_9', '', 'jpeg', 400, '400'];
    let refused = 0;
    for (const field of Object.keys(QUERY_FIELDS))
      for (const value of values)
        for (const condition of [
          { is: value },
          { oneOf: [value] },
          { contains: value },
          { atLeast: value },
          { atMost: value },
          { between: [value, value] },
        ])
          for (const filter of [{ field, ...condition }, { not: { field, ...condition } }])
            if (filterProblem(filter) === null) filters.push(filter as Filter);
            else refused += 1;
    expect(refused).toBeGreaterThan(100);
    expect(filters.length).toBeGreaterThan(300);
    const all = await reading.manager.find(Frame);
    const frames = new FramesService(reading, {} as VolumesService);
    for (const filter of filters) {
      const wanted = all.filter((f) => matches(filter, queryFrame(f) as QueryFrame)).map((f) => f.id);
      const { where, parameters } = toSql(filter);
      const found: { id: string }[] = await reading.source.query(
        `SELECT f.id FROM frame f WHERE ${where}`,
        parameters,
      );
      expect([filter, found.map((f) => f.id).sort()]).toEqual([filter, wanted.sort()]);
      expect((await frames.select('s', filter)).map((f) => f.id).sort()).toEqual(wanted);
    }
  });
});
