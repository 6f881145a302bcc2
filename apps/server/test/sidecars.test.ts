import { execFileSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { readSidecar, TEXT_FIELDS, textsIn, type TextField } from '@arkiv/core';
import { ulid } from 'ulid';
import { Reading, UnitOfWork } from '../src/db/unitOfWork';
import { EventsService } from '../src/events/events.service';
import { SettingsService } from '../src/settings/settings.service';
import { SidecarsService } from '../src/sidecars/sidecars.service';
import { removeFolder, takenIn, volumeOf, type TestArkiv } from './testArkiv';

const FOLDER = '2026/2026-10-16_press-night';

describe('sidecars', () => {
  let arkiv: TestArkiv;
  let data: string;
  let ids: string[];
  let names: string[];

  beforeEach(async () => {
    const taken = await takenIn('OCK_9972');
    ({ arkiv, data } = taken);
    const { shootId } = taken;
    ({ id: ids, name: names } = await arkiv.frames(shootId));
    await flush();
  });
  afterEach(async () => {
    await arkiv.stop();
    removeFolder(data);
  });

  const flush = () => arkiv.app.get(SidecarsService).flush();
  const file = (volume: 'working' | 'backup', i: number) =>
    path.join(volumeOf(data, volume), FOLDER, 'originals', `${names[i]}.xmp`);
  const stars = (volume: 'working' | 'backup', i: number) => {
    const read = readSidecar(readFileSync(file(volume, i), 'utf8'));
    return read.ok ? read.model.stars : null;
  };
  const mark = (i: number, to: number, at = Date.now()) =>
    arkiv.ask('POST', '/marks', {
      operations: [
        { id: ulid(), subject: ids[i], kind: 'stars', from: 0, to, at, group: ulid(), window: 'w' },
      ],
    });
  const query = <T>(sql: string): Promise<T[]> => arkiv.app.get(Reading).source.query(sql);

  it('are written though something happens all the time', async () => {
    await mark(0, 4);
    for (let i = 0; i < 600 && stars('working', 0) !== 4; i++) {
      arkiv.app.get(EventsService).publish('frames', {});
      await new Promise((resolve) => setTimeout(resolve, 50));
    }
    expect(stars('working', 0)).toBe(4);
  });

  it('wait for marks that come one after the other, but not where somebody waits for them', async () => {
    const at = performance.now();
    const clock = jest.spyOn(performance, 'now').mockReturnValue(at);
    await mark(0, 4);
    // Longer than they wait for quiet: by this clock the mark was made just now.
    await new Promise((resolve) => setTimeout(resolve, 1000));
    expect(stars('working', 0)).not.toBe(4);
    await flush();
    expect(stars('working', 0)).toBe(4);
    await mark(1, 3);
    await new Promise((resolve) => setTimeout(resolve, 1000));
    expect(stars('working', 1)).not.toBe(3);
    clock.mockReturnValue(at + 1000);
    for (let i = 0; i < 2400 && stars('working', 1) !== 3; i++)
      await new Promise((resolve) => setTimeout(resolve, 25));
    expect(stars('working', 1)).toBe(3);
    clock.mockRestore();
  });

  it('of other frames are written when one frame’s cannot be', async () => {
    await arkiv.app
      .get(UnitOfWork)
      .write((m) => m.query('UPDATE frame SET "markedAt" = 9e15, "sidecarDue" = 1 WHERE id = ?', [ids[0]]));
    await mark(1, 5);
    await flush();
    expect(stars('working', 1)).toBe(5);
  });

  it('say of a keeper what the studio wants other programs to see, anew when that changes; what these change since is taken', async () => {
    const keep = (i: number) => ({
      ...{ id: ulid(), subject: ids[i], kind: 'verdict', from: 'undecided', to: 'keep', at: Date.now() },
      ...{ group: ulid(), window: 'w' },
    });
    await arkiv.post('/marks', { operations: [keep(0), keep(1)] });
    await mark(1, 2);
    await flush();
    // The reference metadata tool reads what any program would.
    const read = (i: number) => {
      const args = ['-j', '-XMP:Rating', '-XMP:Label', file('backup', i)];
      const [said] = JSON.parse(execFileSync('exiftool', args, { encoding: 'utf8' })) as Record<
        string,
        unknown
      >[];
      return [said!.Rating ?? null, said!.Label ?? null];
    };
    expect([read(0), read(1)]).toEqual([
      [null, null],
      [2, null],
    ]);
    const labelAlso = { A: [], B: ['Red', 'Rot'], M: [], S: [], P: [] };
    const set = await arkiv.ask('PATCH', '/settings', { keeperStars: 4, keeperLabel: 'M', labelAlso });
    expect(set.status).toBe(200);
    await flush();
    expect([read(0), read(1), read(2)]).toEqual([
      [4, 'Moss'],
      [2, 'Moss'],
      [null, null],
    ]);
    const marks = async (i: number) => {
      const { frames } = await arkiv.post<{ frames: object[] }>('/marks/now', { frameIds: [ids[i]] });
      return frames[0];
    };
    expect(await marks(0)).toMatchObject({ verdict: 'keep', stars: 0, label: null });
    // An editor gives five stars and a label of its own language: marks of the frame, and still a keeper.
    const edit = ['-overwrite_original', '-XMP:Rating=5', '-XMP:Label=rot', file('working', 0)];
    execFileSync('exiftool', edit);
    await mark(2, 1);
    await arkiv.app
      .get(UnitOfWork)
      .write((m) => m.query('UPDATE frame SET "sidecarDue" = 1 WHERE id = ?', [ids[0]]));
    await flush();
    expect(await marks(0)).toMatchObject({ verdict: 'keep', stars: 5, label: 'B' });
    await flush();
    expect(read(0)).toEqual([5, 'Brick']);
    expect((await arkiv.ask('PATCH', '/settings', { keeperStars: 0, keeperLabel: null })).status).toBe(200);
    await flush();
    expect([read(0), read(1)]).toEqual([
      [5, 'Brick'],
      [2, null],
    ]);
    const twice = { ...labelAlso, A: ['rot'] };
    expect((await arkiv.ask('PATCH', '/settings', { labelAlso: twice })).status).toBe(400);
  });

  it('carry the note on a frame, and what another program makes of it is the frame’s', async () => {
    const note = (to: string | null) => ({
      operations: [
        {
          id: ulid(),
          subject: ids[0],
          kind: 'note',
          from: null,
          to,
          at: Date.now(),
          group: ulid(),
          window: 'w',
        },
      ],
    });
    const now = async () =>
      (await arkiv.post<{ frames: { note: string | null }[] }>('/marks/now', { frameIds: [ids[0]] }))
        .frames[0]!.note;
    const said = '[25 % 50.5 %] fade the “exit” sign & no more';
    await arkiv.post('/marks', note(said));
    await flush();
    for (const volume of ['working', 'backup'] as const) {
      const read = readSidecar(readFileSync(file(volume, 0), 'utf8'));
      expect(read.ok && read.model.note).toBe(said);
    }
    for (const wrong of ['', ' blank', 'two\nlines', 'x'.repeat(501), 3])
      expect((await arkiv.ask('POST', '/marks', note(wrong as string))).status).toBe(400);
    expect(await now()).toBe(said);
    const text = readFileSync(file('working', 0), 'utf8').replace('no more', 'a little more');
    writeFileSync(file('working', 0), text);
    await arkiv.app
      .get(UnitOfWork)
      .write((m) => m.query('UPDATE frame SET "sidecarDue" = 1 WHERE id = ?', [ids[0]]));
    await flush();
    expect(await now()).toBe('[25 % 50.5 %] fade the “exit” sign & a little more');
    await arkiv.post('/marks', note(null));
    await flush();
    expect(readFileSync(file('backup', 0), 'utf8')).not.toMatch(/note|exit/);
  });

  it('carry caption and keywords, as any program reads them, and take off what was taken off here or there', async () => {
    const said = (kind: string, to: unknown, from: unknown = null) => ({
      ...{ id: ulid(), subject: ids[0], kind, from, to, at: Date.now(), group: ulid(), window: 'w' },
    });
    const given = ['grey heron', 'Pier 4', 'fish'].map((word) => said(`keyword ${word}`, true, false));
    await arkiv.post('/marks', {
      operations: [...given, said('caption', 'Ebb at the pier,\n“gone” <fishing>')],
    });
    await flush();
    const read = (volume: 'working' | 'backup') => {
      const args = ['-j', '-XMP-dc:Subject', '-XMP-dc:Description', file(volume, 0)];
      const [its] = JSON.parse(execFileSync('exiftool', args, { encoding: 'utf8' })) as Record<
        string,
        unknown
      >[];
      return [its!.Subject ?? null, its!.Description ?? null];
    };
    for (const drive of ['working', 'backup'] as const)
      expect(read(drive)).toEqual([['grey heron', 'Pier 4', 'fish'], 'Ebb at the pier,\n“gone” <fishing>']);
    // Another program takes one off, gives another, and says something else.
    execFileSync('exiftool', [
      ...['-q', '-overwrite_original', '-XMP-dc:Subject-=fish', '-XMP-dc:Subject+=ebb'],
      ...['-XMP-dc:Description=Low water', file('working', 0)],
    ]);
    await arkiv.app
      .get(UnitOfWork)
      .write((m) => m.query('UPDATE frame SET "sidecarDue" = 1 WHERE id = ?', [ids[0]]));
    await flush();
    const now = async () => {
      const { frames } = await arkiv.post<{ frames: object[] }>('/marks/now', { frameIds: [ids[0]] });
      return frames[0];
    };
    expect(await now()).toMatchObject({ keywords: 'grey heron\nPier 4\nebb', caption: 'Low water' });
    const changes = await query<{ kind: string }>(
      `SELECT kind FROM operation WHERE "by" = 'program' ORDER BY kind`,
    );
    expect(changes.map(({ kind }) => kind)).toEqual(['caption', 'keyword ebb', 'keyword fish']);
    // Taken off here, nothing of it is left on any drive.
    const off = ['grey heron', 'PIER 4', 'ebb'].map((word) => said(`keyword ${word}`, false, true));
    await arkiv.post('/marks', { operations: [...off, said('caption', null, 'Low water')] });
    await flush();
    await flush();
    for (const drive of ['working', 'backup'] as const) expect(read(drive)).toEqual([null, null]);
    expect((await arkiv.ask('POST', '/marks', { operations: [said('keyword  two', true)] })).status).toBe(
      400,
    );
  });

  /** Each text, as the reference metadata tool calls its place (IPTC Photo Metadata Standard 2023.2, XMP). */
  const PLACES = {
    creator: 'XMP-dc:Creator',
    credit: 'XMP-photoshop:Credit',
    rights: 'XMP-dc:Rights',
    usageTerms: 'XMP-xmpRights:UsageTerms',
    email: 'XMP-iptcCore:CreatorWorkEmail',
    phone: 'XMP-iptcCore:CreatorWorkTelephone',
    website: 'XMP-iptcCore:CreatorWorkURL',
    title: 'XMP-dc:Title',
    headline: 'XMP-photoshop:Headline',
    instructions: 'XMP-photoshop:Instructions',
    sublocation: 'XMP-iptcCore:Location',
    city: 'XMP-photoshop:City',
    region: 'XMP-photoshop:State',
    country: 'XMP-photoshop:Country',
    countryCode: 'XMP-iptcCore:CountryCode',
  } as const satisfies Record<TextField, string>;

  it('carry every text and who is shown in the places of the standard, from here and back, and take off what was taken off', async () => {
    const frameId = ids[1]!;
    const said = (kind: string, to: unknown, from: unknown = null) => ({
      ...{ id: ulid(), subject: frameId, kind, from, to, at: Date.now(), group: ulid(), window: 'w' },
    });
    const words = Object.fromEntries(TEXT_FIELDS.map((field) => [field, `${field} & “more” é`]));
    await arkiv.post('/marks', {
      operations: [
        ...TEXT_FIELDS.map((field) => said(`text ${field}`, words[field])),
        ...['Ana Pinto', 'Bo Lind'].map((person) => said(`person ${person}`, true, false)),
      ],
    });
    await flush();
    const read = (volume: 'working' | 'backup') => {
      const tags = [...Object.values(PLACES), 'XMP-iptcExt:PersonInImage'];
      const args = ['-j', '-G1', ...tags.map((tag) => `-${tag}`), file(volume, 1)];
      const [its] = JSON.parse(execFileSync('exiftool', args, { encoding: 'utf8' })) as Record<
        string,
        unknown
      >[];
      return its!;
    };
    for (const drive of ['working', 'backup'] as const) {
      const there = read(drive);
      for (const field of TEXT_FIELDS) expect([field, there[PLACES[field]]]).toEqual([field, words[field]]);
      expect(there['XMP-iptcExt:PersonInImage']).toEqual(['Ana Pinto', 'Bo Lind']);
    }
    // Another program says something else in each place, and takes one off.
    execFileSync('exiftool', [
      ...['-q', '-overwrite_original'],
      ...TEXT_FIELDS.filter((field) => field !== 'city').map((field) => `-${PLACES[field]}=other ${field}`),
      ...['-XMP-photoshop:City=', '-XMP-iptcExt:PersonInImage-=Bo Lind', file('working', 1)],
    ]);
    const due = () =>
      arkiv.app
        .get(UnitOfWork)
        .write((m) => m.query('UPDATE frame SET "sidecarDue" = 1 WHERE id = ?', [frameId]));
    await due();
    await flush();
    const now = async () => {
      const { frames } = await arkiv.post<{ frames: { texts: string; persons: string }[] }>('/marks/now', {
        frameIds: [frameId],
      });
      return { ...frames[0]!, texts: textsIn(frames[0]!.texts) };
    };
    const { city: _, ...others } = Object.fromEntries(TEXT_FIELDS.map((field) => [field, `other ${field}`]));
    expect(await now()).toMatchObject({ texts: others, persons: 'Ana Pinto' });
    await flush();
    expect(read('backup')['XMP-photoshop:City']).toBeUndefined();
    // Taken off here, nothing of it is left on any drive, but what the studio says of each frame.
    await arkiv.post('/marks', {
      operations: [
        ...TEXT_FIELDS.map((field) => said(`text ${field}`, null, `other ${field}`)),
        said('person ana pinto', false, true),
      ],
    });
    await flush();
    await flush();
    const { creator, rights } = await arkiv.app.get(SettingsService).all();
    for (const drive of ['working', 'backup'] as const) {
      const { SourceFile: _file, ...rest } = read(drive);
      expect(rest).toEqual({
        ...(creator && { [PLACES.creator]: creator }),
        ...(rights && { [PLACES.rights]: rights }),
      });
    }
    for (const [kind, to] of [
      ['text city', ' blanks '],
      ['text city', true],
      ['text unknown', 'x'],
      ['person  two', true],
    ] as const)
      expect((await arkiv.ask('POST', '/marks', { operations: [said(kind, to)] })).status).toBe(400);
  });

  it('that were written before a field was known are read for it first: what another program said there is kept', async () => {
    const frameId = ids[2]!;
    await mark(2, 4);
    await flush();
    execFileSync('exiftool', ['-q', '-overwrite_original', '-XMP-dc:Title=Low tide', file('working', 2)]);
    // As an earlier Arkiv left it: it wrote the file as it is, and knew of no titles.
    const text = readFileSync(file('working', 2));
    const sha256 = createHash('sha256').update(text).digest('hex');
    await arkiv.app.get(UnitOfWork).write(async (m) => {
      await m.query(
        `UPDATE frame_text SET "sidecarBase" = json_remove("sidecarBase", '$.title') WHERE "frameId" = ?`,
        [frameId],
      );
      await m.query('UPDATE own_text SET sha256 = ? WHERE path LIKE ?', [sha256, `%/${names[2]}.xmp`]);
      await m.query('UPDATE frame SET "sidecarDue" = 1 WHERE id = ?', [frameId]);
    });
    await flush();
    const { frames } = await arkiv.post<{ frames: { texts: string }[] }>('/marks/now', {
      frameIds: [frameId],
    });
    expect(textsIn(frames[0]!.texts)).toEqual({ title: 'Low tide' });
    await flush();
    expect(readFileSync(file('backup', 2), 'utf8')).toContain('Low tide');
  });

  it('never get a time that is none: such a mark is refused', async () => {
    for (const at of [9e15, -1, 0]) expect((await mark(0, 3, at)).status).toBe(400);
    expect((await mark(0, 3)).status).toBe(200);
  });

  it('are owed by a drive that is away, frame by frame, and cost nothing more until it returns', async () => {
    const plug = (state: string) => arkiv.ask('PUT', '/stand-ins/drives/backup', { state });
    await plug('unplugged');
    await mark(2, 3);
    await flush();
    expect(stars('working', 2)).toBe(3);
    expect(await query('SELECT id FROM frame WHERE "sidecarDue" > 0')).toEqual([]);
    expect(await query("SELECT subject FROM text_due WHERE kind = 'sidecar'")).toEqual([{ subject: ids[2] }]);
    await plug('well');
    await flush();
    expect(stars('backup', 2)).toBe(3);
    expect(await query("SELECT * FROM text_due WHERE kind = 'sidecar'")).toEqual([]);
  });

  it('that are not UTF-8 are left as they are, and named', async () => {
    const latin = Buffer.from('<?xml version="1.0" encoding="ISO-8859-1"?><x>M\xfchle</x>', 'latin1');
    writeFileSync(file('working', 3), latin);
    const heard: string[] = [];
    const listening = arkiv.app
      .get(EventsService)
      .stream.subscribe(({ type, data: said }) => type === 'sidecar' && heard.push(JSON.stringify(said)));
    await mark(3, 2);
    await flush();
    listening.unsubscribe();
    expect(readFileSync(file('working', 3))).toEqual(latin);
    expect(heard.join()).toMatch(/not UTF-8/);
    expect(stars('backup', 3)).toBe(2);
  });

  it('are never written for another archive’s marks', async () => {
    const operation = {
      id: ulid(),
      subject: ids[0],
      kind: 'stars',
      from: 0,
      to: 1,
      at: Date.now(),
      group: 'g',
      window: 'w',
    };
    expect(await arkiv.ask('POST', '/marks', { operations: [operation], archive: ulid() })).toMatchObject({
      status: 409,
      body: { code: 'archive.other' },
    });
    const { archive } = await arkiv.get<{ archive: { id: string } }>('/settings');
    expect((await arkiv.ask('POST', '/marks', { operations: [operation], archive: archive.id })).status).toBe(
      200,
    );
  });
});
