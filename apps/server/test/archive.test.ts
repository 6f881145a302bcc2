import {
  asksFor,
  describe as describeFilter,
  filterProblem,
  matches,
  normalise,
  NOT_KEPT,
  QUERY_FIELDS,
  toSql,
  type Filter,
} from '@arkiv/core';
import fc from 'fast-check';
import { copyFileSync, existsSync, readdirSync } from 'node:fs';
import path from 'node:path';
import { Logger } from '@nestjs/common';
import Database from 'better-sqlite3';
import { openReadSource, openWriteSource } from '../src/db/sources';
import type { LongReading } from '../src/db/longReading';
import type { Disk } from '../src/disk/disk';
import { Reading, UnitOfWork } from '../src/db/unitOfWork';
import { ENTITIES } from '../src/entities';
import { Happenings } from '../src/events/domainEvents';
import { NodeDisk } from '../src/disk/nodeDisk';
import { Asset } from '../src/frames/asset.entity';
import { Copy } from '../src/frames/copy.entity';
import { Frame } from '../src/frames/frame.entity';
import { FramesService } from '../src/frames/frames.service';
import { queryFrame } from '../src/frames/queryFrame';
import { generated, SHOOTS, whole } from '../../../packages/core/src/query/generated.testing';
import { Delivery, DeliveryFile } from '../src/ledger/delivery.entity';
import { Shoot } from '../src/shoots/shoot.entity';
import { Clock } from '../src/system/clock';
import { Setting } from '../src/settings/setting.entity';
import { Volume } from '../src/volumes/volume.entity';
import type { VolumesService } from '../src/volumes/volumes.service';
import { removeFolder, temporaryFolder } from './testArkiv';

describe('the archive’s database', () => {
  let folder: string;
  let close: () => Promise<void>;
  let work: UnitOfWork;
  let reading: Reading;
  let happenings: Happenings;

  beforeEach(async () => {
    folder = temporaryFolder();
    const file = path.join(folder, 'archive.sqlite');
    const write = await openWriteSource(file, new NodeDisk(), new Clock(), ENTITIES);
    const read = await openReadSource(file, ENTITIES);
    happenings = new Happenings();
    work = new UnitOfWork(write, happenings);
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

  it('tells what happened after the commit and in its order, and nothing of what failed', async () => {
    const heard: string[] = [];
    let open = false;
    happenings.on('shoots', ({ shootId }) => heard.push(`${shootId}${open ? ' too early' : ''}`));
    happenings.on('shoots', () => {
      throw new Error('a listener of its own mind');
    });
    const log = jest.spyOn(Logger.prototype, 'error').mockImplementation(() => undefined);
    const write = (name: string, fails: boolean) =>
      work.write(async (manager) => {
        open = true;
        happenings.after(manager, 'shoots', { shootId: `${name}1` });
        happenings.after(manager, 'shoots', { shootId: `${name}2` });
        await manager.save(Setting, { key: name, value: 1 });
        open = false;
        if (fails) throw new Error('on purpose');
      });
    const all = [write('a', false), write('b', true), write('c', false)];
    await Promise.allSettled(all);
    expect(heard).toEqual(['a1', 'a2', 'c1', 'c2']);
    expect(log).toHaveBeenCalled();
    log.mockRestore();
    expect(() => happenings.after({}, 'shoots', { shootId: 'x' })).toThrow('outside of a transaction');
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
    await expect(openWriteSource(file, new NodeDisk(), new Clock(), ENTITIES)).rejects.toMatchObject({
      code: 'archive.newer',
    });
    expect(existsSync(file)).toBe(true);
    expect(readdirSync(folder).some((f) => f.includes('before-'))).toBe(false);
    close = () => Promise.resolve();
  });

  it('means by SQL, by the predicate and by its sentence the same with every filter', async () => {
    const { pool, filters } = generated();
    const made = fc.sample(pool, { numRuns: 250, seed: 7 });
    await work.write(async (manager) => {
      for (const { id, title, client, place } of SHOOTS) {
        const shoot = { id, title, date: '2031-04-18', client, place, folders: [], plan: {} };
        const rest = { pattern: '', nextSeq: 1, seqBy: 'shoot', zoneMinutes: 0, createdAt: 0, revision: 1 };
        await manager.insert(Shoot, { ...shoot, ...rest } as never);
      }
      const to = {
        shootId: 's1',
        volumeId: 'v',
        name: '',
        title: '',
        spec: {},
        folder: '',
        zip: null,
        at: 1,
      };
      await manager.insert(Delivery, { id: 'done', ...to, finishedAt: 2 } as never);
      await manager.insert(Delivery, { id: 'begun', ...to, finishedAt: null } as never);
      const none = { disks: null, stated: null, below: null };
      const drive = { name: '', root: '', role: 'working', device: '', ...none };
      for (const id of ['D1', 'D2', 'D12'])
        await manager.insert(Volume, { ...drive, id, addedAt: 1 } as never);
      for (const [i, { drives, delivered, lies, ...facts }] of made.entries()) {
        const id = `f${i}`;
        const kept = { orientation: 1, markedAt: 0, sidecarDue: 0, shownBy: `a${i}` };
        const place = { id, state: 'here', folder: '', place: lies ?? '', chosen: false };
        await manager.insert(Frame, { ...facts, ...kept, ...place } as never);
        const content = { sha256: null, size: 1, ends: null, cardPath: '', picture: null, devices: 0 };
        const its = { shootId: facts.shootId, frameId: id, role: 'original', format: '', raw: false };
        await manager.insert(Asset, { ...its, ...content, id: `a${i}`, name: `${i}.jpg` } as never);
        const copy = { assetId: `a${i}`, path: null, size: null, mtime: null };
        for (const volumeId of (drives ?? '').split('+').filter(Boolean))
          await manager.insert(Copy, { ...copy, volumeId, verifiedAt: 1, pastCache: true });
        // What was begun, or failed, nobody has got.
        const file = { seq: i, frameId: id, from: '', to: '' };
        await manager.insert(DeliveryFile, { ...file, deliveryId: 'begun', fate: 'made' });
        await manager.insert(DeliveryFile, {
          ...file,
          deliveryId: 'done',
          fate: delivered ? 'made' : 'failed',
        });
      }
    });
    const frames = made.map((facts, i) => ({ ...whole(facts), id: `f${i}` }));
    const rows = await reading.manager.find(Frame);
    // What the server makes of a row is what was put into it.
    for (const row of rows) expect(frames.find(({ id }) => id === row.id)).toMatchObject(queryFrame(row));
    const select = new FramesService(reading, {} as VolumesService, {} as LongReading, {} as Disk);
    const bySentence = new Map<string, string>();
    let some = 0;
    const check = async (filter: Filter): Promise<void> => {
      expect(filterProblem(filter)).toBeNull();
      const wanted = frames.filter((frame) => matches(filter, frame)).map(({ id }) => id);
      const { where, parameters } = toSql(filter);
      const found: { id: string }[] = await reading.source.query(
        `SELECT id FROM frame f WHERE ${where} ORDER BY key`,
        parameters,
      );
      expect(found.map(({ id }) => id)).toEqual(wanted);
      // What is written shorter says and finds the same; and no sentence stands for two findings.
      const simple = normalise(filter);
      expect(frames.filter((frame) => matches(simple, frame)).map(({ id }) => id)).toEqual(wanted);
      expect(describeFilter(simple)).toBe(describeFilter(filter));
      const sentence = describeFilter(filter);
      expect([sentence, bySentence.get(sentence) ?? wanted.join()]).toEqual([sentence, wanted.join()]);
      bySentence.set(sentence, wanted.join());
      if (wanted.length > 0 && wanted.length < frames.length) some += 1;
    };
    await fc.assert(fc.asyncProperty(filters, check), { numRuns: 1000, seed: 11 });
    // The generated filters are no empty ones: many tell frames apart.
    expect(some).toBeGreaterThan(300);
    // A rule goes by what a frame keeps.
    const rules = fc
      .sample(filters, { numRuns: 60, seed: 13 })
      .filter((filter) => !NOT_KEPT.some((field) => asksFor(filter, field)));
    expect(rules.length).toBeGreaterThan(20);
    for (const filter of rules)
      expect((await select.select('s1', filter)).map(({ id }) => id).sort()).toEqual(
        rows
          .filter(
            ({ id, shootId }) =>
              shootId === 's1' &&
              matches(
                filter,
                frames.find((its) => its.id === id)!,
              ),
          )
          .map(({ id }) => id)
          .sort(),
      );
  });

  it('refuses a value that is not of its field’s type, for every field and condition', () => {
    const values = ['3', 3, true, null, {}, [], ['3'], [3], [3, 3], ['3', '3']];
    const conditions = [
      ...['is', 'oneOf', 'contains', 'atLeast', 'atMost', 'between', 'word', 'begins', 'phrase', 'none'],
    ];
    const taken: Record<string, string[]> = {};
    for (const [field, { type }] of Object.entries(QUERY_FIELDS))
      for (const condition of conditions)
        for (const value of values)
          if (filterProblem({ field, [condition]: value }) === null)
            taken[type] = [...new Set([...(taken[type] ?? []), `${condition} ${JSON.stringify(value)}`])];
    const texts = ['is "3"', 'oneOf []', 'oneOf ["3"]', 'oneOf ["3","3"]'];
    const words = ['word "3"', 'begins "3"', 'phrase "3"'];
    expect(taken).toEqual({
      text: [...texts, 'contains "3"', ...words, 'none true'],
      choice: [...texts, 'contains "3"', ...words, 'none true'],
      number: [
        ...['is 3', 'oneOf []', 'oneOf [3]', 'oneOf [3,3]', 'atLeast 3', 'atMost 3', 'between [3,3]'],
        'none true',
      ],
      words: ['contains "3"', ...words, 'none true'],
      set: [...texts, ...words, 'none true'],
    });
    // No column holds on which drives a frame lies: it has no words.
    expect(filterProblem({ field: 'drives', word: '3' })).not.toBeNull();
    expect(filterProblem({ field: 'drives', is: '3' })).toBeNull();
  });
});
