import {
  describe as describeFilter,
  filterProblem,
  matches,
  normalise,
  QUERY_FIELDS,
  toSql,
  type Filter,
  type QueryFrame,
} from '@arkiv/core';
import fc from 'fast-check';
import { copyFileSync, existsSync, readdirSync } from 'node:fs';
import path from 'node:path';
import { Logger } from '@nestjs/common';
import Database from 'better-sqlite3';
import { openReadSource, openWriteSource } from '../src/db/sources';
import type { LongReading } from '../src/db/longReading';
import { Reading, UnitOfWork } from '../src/db/unitOfWork';
import { ENTITIES } from '../src/entities';
import { Happenings } from '../src/events/domainEvents';
import { NodeDisk } from '../src/disk/nodeDisk';
import { Frame } from '../src/frames/frame.entity';
import { FramesService } from '../src/frames/frames.service';
import { queryFrame } from '../src/frames/queryFrame';
import { Shoot } from '../src/shoots/shoot.entity';
import { Clock } from '../src/system/clock';
import { Setting } from '../src/settings/setting.entity';
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
    await work.write(async (manager) => {
      const shoot = { id: 's', title: 't', date: '2031-04-18', client: '', place: '', folders: [], plan: {} };
      const rest = { pattern: '', nextSeq: 1, seqBy: 'shoot', zoneMinutes: 0, createdAt: 0, revision: 1 };
      await manager.insert(Shoot, { ...shoot, ...rest } as never);
      for (const [i, facts] of fc.sample(pool, { numRuns: 250, seed: 7 }).entries()) {
        const kept = { millis: 0, correctionMillis: 0, orientation: 1, markedAt: 0, sidecarDue: 0 };
        const place = { id: `f${i}`, shootId: 's', state: 'here', folder: '', place: '', chosen: false };
        await manager.insert(Frame, { ...facts, ...kept, ...place } as never);
      }
    });
    const frames = await reading.manager.find(Frame);
    const select = new FramesService(reading, {} as VolumesService, {} as LongReading);
    const bySentence = new Map<string, string>();
    let some = 0;
    const check = async (filter: Filter): Promise<void> => {
      expect(filterProblem(filter)).toBeNull();
      const wanted = frames.filter((frame) => matches(filter, queryFrame(frame))).map(({ id }) => id);
      const { where, parameters } = toSql(filter);
      const found: { id: string }[] = await reading.source.query(
        `SELECT id FROM frame f WHERE ${where} ORDER BY key`,
        parameters,
      );
      expect(found.map(({ id }) => id)).toEqual(wanted);
      // What is written shorter says and finds the same; and no sentence stands for two findings.
      const simple = normalise(filter);
      expect(frames.filter((frame) => matches(simple, queryFrame(frame))).map(({ id }) => id)).toEqual(
        wanted,
      );
      expect(describeFilter(simple)).toBe(describeFilter(filter));
      const sentence = describeFilter(filter);
      expect([sentence, bySentence.get(sentence) ?? wanted.join()]).toEqual([sentence, wanted.join()]);
      bySentence.set(sentence, wanted.join());
      if (wanted.length > 0 && wanted.length < frames.length) some += 1;
    };
    await fc.assert(fc.asyncProperty(filters, check), { numRuns: 800, seed: 11 });
    // The generated filters are no empty ones: most tell frames apart.
    expect(some).toBeGreaterThan(300);
    for (const filter of fc.sample(filters, { numRuns: 30, seed: 13 }))
      expect((await select.select('s', filter)).map(({ id }) => id).sort()).toEqual(
        frames
          .filter((frame) => matches(filter, queryFrame(frame)))
          .map(({ id }) => id)
          .sort(),
      );
  });

  it('refuses a value that is not of its field’s type, for every field and condition', () => {
    const values = ['3', 3, true, null, {}, [], ['3'], [3], [3, 3], ['3', '3']];
    const conditions = ['is', 'oneOf', 'contains', 'atLeast', 'atMost', 'between', 'none'];
    const taken: Record<string, string[]> = {};
    for (const [field, { type }] of Object.entries(QUERY_FIELDS))
      for (const condition of conditions)
        for (const value of values)
          if (filterProblem({ field, [condition]: value }) === null)
            taken[type] = [...new Set([...(taken[type] ?? []), `${condition} ${JSON.stringify(value)}`])];
    const texts = ['is "3"', 'oneOf []', 'oneOf ["3"]', 'oneOf ["3","3"]'];
    expect(taken).toEqual({
      text: [...texts, 'contains "3"', 'none true'],
      choice: [...texts, 'contains "3"', 'none true'],
      number: [
        ...['is 3', 'oneOf []', 'oneOf [3]', 'oneOf [3,3]', 'atLeast 3', 'atMost 3', 'between [3,3]'],
        'none true',
      ],
      words: ['contains "3"', 'none true'],
      set: [...texts, 'none true'],
    });
  });
});

/** Frames and filters over few values, so that they meet: with accents, folds, missing facts and joined formats. */
function generated(): { pool: fc.Arbitrary<QueryFrame>; filters: fc.Arbitrary<Filter> } {
  const TEXTS: Record<string, readonly string[]> = {
    name: ['Straße_1', 'ÉTÉ_2', 'plain_3', 'bow_4'],
    original: ['OCK_0001', 'OCK_0002', 'ete'],
    verdict: ['keep', 'reject', 'undecided'],
    label: ['A', 'M'],
    body: ['Ockham Five', 'Öckham Six'],
    lens: ['50 mm', 'été 85'],
    role: ['original', 'clip'],
    format: ['jpeg', 'dng+jpeg', 'dng', 'heic+jpegx', 'mp4'],
    raw: ['none', 'only', 'pair'],
    sign: ['incomplete file'],
    detail: ['full', 'embedded'],
    voice: ['voice note'],
    piles: ['', 'P1', 'P2', 'P1+P2', 'P12+P2'],
    advice: ['', 'soft', 'soft+shaken', 'over-exposed+tilted'],
    caption: ['Été at the pier', 'two\nlines'],
    keywords: ['', 'heron', 'grey heron\nfish', 'fish\nHeron', 'fish + chips'],
    persons: ['', 'Ana Pinto', 'Bo\nAna Pinto'],
    texts: ['', '{"headline":"Été at the pier"}', '{"credit":"two\\nlines","city":"Öckham"}'],
  };
  const NUMBERS: Record<string, readonly number[]> = {
    stars: [0, 1, 2, 3, 4, 5],
    instant: [-1, 0, 1_900_000_000_000],
    aperture: [1.4, 2.8, 4],
    exposure: [0.001, 0.5],
    iso: [100, 400, 6400],
    focalLength: [24, 50.5],
    sharpness: [0, 41.5],
  };
  const always = [
    'name',
    'original',
    'verdict',
    'stars',
    'role',
    'format',
    'raw',
    'piles',
    'advice',
    'keywords',
    'persons',
    'texts',
  ];
  const facts = Object.entries({ ...TEXTS, ...NUMBERS }).map(([fact, values]) => {
    const known = fc.constantFrom<string | number | null>(...values);
    return [fact, always.includes(fact) ? known : fc.option(known, { nil: null })];
  });
  const pool = fc.record(Object.fromEntries(facts)) as unknown as fc.Arbitrary<QueryFrame>;
  const asked = [...Object.values(TEXTS).flat(), 'x', 'ock', 'E', 'headline', ''];
  const SETS: Record<string, readonly string[]> = {
    formats: ['jpeg', 'dng', 'png', 'jpe'],
    piles: ['P1', 'P2', 'P12', 'P'],
    advice: ['soft', 'shaken', 'exposed', 'tilted'],
    keywords: ['heron', 'fish', 'grey heron', 'chips', 'grey'],
    persons: ['Ana Pinto', 'Bo', 'Ana'],
  };
  // Drives come and go: which are away is no fact that a frame keeps.
  const kept = Object.entries(QUERY_FIELDS).filter(([field]) => field !== 'away');
  const leaf = fc.constantFrom(...kept).chain(([field, { type }]) => {
    const text = fc.constantFrom(...(type === 'set' ? SETS[field]! : (TEXTS[field] ?? asked)));
    const number = fc.constantFrom(...(NUMBERS[field] ?? [0]), 3);
    const value: fc.Arbitrary<string | number> = type === 'number' ? number : text;
    const kinds: fc.Arbitrary<object>[] = [fc.constant({ none: true })];
    if (type !== 'words')
      kinds.push(
        value.map((is) => ({ is })),
        fc.array(value, { maxLength: 3 }).map((oneOf) => ({ oneOf })),
      );
    if (type !== 'number' && type !== 'set')
      kinds.push(fc.constantFrom(...asked).map((contains) => ({ contains })));
    if (type === 'number')
      kinds.push(
        number.map((atLeast) => ({ atLeast })),
        number.map((atMost) => ({ atMost })),
        fc.tuple(number, number).map((between) => ({ between })),
      );
    return fc.oneof(...kinds).map((condition) => ({ field, ...condition }) as Filter);
  });
  const { filter } = fc.letrec<{ filter: Filter }>((tie) => ({
    filter: fc.oneof(
      { maxDepth: 4, depthSize: 'small' },
      leaf,
      fc.record({ not: tie('filter') }),
      fc.array(tie('filter'), { maxLength: 3 }).map((all) => ({ all })),
      fc.array(tie('filter'), { maxLength: 3 }).map((any) => ({ any })),
    ) as fc.Arbitrary<Filter>,
  }));
  return { pool, filters: filter };
}
