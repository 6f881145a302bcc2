import { mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { keptTexts, matches, type Filter, type QueryFrame } from '@arkiv/core';
import { DataSource } from 'typeorm';
import { MIGRATIONS } from '../src/db/migrations';
import { Recounts } from '../src/frames/recounts.service';
import { removeFolder, startArkiv, temporaryFolder } from './testArkiv';

/** Schema of the last version that told partitions apart instead of disks; and of the last where a TIFF was a raw. */
const OF_BEFORE = 2;
const OF_ONE_FACT = 3;
/** And of the last that kept what had happened in its jobs, and each file's place in four tables. */
const OF_JOBS = 5;

async function oldDatabase(
  data: string,
  version: number,
  fill: (source: DataSource) => Promise<void>,
): Promise<void> {
  const source = await new DataSource({
    type: 'better-sqlite3',
    database: path.join(data, 'archive.sqlite'),
    migrations: MIGRATIONS.slice(0, version),
  }).initialize();
  await source.runMigrations();
  await fill(source);
  await source.destroy();
}

/** An answer without what the earlier version did not have: columns, and facts of things in lists. */
function answeredBefore(now: unknown, before: unknown): unknown {
  if (Array.isArray(now) && Array.isArray(before) && now.length === before.length)
    return now.map((one, i) => answeredBefore(one, before[i]));
  if (now === null || before === null || typeof now !== 'object' || typeof before !== 'object') return now;
  if (Array.isArray(now) || Array.isArray(before)) return now;
  const known = now as Record<string, unknown>;
  return Object.fromEntries(
    Object.entries(before).flatMap(([key, was]) =>
      key in known ? [[key, answeredBefore(known[key], was)]] : [],
    ),
  );
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
    await oldDatabase(data, OF_BEFORE, async (source) => {
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

  it('is taken over: part, format and raw become three facts, and saved rules mean what they meant', async () => {
    const data = temporaryFolder();
    const files: [string, string, string[]][] = [
      ['J', 'jpeg', ['a.JPG']],
      ['H', 'jpeg', ['b.HEIC']],
      ['P', 'raw+jpeg', ['c.CR3', 'c.jpg', 'c.wav']],
      ['R', 'raw', ['d.NEF']],
      ['T', 'raw', ['e.TIF']],
      ['C', 'clip', ['f.MOV']],
    ];
    const roleOf = (file: string) =>
      /jpg|heic/i.test(file) ? 'jpeg' : /mov/i.test(file) ? 'clip' : /wav/i.test(file) ? 'note' : 'raw';
    const rules = {
      keeper: {
        any: [
          { field: 'format', is: 'raw+jpeg' },
          { field: 'format', oneOf: ['raw', 'clip'] },
        ],
      },
      reject: { all: [{ field: 'stars', is: 1 }, { not: { field: 'format', contains: 'JPEG' } }] },
    };
    await oldDatabase(data, OF_ONE_FACT, async (source) => {
      await source.query(
        `INSERT INTO shoot (id, title, date, client, place, folders, plan, pattern, "nextSeq", "seqBy", "zoneMinutes", "createdAt", revision)
         VALUES ('S', 'Old', '2031-04-18', '', '', '["f"]', ?, '{seq}', 9, 'shoot', 0, 1, 1)`,
        [JSON.stringify({ path: 'f', originals: 'originals', selects: 'selects', delivery: 'delivery' })],
      );
      for (const [id, format, names] of files) {
        await source.query(
          `INSERT INTO frame (id, "shootId", state, name, original, folder, place, verdict, stars, millis,
             "correctionMillis", orientation, format, "markedAt", "sidecarDue")
           VALUES (?, 'S', 'here', ?, ?, 'f', 'f/originals', 'undecided', 0, 0, 0, 1, ?, 0, 0)`,
          [id, id, id, format],
        );
        for (const name of names)
          await source.query(
            `INSERT INTO asset (id, "shootId", "frameId", role, sha256, size, path, "cardPath") VALUES (?, 'S', ?, ?, ?, 1, ?, ?)`,
            [name, id, roleOf(name), name.padEnd(64, '0'), `f/originals/${name}`, name],
          );
      }
      await source.query(`INSERT INTO setting VALUES ('rules', ?)`, [JSON.stringify(rules)]);
    });
    const arkiv = await startArkiv(data, undefined, { standIns: false });
    try {
      const columns = await arkiv.columns('S');
      const facts = Object.fromEntries(
        (columns.id as string[]).map((id, i) => [
          id,
          [columns.role![i], columns.format![i], columns.raw![i]],
        ]),
      );
      expect(facts).toEqual({
        J: ['original', 'jpeg', 'none'],
        H: ['original', 'heic', 'none'],
        P: ['original', 'cr3+jpeg', 'pair'],
        R: ['original', 'nef', 'only'],
        T: ['original', 'tiff', 'none'],
        C: ['clip', 'mov', 'none'],
      });
      const pictures = Object.fromEntries((columns.id as string[]).map((id, i) => [id, columns.picture![i]]));
      expect([pictures.P, pictures.T]).toEqual(['c.jpg'.padEnd(64, '0'), 'e.TIF'.padEnd(64, '0')]);
      const { rules: now } = await arkiv.get<{ rules: { keeper: Filter; reject: Filter } }>('/settings');
      const passing = (filter: Filter) =>
        (columns.id as string[]).filter((_, i) => {
          const frame = Object.fromEntries(Object.entries(columns).map(([key, list]) => [key, list[i]]));
          return matches(filter, { ...frame, stars: 1 } as unknown as QueryFrame);
        });
      // All that was a raw or a clip; a TIFF is none any more. Nothing whose format held “jpeg” is rejected.
      expect(passing(now.keeper).sort()).toEqual(['C', 'P', 'R']);
      expect(passing(now.reject).sort()).toEqual(['C', 'R']);
    } finally {
      await arkiv.stop();
      removeFolder(data);
    }
  });

  it('is taken over: whatever it answered about shoots, files, copies, cards and deliveries it answers still', async () => {
    const data = temporaryFolder();
    // A small archive as the version before wrote it: a card with one frame left out, marks, a hand-off, a delivery,
    // a renaming, and a copy found missing; and what that version answered.
    const { rows, said } = JSON.parse(
      readFileSync(path.join(__dirname, 'fixtures/schema-5.json'), 'utf8').replaceAll('{data}', data),
    ) as { rows: Record<string, Record<string, unknown>[]>; said: Record<string, unknown> };
    await oldDatabase(data, OF_JOBS, async (source) => {
      for (const [table, list] of Object.entries(rows))
        for (const row of table === 'migrations' ? [] : list) {
          const names = Object.keys(row).map((name) => `"${name}"`);
          await source.query(
            `INSERT INTO "${table}" (${names.join(', ')}) VALUES (${names.map(() => '?').join(', ')})`,
            Object.values(row),
          );
        }
    });
    const arkiv = await startArkiv(data, undefined, { standIns: false });
    try {
      for (const [where, before] of Object.entries(said)) {
        if (where.startsWith('/readers')) continue;
        const answer = await arkiv.get<object>(where);
        expect([where, answeredBefore(answer, before)]).toEqual([where, before]);
      }
      const recounts = arkiv.app.get(Recounts);
      await recounts.settled();
      expect(await recounts.differences()).toEqual([]);
    } finally {
      await arkiv.stop();
      removeFolder(data);
    }
  });

  it('has its captions, keywords and texts as marks: what was stamped at an intake is there at once', async () => {
    const data = temporaryFolder();
    const before = MIGRATIONS.findIndex(({ name }) => name.startsWith('Words'));
    const said = [
      { creator: 'A. “B.”', credit: null, caption: ' At the pier ', keywords: ['heron', 'grey heron'] },
      { creator: null, city: 'Hafen', region: 'Süd', caption: '', keywords: [] },
      { caption: null, keywords: ['fish'] },
      null,
    ];
    await oldDatabase(data, before, async (source) => {
      // What must be there and is not looked at is nothing.
      const add = async (table: string, row: Record<string, unknown>) => {
        const columns: { name: string; type: string; notnull: number; dflt_value: unknown; pk: number }[] =
          await source.query(`PRAGMA table_info("${table}")`);
        const filled = columns
          .filter(({ notnull, dflt_value, pk }) => notnull && dflt_value === null && !pk)
          .map(({ name, type }) => [name, type.toLowerCase() === 'text' ? '' : 0] as const);
        const all = { ...Object.fromEntries(filled), ...row };
        const names = Object.keys(all);
        await source.query(
          `INSERT INTO "${table}" (${names.map((name) => `"${name}"`).join(', ')}) VALUES (${names.map(() => '?').join(', ')})`,
          Object.values(all),
        );
      };
      await add('shoot', { id: 'S', folders: '[]', plan: '{}' });
      for (const [i, description] of said.entries()) {
        await add('frame', { id: `F${i}`, shootId: 'S', name: `n${i}`, state: 'here', verdict: 'undecided' });
        await add('frame_text', {
          frameId: `F${i}`,
          description: description === null ? null : JSON.stringify(description),
        });
      }
    });
    const source = await new DataSource({
      type: 'better-sqlite3',
      database: path.join(data, 'archive.sqlite'),
      migrations: MIGRATIONS,
    }).initialize();
    try {
      await source.runMigrations();
      const none = { caption: null, keywords: '', persons: '', texts: '' };
      expect(
        await source.query('SELECT caption, keywords, persons, texts FROM frame_here ORDER BY id'),
      ).toEqual([
        {
          ...{ ...none, caption: 'At the pier', keywords: 'heron\ngrey heron' },
          texts: keptTexts({ creator: 'A. “B.”' }),
        },
        { ...none, texts: keptTexts({ region: 'Süd', city: 'Hafen' }) },
        { ...none, keywords: 'fish' },
        none,
      ]);
    } finally {
      await source.destroy();
      removeFolder(data);
    }
  });
});
