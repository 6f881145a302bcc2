import { execFileSync } from 'node:child_process';
import {
  appendFileSync,
  mkdirSync,
  readFileSync,
  readdirSync,
  unlinkSync,
  utimesSync,
  writeFileSync,
} from 'node:fs';
import path from 'node:path';
import sharp from 'sharp';
import { ulid } from 'ulid';
import { DEFAULT_OUTPUT_SPEC, recordHead } from '@arkiv/core';
import { AdoptedService } from '../src/adopted/adopted.service';
import { Reading, UnitOfWork } from '../src/db/unitOfWork';
import { DueTexts } from '../src/frames/dueTexts.service';
import { Recounts } from '../src/frames/recounts.service';
import { NOT_RECORDED, RECORDED } from '../src/record/recorded';
import { ReturnsWatch } from '../src/returns/returnsWatch.service';
import { SidecarsService } from '../src/sidecars/sidecars.service';
import { guestOf, madeGallery } from './galleryVisitor';
import {
  filesBelow,
  removeFolder,
  startArkiv,
  takenIn,
  temporaryFolder,
  until,
  volumeOf,
  type TestArkiv,
} from './testArkiv';

const HOME = '2026/2026-10-16_press-night';

type Row = Record<string, unknown>;
type Tables = Record<string, Row[]>;

/** Columns that are not what they were, and why. */
const OTHERWISE: Record<string, string[]> = {
  // A drive lies where it lies on the new machine; what it holds is compared by its numbers.
  volume: ['root', 'device', 'disks', 'below'],
  // Secrets stay with the key that they lie under.
  destination: ['secret'],
  mail_account: ['secret'],
  gallery_link: ['secret'],
  // Which frames stand for a shoot is chosen anew when they change.
  shoot: ['leads', 'leadsAt', 'countedBy'],
};

describe('An archive that outlives its machine', () => {
  let arkiv: TestArkiv;
  let data: string;
  let shootId: string;
  let before: Tables;
  const folders: string[] = [];

  const query = (from: TestArkiv, sql: string): Promise<Row[]> => from.app.get(Reading).source.query(sql);
  const flush = async (from: TestArkiv) => {
    await from.app.get(SidecarsService).flush();
    await from.app.get(DueTexts).flush();
    await from.app.get(Recounts).settled();
  };
  /** Every table, its rows without what is found anew, in an order of their own. */
  const tablesOf = async (from: TestArkiv): Promise<Tables> => {
    const names = await query(
      from,
      `SELECT name FROM sqlite_master WHERE type = 'table' AND name NOT LIKE 'sqlite_%'`,
    );
    const tables: Tables = {};
    for (const { name } of names as { name: string }[]) {
      const rows = await query(from, `SELECT * FROM "${name}"`);
      tables[name] = rows
        .map((row) => {
          for (const column of OTHERWISE[name] ?? []) delete row[column];
          return row;
        })
        .sort((a, b) => (JSON.stringify(a) < JSON.stringify(b) ? -1 : 1));
    }
    return tables;
  };
  /** An archive that has nothing but the drives. */
  const anew = async (): Promise<{ there: TestArkiv; drives: string }> => {
    const drives = temporaryFolder();
    folders.push(drives);
    mkdirSync(path.join(drives, 'stand-ins'));
    // Node's own copying keeps times to the millisecond below: a file that came back would seem written anew.
    execFileSync('cp', ['-a', path.join(data, 'stand-ins/volumes'), path.join(drives, 'stand-ins/volumes')]);
    return { there: await startArkiv(drives), drives };
  };
  const rebuilt = async (there: TestArkiv) => {
    const [archive] = await there.get<{ id: string }[]>('/rebuild');
    const { jobId } = await there.post<{ jobId: string }>('/rebuild', { archiveId: archive!.id });
    const report = await there.rest(jobId);
    await there.app.get(Recounts).settled();
    return report;
  };

  beforeAll(async () => {
    ({ arkiv, data, shootId } = await takenIn('OCK_9974'));
    folders.push(data);
    arkiv.app.get(ReturnsWatch).settles = 200;
    await playSeason();
    await flush(arkiv);
    // What is decided after a record was written stands in the history alone.
    const { id } = await arkiv.frames(shootId);
    await arkiv.mark('stars', 0, 4, id[0]!, id[1]!);
    await arkiv.mark('keyword rain', false, true, id[0]!);
    await flush(arkiv);
    before = await tablesOf(arkiv);
    await arkiv.stop();
  });
  afterAll(() => folders.forEach(removeFolder));

  /** Something of everything that an archive keeps. */
  async function playSeason(): Promise<void> {
    const run = async (where: string, asked: object) => {
      const { jobId } = await arkiv.post<{ jobId: string }>(where, asked);
      const { job, failures } = await arkiv.rest(jobId);
      expect([where, job.state, failures]).toEqual([where, 'done', []]);
      return jobId;
    };
    const put = async (where: string, body: object, method = 'PUT') => {
      const { status, body: said } = await arkiv.ask(method, where, body);
      expect([where, status < 300, said]).toEqual([where, true, said]);
    };
    const working = await arkiv.volumeId('working');
    await put('/settings', { studio: 'Ockham & Daughters', welcomed: true }, 'PATCH');
    // One shoot apart, one apart and back again.
    const all = await arkiv.frames(shootId);
    const split = async (title: string, ...frameIds: string[]) => {
      const asked = { kind: 'split', rename: false, shootId, frameIds, title, date: '2026-10-17' };
      const { jobId, shootId: made } = await arkiv.post<{ jobId: string; shootId: string }>('/moves', asked);
      expect((await arkiv.rest(jobId)).job.state).toBe('done');
      return made;
    };
    await split('Curtain call', all.id.at(-1)!);
    const back = await split('By mistake', all.id.at(-2)!);
    await run('/moves', { kind: 'merge', rename: false, shootId: back, into: shootId });
    const { id, name } = await arkiv.frames(shootId);
    // What is said of frames.
    await arkiv.mark('verdict', 'undecided', 'keep', ...id.slice(0, 4));
    await arkiv.mark('note', null, '[41.2 % 30 %] dust on the lens', id[1]!);
    await arkiv.mark('caption', null, 'The lamp goes “out” — at last', id[0]!);
    await arkiv.mark('keyword heron', false, true, id[0]!, id[1]!);
    await arkiv.mark('finish exposure', null, 0.35, id[2]!);
    expect((await arkiv.ask('PATCH', `/shoots/${shootId}`, { client: 'The Lamp & Sons' })).status).toBe(204);
    const pile = await arkiv.post<{ id: string }>('/piles', { name: 'Wall' });
    await arkiv.mark(`pile ${pile.id}`, false, true, id[2]!);
    const album = await arkiv.post<{ id: string }>('/albums', { name: 'Best of the year' });
    await arkiv.mark(`album ${album.id}`, null, 'a1', id[1]!);
    const pass = ulid();
    await arkiv.post('/passes', { id: pass, name: 'undecided', over: { frames: id } });
    await put(`/passes/${pass}`, {
      ...{
        shootId,
        seen: '0-1',
        seenCount: 2,
        kept: 1,
        rejected: 0,
        activeMillis: 4000,
        ended: false,
        at: id[2],
      },
    });
    await arkiv.post('/vocabulary/terms', { text: 'bird\n\theron\n\tgull', format: 'indented', bring: true });
    const { columns } = await arkiv.get<{ columns: Record<'id' | 'word', string[]> }>('/vocabulary');
    const termOf = (word: string) => columns.id[columns.word.indexOf(word)];
    await arkiv.post('/vocabulary/changes', { do: 'rename', id: termOf('gull'), word: 'black-headed gull' });
    await put(`/vocabulary/rosters/${shootId}`, { terms: [termOf('bird')] });
    // To editing and back.
    await run(`/shoots/${shootId}/handoffs`, { volumeId: await arkiv.volumeId('edit') });
    await put(`/shoots/${shootId}/returns/folders`, { folders: [{ volumeId: working, path: 'from-ana' }] });
    const originals = path.join(volumeOf(data, 'working'), HOME, 'originals');
    const edits = path.join(volumeOf(data, 'working'), HOME, 'edits');
    mkdirSync(edits, { recursive: true });
    for (const [i, file] of [`${name[0]}.jpg`, 'both-of-them.jpg'].entries())
      writeFileSync(
        path.join(edits, file),
        await sharp(
          path.join(
            originals,
            filesBelow(originals).find((one) => one.startsWith(name[i]!) && one.endsWith('.jpg'))!,
          ),
        )
          .modulate({ brightness: 1.1 })
          .jpeg()
          .toBuffer(),
      );
    type Came = { assetId: string; name: string; state: string };
    const came = () => arkiv.get<Came[]>(`/shoots/${shootId}/returns`);
    await until(async () => (await came()).length === 2);
    const both = (await came()).find((one) => one.name.startsWith('both'))!;
    await put(`/returns/${both.assetId}/originals`, { frameIds: [id[1], id[2]] });
    // Out to the client.
    const spec = { ...DEFAULT_OUTPUT_SPEC, name: 'Web', size: { by: 'long', pixels: 160 } };
    const set = await run(`/shoots/${shootId}/deliveries`, { name: 'Set', volumeId: working, specs: [spec] });
    const outbox = path.join(data, 'outbox');
    mkdirSync(outbox);
    const reach = { path: outbox, url: '', host: '', port: 22, user: '', carried: false };
    const { id: there } = await arkiv.post<{ id: string }>('/destinations', {
      name: 'Folder',
      kind: 'folder',
      reach,
    });
    await run(`/deliveries/${set}/send`, { destinationId: there, part: 'both', frameIds: null });
    await arkiv.post('/ledger/postings', { shootId, where: 'Journal', day: '2026-10-20' });
    const gallery = await madeGallery(arkiv, shootId, { ownPile: true });
    const guest = await guestOf(gallery, 'Ana');
    const [first] = (await guest.page()).pictures;
    await guest.say({ kind: 'favourite', key: first!.key, on: true });
    await guest.say({ kind: 'remark', key: first!.key, text: 'Lighter, please', x: 0.25, y: 0.1 });
    const { servers } = await arkiv.get<{ servers: { id: string; port: number }[] }>('/stand-ins');
    const { port } = servers.find((one) => one.id === 'smtp')!;
    const account = {
      host: '127.0.0.1',
      port,
      security: 'none',
      user: 'studio',
      from: 'studio@ockham.example',
    };
    await put('/mail-account', { ...account, password: 'stand-in' });
    const [link] = gallery.links;
    await arkiv.post(`/galleries/${gallery.id}/messages`, {
      kind: 'invite',
      messages: [
        {
          linkId: link!.id,
          to: 'ana@client.example',
          subject: 'Here',
          text: `${link!.address} ${link!.code}`,
        },
      ],
    });
    const messages = () => arkiv.get<{ state: string }[]>(`/shoots/${shootId}/messages`);
    await until(async () => (await messages())[0]?.state === 'sent');
    // What lay on a drive before, with a mark of its own, and one frame of it that was put out of the archive.
    const tree = path.join(volumeOf(data, 'working'), 'Old pictures/2019-06-01 Quay');
    mkdirSync(tree, { recursive: true });
    const old = filesBelow(originals).filter((file) => file.endsWith('.jpg'));
    for (const [i, file] of old.slice(0, 3).entries()) {
      writeFileSync(path.join(tree, `${i}.jpg`), readFileSync(path.join(originals, file)));
      utimesSync(path.join(tree, `${i}.jpg`), 1e9, 1e9);
    }
    const adopted = await arkiv.post<{ firstShoot: string }>('/adopted', {
      ...{ path: path.dirname(tree), rule: 'top', sidecars: false },
    });
    type Adopted = { busy: boolean; unread: number; frames: number };
    const known = async () => (await arkiv.get<Adopted[]>('/adopted'))[0]!;
    await until(async () => (await known()).frames === 3 && (await known()).unread === 0);
    const quay = await arkiv.frames(adopted.firstShoot);
    await arkiv.mark('stars', 0, 2, quay.id[1]!);
    await run('/bin', { shootId: adopted.firstShoot, frameIds: [quay.id[0]], deed: 'forget' });
    // Out of the archive, and damaged.
    await run('/bin', { shootId, frameIds: [id.at(-1)], deed: 'bin' });
    await run('/bin', { shootId, frameIds: [id.at(-2)], deed: 'forget' });
    const copies = path.join(volumeOf(data, 'backup'), HOME, 'originals');
    unlinkSync(
      path.join(
        copies,
        filesBelow(copies).find((one) => one.startsWith(name[3]!) && one.endsWith('.jpg'))!,
      ),
    );
    const { jobId } = await arkiv.post<{ jobId: string }>('/copies/verifications', { shootId });
    expect((await arkiv.rest(jobId)).job.filesFailed).toBe(1);
  }

  it('says of each table whether it is recorded, or why not', () => {
    const recorded = Object.values(RECORDED).flatMap(({ tables }) =>
      tables.map(({ entity }) => arkiv.app.get(Reading).source.getMetadata(entity).tableName),
    );
    expect(new Set([...recorded, ...Object.keys(NOT_RECORDED)])).toEqual(new Set(Object.keys(before)));
    expect(recorded.filter((table) => table in NOT_RECORDED)).toEqual([]);
    // A season without something would prove nothing of it.
    expect(recorded.filter((table) => before[table]!.length === 0)).toEqual([]);
    expect(before.operation!.length).toBeGreaterThan(10);
  });

  it('is made anew from its drives alone, each row of each table as it was', async () => {
    const { there, drives } = await anew();
    const onDrives = filesBelow(path.join(drives, 'stand-ins/volumes'));
    const { job, failures } = await rebuilt(there);
    expect(failures).toEqual([]);
    expect(job).toMatchObject({ state: 'done', filesFailed: 0 });
    // Sidecars that were not known to say what was decided last are looked at by themselves.
    await flush(there);
    const after = await tablesOf(there);
    // What it was called before it became this one it alone can know.
    after.setting = after.setting!.filter(({ key }) => key !== 'archiveFormerIds');
    for (const table of Object.keys(before).filter((one) => !(one in NOT_RECORDED)))
      expect([table, after[table]]).toEqual([table, before[table]]);
    for (const table of ['operation', 'shoot_volume'])
      expect([table, after[table]]).toEqual([table, before[table]]);
    // Nothing on the drives was set aside, taken away or doubled.
    expect(filesBelow(path.join(drives, 'stand-ins/volumes'))).toEqual(onDrives);
    // They are of this archive again, and of no other.
    for (const drive of ['working', 'backup'] as const) {
      const { archives } = JSON.parse(
        readFileSync(path.join(volumeOf(drives, drive), '.arkiv-volume.json'), 'utf8'),
      ) as { archives: { name: string }[] };
      expect(archives).toEqual([expect.objectContaining({ name: 'Ockham & Daughters' })]);
    }
    expect(await there.get('/rebuild')).toEqual([]);
    // What was put out of the archive does not come back, and nothing of an adopted folder is taken for new.
    const [{ id }] = (await query(there, 'SELECT id FROM adopted')) as [{ id: string }];
    await until(() => there.app.get(AdoptedService).look(id));
    expect((await there.get<{ frames: number }[]>('/adopted'))[0]!.frames).toBe(2);
    expect(await query(there, `SELECT id FROM job WHERE kind = 'adopt'`)).toEqual([]);
    await there.stop();
  });

  describe('where the drives do not tell all', () => {
    let there: TestArkiv;
    let drives: string;
    beforeEach(async () => {
      ({ there, drives } = await anew());
    });
    afterEach(() => there.stop());

    const on = (drive: 'working' | 'backup', file: string) => path.join(volumeOf(drives, drive), HOME, file);
    const plug = (drive: string, state: 'well' | 'unplugged') =>
      there.ask('PUT', `/stand-ins/drives/${drive}`, { state });
    const rowsOf = (table: string) => query(there, `SELECT * FROM "${table}"`);
    const framesRecord = (drive: 'working' | 'backup') =>
      on(
        drive,
        `.arkiv/record/${readdirSync(on(drive, '.arkiv/record')).find((name) => name.startsWith('frames-'))!}`,
      );

    it('knows the drives that are away, and what lies on them', async () => {
      await plug('working', 'unplugged');
      expect((await rebuilt(there)).failures).toEqual([]);
      const { id } = (await rowsOf('volume')).find(({ name }) => name === 'Working drive')!;
      // Of what lies on that drive alone no other tells.
      const [{ shootId: alone }] = before.adopted_shoot as [{ shootId: string }];
      const elsewhere = before.frame!.filter((frame) => frame.shootId !== alone);
      const known = new Set(before.asset!.filter((file) => file.shootId !== alone).map((file) => file.id));
      const copies = (from: Row[]) =>
        from.filter(({ volumeId, assetId }) => volumeId === id && known.has(assetId));
      expect(copies(await rowsOf('copy'))).toHaveLength(copies(before.copy!).length);
      expect(await rowsOf('frame')).toHaveLength(elsewhere.length);
      expect(await there.get<Row[]>('/volumes')).toContainEqual(
        expect.objectContaining({ id, online: false }),
      );
      await plug('working', 'well');
      const online = async () =>
        (await there.get<{ id: unknown; online: boolean }[]>('/volumes')).find((one) => one.id === id)!
          .online;
      await until(online);
    });

    it('takes what is damaged on one drive from another, and leaves what is damaged on all as it lies', async () => {
      const cut = (file: string) => writeFileSync(file, readFileSync(file).subarray(0, -40));
      cut(framesRecord('working'));
      cut(on('working', '.arkiv/record/handed.jsonl'));
      cut(on('backup', '.arkiv/record/handed.jsonl'));
      const { job, failures } = await rebuilt(there);
      expect(job).toMatchObject({ state: 'done', filesFailed: 1 });
      expect(failures).toHaveLength(1);
      expect(failures[0]!.reason).toContain('cannot be read');
      expect(failures[0]!.reason).toContain('handed.jsonl');
      expect(await rowsOf('frame')).toHaveLength(before.frame!.length);
      expect(await rowsOf('handed')).toEqual([]);
      const left = readFileSync(on('backup', '.arkiv/record/handed.jsonl'));
      await flush(there);
      expect(readFileSync(on('backup', '.arkiv/record/handed.jsonl')).equals(left)).toBe(true);
    });

    it('believes the newest, and brings back nothing that was taken out since', async () => {
      // As a drive has it that was away since the frame was still there.
      const file = framesRecord('backup');
      const lines = readFileSync(file, 'utf8').trimEnd().split('\n');
      expect(recordHead(lines[0]!, file).at).toBeGreaterThan(1);
      const older = { ...(JSON.parse(lines[0]!) as Row), at: 1 };
      const frame = JSON.parse(lines.find((line) => line.startsWith('{"is":"frame",'))!) as Row;
      const another = { ...frame, id: ulid(), key: Number(frame.key) + 500, name: 'taken-out' };
      const rows = [...lines.slice(1, -1), JSON.stringify(another)];
      writeFileSync(
        file,
        [JSON.stringify(older), ...rows, JSON.stringify({ rows: rows.length })].join('\n') + '\n',
      );
      expect((await rebuilt(there)).failures).toEqual([]);
      expect((await rowsOf('frame')).map(({ name }) => name)).not.toContain('taken-out');
      // The drive that had the older one gets the newer.
      await flush(there);
      expect(readFileSync(file, 'utf8')).not.toContain('taken-out');
    });

    it('names files that are not where they were, and counts them as no copies', async () => {
      const lost = filesBelow(on('working', 'originals')).find((one) => one.endsWith('.dng'))!;
      unlinkSync(on('working', `originals/${lost}`));
      const { failures } = await rebuilt(there);
      expect(failures.map(({ reason }) => reason).join()).toContain(
        `${lost} on “Working drive” is not there any more`,
      );
      expect(await rowsOf('damage')).toHaveLength(before.damage!.length + 1);
    });

    it('goes on after a restart, and writes no record of what is not whole yet', async () => {
      const [archive] = await there.get<{ id: string }[]>('/rebuild');
      const { jobId } = await there.post<{ jobId: string }>('/rebuild', { archiveId: archive!.id });
      /** Each part, and how many rows it tells of. */
      const records = () =>
        ['working', 'backup'].flatMap((drive) =>
          filesBelow(on(drive as 'working', '.arkiv/record')).map((file) =>
            [
              file,
              readFileSync(on(drive as 'working', `.arkiv/record/${file}`), 'utf8')
                .trimEnd()
                .split('\n')
                .at(-1),
            ].join(' '),
          ),
        );
      const whole = records();
      await there.app.close();
      there = await startArkiv(drives);
      await there.app.get(DueTexts).flush();
      const { job, failures } = await there.rest(jobId);
      expect([job.state, failures]).toEqual(['done', []]);
      await flush(there);
      expect(records()).toEqual(whole);
      const after = await tablesOf(there);
      for (const table of ['frame', 'copy', 'operation', 'delivery_file', 'gallery_said'])
        expect([table, after[table]]).toEqual([table, before[table]]);
    });

    it('that was stopped half-way writes nothing over what the drives tell', async () => {
      const [archive] = await there.get<{ id: string }[]>('/rebuild');
      const { jobId } = await there.post<{ jobId: string }>('/rebuild', { archiveId: archive!.id });
      const told = () =>
        filesBelow(on('working', '.arkiv')).map((file) =>
          readFileSync(on('working', `.arkiv/${file}`), 'utf8'),
        );
      const before = told();
      await there.post(`/jobs/${jobId}/cancel`).catch(() => undefined);
      const { job } = await there.rest(jobId);
      await there.app.get(DueTexts).flush();
      expect(['cancelled', 'done']).toContain(job.state);
      // Where it was quicker than the hand, the sidecars’ newest marks are all that was added.
      if (job.state === 'cancelled') expect(told()).toEqual(before);
    });

    it('leaves out lines of a history that cannot be read, says so, and keeps the others', async () => {
      for (const drive of ['working', 'backup'] as const)
        appendFileSync(on(drive, '.arkiv/history.jsonl'), 'no line of ours\n{"id":1}\n');
      const { failures } = await rebuilt(there);
      expect(failures.map(({ reason }) => reason)).toEqual([
        expect.stringMatching(
          /^2 lines of .*history.jsonl on “.* drive” cannot be read: they are left out\.$/,
        ),
      ]);
      expect(await rowsOf('operation')).toHaveLength(before.operation!.length);
    });

    it('is not begun where an archive holds something already, or where no drive tells of it', async () => {
      expect((await there.ask<Row>('POST', '/rebuild', { archiveId: ulid() })).body.code).toBe(
        'rebuild.nothing',
      );
      const [archive] =
        await there.get<{ id: string; name: string; shoots: number; drives: string[] }[]>('/rebuild');
      expect(archive).toMatchObject({ name: 'Ockham & Daughters', shoots: 3 });
      expect(archive!.drives.sort()).toEqual(['Backup drive', 'Working drive']);
      await rebuilt(there);
      expect((await there.ask<Row>('POST', '/rebuild', { archiveId: archive!.id })).body.code).toBe(
        'rebuild.busy',
      );
    });
  });
});

describe('What makes a record due', () => {
  let arkiv: TestArkiv;
  let data: string;
  beforeAll(async () => {
    ({ arkiv, data } = await takenIn('OCK_9970'));
  });
  afterAll(async () => {
    await arkiv.stop();
    removeFolder(data);
  });

  const due = async () =>
    (
      (await arkiv.app
        .get(Reading)
        .source.query(`SELECT DISTINCT subject FROM text_due WHERE kind = 'record' ORDER BY 1`)) as {
        subject: string;
      }[]
    ).map(({ subject }) => subject.replace(/:.*/, ''));

  it('is a change of what is recorded, however it is made, and no mark', async () => {
    const work = arkiv.app.get(UnitOfWork);
    const change = async (sql: string) => {
      await arkiv.app.get(DueTexts).flush();
      expect(await due()).toEqual([]);
      await work.write((manager) => manager.query(sql));
      return due();
    };
    expect(await change(`UPDATE asset SET "cardPath" = 'x' WHERE rowid = 1`)).toEqual(['frames']);
    expect(await change(`UPDATE copy SET "verifiedAt" = 1`)).toEqual(['frames', 'loose']);
    expect(await change(`UPDATE frame SET stars = 5, "sidecarDue" = 1`)).toEqual([]);
    expect(await change(`UPDATE asset SET devices = 1`)).toEqual([]);
    expect(await change(`UPDATE arrival_file SET "mtimeMillis" = 1`)).toEqual(['arrival']);
    expect(await change(`UPDATE setting SET value = '"x"' WHERE key = 'studio'`)).toEqual([]);
    expect(await change(`INSERT INTO setting VALUES ('studio', '"x"')`)).toEqual(['archive']);
    await work.write((manager) => manager.query(`UPDATE asset SET devices = 2`));
    // A key in Cull costs the shoot's own small part, and no other.
    await arkiv.app.get(DueTexts).flush();
    const [{ id }] = (await arkiv.app.get(Reading).source.query('SELECT id FROM frame LIMIT 1')) as [Row];
    await arkiv.mark('label', null, 'A', String(id));
    await arkiv.app.get(SidecarsService).flush();
    expect(await due()).toEqual(['shoot']);
  });
});
