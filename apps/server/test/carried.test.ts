import { appendFileSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { previewAddress } from '@arkiv/core';
import { BinAway } from '../src/bin/binAway.service';
import { DueTexts } from '../src/frames/dueTexts.service';
import { SidecarWatch } from '../src/sidecars/sidecarWatch.service';
import { SidecarsService } from '../src/sidecars/sidecars.service';
import {
  dataWithCard,
  filesBelow,
  outsideManifest,
  removeFolder,
  startArkiv,
  takenIn,
  temporaryFolder,
  until,
  volumeOf,
  type TestArkiv,
} from './testArkiv';

interface Carried {
  volumeId: string;
  archive: string;
  shoots: { id: string; title: string; frames: number; known: boolean }[];
}
interface Result {
  shoots: number;
  frames: number;
  decisions: number;
  both: { name: string; kind: string; here: unknown; there: unknown; stands: string }[];
  named: { id: string; here: string; name: string; place: string }[];
  out: { id: string; name: string }[];
}
interface Operation {
  id: string;
  kind: string;
  subject: string;
  to: unknown;
}

/** A studio’s archive and a travelling one’s, and a disk that goes from one to the other. */
describe('a shoot that travels', () => {
  let place: string;
  let home: TestArkiv;
  let away: TestArkiv;
  let data: string;
  let shootId: string;
  let disk: string;
  let diskId: string;
  beforeEach(async () => {
    ({ arkiv: home, data, shootId } = await takenIn('OCK_9972'));
    place = temporaryFolder();
    disk = path.join(place, 'travel');
    mkdirSync(disk);
    await home.ask('PATCH', '/settings', { archiveName: 'Studio' });
    away = await startArkiv(dataWithCard({ until: 'OCK_9969' }));
    await away.ask('PATCH', '/settings', { archiveName: 'Laptop' });
  });
  afterEach(async () => {
    await home.stop();
    await away.stop();
    for (const folder of [data, away.data, place]) removeFolder(folder);
  });

  const settle = async (arkiv: TestArkiv) => {
    await arkiv.app.get(SidecarsService).flush();
    await arkiv.app.get(DueTexts).flush();
  };
  /** The shoot is copied onto the disk, with proof, and all that is said of it. */
  const takeAlong = async () => {
    ({ id: diskId } = await home.post<{ id: string }>('/volumes', {
      ...{ root: disk, name: 'Travel', role: 'backup' },
    }));
    const { jobId } = await home.post<{ jobId: string }>('/copies/missing', { shootId, to: diskId });
    expect((await home.rest(jobId)).job).toMatchObject({ state: 'done', filesFailed: 0 });
    await settle(home);
  };
  const plugInto = (arkiv: TestArkiv) =>
    arkiv.post('/volumes', { root: disk, name: 'Travel', role: 'working', takeOver: true });
  const takeInAll = async (arkiv: TestArkiv, id = diskId) => {
    const { jobId } = await arkiv.post<{ jobId: string }>(`/carried/${id}`);
    expect(await arkiv.rest(jobId)).toMatchObject({ job: { state: 'done' }, failures: [] });
    return arkiv.get<Result>(`/carried/results/${jobId}`);
  };
  const history = async (arkiv: TestArkiv, id = shootId) =>
    (await arkiv.get<{ operations: Operation[] }>(`/shoots/${id}/history`)).operations;
  const valueOf = async (arkiv: TestArkiv, frame: string, kind: string) => {
    const columns = await arkiv.columns(shootId);
    return columns[kind]![columns.id!.indexOf(frame)];
  };
  /** A window opens the shoot: sidecars that others changed are merged then. */
  const lookAt = async (arkiv: TestArkiv) => {
    await arkiv.app.get(SidecarWatch).look(shootId);
    await arkiv.app.get(SidecarsService).flush();
  };
  const sidecarOn = (name: string) =>
    readFileSync(
      path.join(
        disk,
        filesBelow(disk).find((file) => file.endsWith(`/${name}.xmp`))!,
      ),
      'utf8',
    );
  const found = () => filesBelow(disk).filter((file) => file.includes('_found-'));

  it('opens in another archive with everything, and nothing on the disk is lost or doubled by that', async () => {
    const { id } = await home.frames(shootId);
    const { id: album } = await home.post<{ id: string }>('/albums', { name: 'Portfolio' });
    await home.mark('stars', 0, 4, id[0]!, id[1]!);
    await home.mark('note', null, 'brighter', id[1]!);
    await home.mark('keyword lantern', false, true, id[0]!);
    await home.mark(`album ${album}`, null, 'a0', id[0]!);
    await takeAlong();
    // Decided when the records lay there already: the history alone says it.
    await home.mark('verdict', 'undecided', 'keep', id[0]!);
    await settle(home);
    const pictures = () => [...outsideManifest(disk)].filter(([file]) => /\.(jpg|dng)$/i.test(file));
    const before = pictures();
    await plugInto(away);
    expect(await away.get('/carried')).toEqual([
      expect.objectContaining({
        volumeId: diskId,
        archive: 'Studio',
        shoots: [expect.objectContaining({ id: shootId, title: 'Press night', known: false })],
      }),
    ]);
    const result = await takeInAll(away);
    expect(result).toMatchObject({ shoots: 1, frames: id.length, both: [] });
    const [there, here] = [await away.columns(shootId), await home.columns(shootId)];
    for (const column of ['id', 'name', 'verdict', 'stars', 'note', 'keywords', 'albums', 'picture'])
      expect([column, there[column]]).toEqual([column, here[column]]);
    expect((await history(away)).map((one) => one.id)).toEqual((await history(home)).map((one) => one.id));
    expect(await away.get('/albums')).toContainEqual(
      expect.objectContaining({ id: album, name: 'Portfolio' }),
    );
    expect(await away.get<{ card: string }>('/arrivals/latest')).toMatchObject({
      card: (await home.get<{ card: string }>('/arrivals/latest')).card,
    });
    // Its copies at home are known, on drives that are not here.
    expect(await away.get('/volumes')).toContainEqual(
      expect.objectContaining({ name: 'Working drive', online: false, files: expect.any(Number) }),
    );
    expect(await away.get('/carried')).toEqual([]);
    await settle(away);
    expect(pictures()).toEqual(before);
    expect(found()).toEqual([]);
  });

  it('goes along as its keepers, with previews of all the others, and is culled on the way without their files', async () => {
    const { id, picture } = await home.frames(shootId);
    await home.mark('verdict', 'undecided', 'keep', id[0]!);
    ({ id: diskId } = await home.post<{ id: string }>('/volumes', {
      ...{ root: disk, name: 'Travel', role: 'backup' },
    }));
    const asked = { shootId, to: diskId, keepers: true, previews: true };
    const query = Object.entries(asked).map(([key, value]) => `${key}=${value}`);
    expect(await home.get(`/copies/missing?${query.join('&')}`)).toMatchObject({ previews: id.length - 1 });
    const { jobId } = await home.post<{ jobId: string }>('/copies/missing', asked);
    expect((await home.rest(jobId)).job).toMatchObject({ state: 'done', filesFailed: 0 });
    await settle(home);
    const names = (await home.frames(shootId)).name;
    const files = filesBelow(disk).filter(
      (file) => /\.(jpg|dng)$/.test(file) && !file.includes('/previews/'),
    );
    expect(new Set(files.map((file) => path.parse(file).name))).toEqual(new Set([names[0]]));
    // Somebody has put something else in the place of one.
    const small = filesBelow(disk).filter((file) =>
      /\/previews\/v\d+\/.*\.(screen\.jpg|thumb\.webp)$/.test(file),
    );
    expect(small).toHaveLength(2 * (id.length - 1));
    const spoilt = small.filter((file) => file.includes(picture[1]!));
    for (const file of spoilt) writeFileSync(path.join(disk, file), 'no picture at all');
    await plugInto(away);
    expect(await takeInAll(away)).toMatchObject({ frames: id.length, both: [] });
    const shown = async (arkiv: TestArkiv, n: number) => {
      const answer = await fetch(`${arkiv.base}${previewAddress(picture[n]!, 'screen')}`);
      return answer.ok ? Buffer.from(await answer.arrayBuffer()) : answer.status;
    };
    expect((await shown(away, 2)).valueOf()).toEqual(await shown(home, 2));
    expect(await shown(away, 0)).toBeInstanceOf(Buffer);
    expect(await shown(away, 1)).toBe(409);
    await away.mark('verdict', 'undecided', 'reject', id[2]!);
    await settle(away);
    await home.post(`/volumes`, { root: disk, name: 'Travel', role: 'backup', takeOver: true });
    await takeInAll(home);
    expect(await valueOf(home, id[2]!, 'verdict')).toBe('reject');
    // It is asked for once more: nothing is left to do.
    expect(await home.ask('POST', '/copies/missing', asked)).toMatchObject({ status: 409 });
  });

  it('brings what its keywords mean, and leaves what is known there where it stands', async () => {
    const { id } = await home.frames(shootId);
    const bring = (arkiv: TestArkiv, text: string) =>
      arkiv.post('/vocabulary/terms', { text, format: 'indented', bring: true });
    await bring(
      home,
      'birds\n\therons\n\t\tgrey heron\n\t\t\t{Ardea cinerea}\n\tterns\n[studio]\n\tlantern\n',
    );
    for (const word of ['grey heron', 'herons', 'lantern'])
      await home.mark(`keyword ${word}`, false, true, id[0]!);
    await takeAlong();
    await bring(away, 'lights\n\tlantern\n');
    await plugInto(away);
    await takeInAll(away);
    const text = await fetch(`${away.base}/api/vocabulary/text?format=indented`);
    expect(await text.text()).toBe(
      'birds\n\therons\n\t\tgrey heron\n\t\t\t{Ardea cinerea}\nlights\n\tlantern\n',
    );
    expect(await away.get('/vocabulary/last')).toMatchObject({
      last: { words: '3 terms came along from “Studio”' },
    });
  });

  it('comes home with what was decided elsewhere; of what both decided the later holds, and both are shown and kept', async () => {
    const { id, name } = await home.frames(shootId);
    await home.mark('stars', 0, 2, id[0]!);
    await takeAlong();
    await plugInto(away);
    await takeInAll(away);
    await away.mark('stars', 2, 5, id[0]!);
    await away.mark('label', null, 'M', id[1]!);
    await away.mark('note', null, 'crop', id[2]!);
    await away.mark('verdict', 'undecided', 'reject', id[3]!);
    const { id: album } = await away.post<{ id: string }>('/albums', { name: 'On the road' });
    await away.mark(`album ${album}`, null, 'a0', id[1]!);
    await settle(away);
    // At home somebody goes on meanwhile.
    await home.mark('stars', 0, 1, id[4]!);
    await home.mark('note', null, 'darker', id[2]!);
    const theirs = await history(away);
    expect((await home.ask('POST', `/volumes/${diskId}/back`)).status).toBe(204);
    const [waiting] = await home.get<Carried[]>('/carried');
    expect(waiting).toMatchObject({ archive: 'Laptop', shoots: [{ id: shootId, known: true }] });
    // Nothing of it is written over before it is taken in, nor read as another program's word.
    await lookAt(home);
    await settle(home);
    expect(found()).toEqual([]);
    expect(await valueOf(home, id[2]!, 'note')).toBe('darker');
    expect(await valueOf(home, id[1]!, 'label')).toBeNull();
    const result = await takeInAll(home);
    expect(result).toMatchObject({ shoots: 1, frames: 0 });
    expect(result.both).toEqual([
      expect.objectContaining({
        ...{ name: name[2], kind: 'note', here: 'darker', there: 'crop', stands: 'here' },
      }),
    ]);
    for (const [frame, kind, value] of [
      [0, 'stars', 5],
      [1, 'label', 'M'],
      [2, 'note', 'darker'],
      [3, 'verdict', 'reject'],
      [4, 'stars', 1],
    ] as const)
      expect([kind, await valueOf(home, id[frame]!, kind)]).toEqual([kind, value]);
    // Sidecars that the laptop wrote there say what it had decided: they are no other program's word either.
    await lookAt(home);
    await settle(home);
    expect(await valueOf(home, id[2]!, 'note')).toBe('darker');
    expect(sidecarOn(name[2]!)).toContain('darker');
    expect(sidecarOn(name[1]!)).toContain('Label');
    const all = (await history(home)).map((one) => one.id);
    expect(theirs.filter((one) => !all.includes(one.id))).toEqual([]);
    expect(new Set(all).size).toBe(all.length);
    expect(await home.get('/albums')).toContainEqual(expect.objectContaining({ id: album }));
    await settle(home);
    expect(found()).toEqual([]);
    // It goes out once more: the laptop hears what was decided here.
    await plugInto(away);
    await takeInAll(away);
    expect(await valueOf(away, id[2]!, 'note')).toBe('darker');
    expect(await valueOf(away, id[4]!, 'stars')).toBe(1);
    const [there, here] = [await away.columns(shootId), await home.columns(shootId)];
    for (const column of ['verdict', 'stars', 'label', 'note', 'albums'])
      expect([column, there[column]]).toEqual([column, here[column]]);
  });

  it('comes home with its title, client and place as they were said last', async () => {
    await takeAlong();
    await plugInto(away);
    await takeInAll(away);
    const say = async (arkiv: TestArkiv, facts: object) => {
      expect((await arkiv.ask('PATCH', `/shoots/${shootId}`, facts)).status).toBe(204);
      await settle(arkiv);
    };
    await say(home, { place: 'The old theatre' });
    await say(away, { title: 'Première', client: 'Harbour Trust', place: 'The theatre' });
    expect((await home.ask('POST', `/volumes/${diskId}/back`)).status).toBe(204);
    const result = await takeInAll(home);
    // What only one side said holds; of what both said the later, and it is shown.
    expect(await home.get(`/shoots/${shootId}`)).toMatchObject({
      ...{ title: 'Première', client: 'Harbour Trust', place: 'The theatre' },
    });
    expect(result.both).toEqual([
      expect.objectContaining({
        ...{ kind: 'shoot place', subject: shootId, here: 'The old theatre', there: 'The theatre' },
        stands: 'there',
      }),
    ]);
    await settle(home);
    const said = filesBelow(disk).filter((file) => file.endsWith('/.arkiv/shoot.json'));
    expect(said.map((file) => readFileSync(path.join(disk, file), 'utf8'))).toEqual([
      expect.stringContaining('Première'),
    ]);
  });

  it('comes home with what was set aside or binned on the way: nothing is missing or doubled by that, and at a press it is done here too', async () => {
    const { id, name } = await home.frames(shootId);
    await takeAlong();
    await plugInto(away);
    await takeInAll(away);
    await away.mark('verdict', 'undecided', 'reject', id[0]!, id[1]!);
    await away.mark('stars', 0, 3, id[0]!);
    await settle(away);
    const run = async (arkiv: TestArkiv, where: string, asked: object) => {
      const { jobId } = await arkiv.post<{ jobId: string }>(where, asked);
      expect((await arkiv.rest(jobId)).job).toMatchObject({ state: 'done', filesFailed: 0 });
      await settle(arkiv);
    };
    await run(away, '/moves', { kind: 'aside', shootId, frameIds: [id[0], id[1]], rename: false });
    await run(away, '/bin', { deed: 'bin', shootId, frameIds: [id[2]] });
    // Its other drives are not there: names are given where all copies can have them.
    const refused = await away.ask<{ code: string }>('POST', '/moves', {
      ...{ kind: 'arrange', shootId, frameIds: [id[3]], rename: false, name: 'first' },
    });
    expect(refused.body).toMatchObject({ code: 'move.away' });
    const pictures = (folder: string) =>
      [...outsideManifest(folder)].filter(([file]) => /\.(jpe?g|dng)$/i.test(file)).map(([, sum]) => sum);
    const before = pictures(disk).sort();
    expect((await home.ask('POST', `/volumes/${diskId}/back`)).status).toBe(204);
    const { jobId } = await home.post<{ jobId: string }>(`/carried/${diskId}`);
    expect(await home.rest(jobId)).toMatchObject({ job: { state: 'done' }, failures: [] });
    const result = () => home.get<Result>(`/carried/results/${jobId}`);
    const first = await result();
    expect(first.named.map((its) => [its.id, its.here])).toEqual([
      [id[0], name[0]],
      [id[1], name[1]],
    ]);
    expect(first.named[0]!.place).toMatch(/rejects$/);
    expect(first.out.map((its) => its.name)).toEqual([name[2]]);
    // What lies aside is found where it lies; the rest of it is as it was here.
    const lies = async (frame: string) =>
      (
        await home.get<{ files: { volumeId: string; path: string }[] }>(`/opening/frames/${frame}`)
      ).files.find((file) => file.volumeId === diskId)?.path;
    expect(await lies(id[0]!)).toContain('/rejects/');
    await settle(home);
    expect(found()).toEqual([]);
    expect(pictures(disk).sort()).toEqual(before);
    // What was binned there is here, with its files, until somebody says so: nothing was done on the drives at home.
    expect((await home.frames(shootId)).id).toContain(id[2]);
    for (const role of ['working', 'backup'] as const) {
      const files = filesBelow(volumeOf(data, role));
      expect(files.some((file) => file.includes(`/originals/${name[2]}.`))).toBe(true);
      expect(files.filter((file) => file.startsWith('.arkiv-bin/'))).toEqual([]);
    }
    const originals = path.join(volumeOf(data, 'working'), '2026/2026-10-16_press-night/originals');
    const inOriginals = (i: number) => filesBelow(originals).filter((file) => file.startsWith(`${name[i]}.`));
    expect(inOriginals(0).length).toBeGreaterThan(0);
    // At a press it is done here too.
    const press = async (what: string) => {
      const { jobIds } = await home.post<{ jobIds: string[] }>(`/carried/results/${jobId}/${what}`);
      for (const begun of jobIds)
        expect(await home.rest(begun)).toMatchObject({ job: { state: 'done' }, failures: [] });
      await settle(home);
      return jobIds.length;
    };
    expect(await press('names')).toBe(1);
    expect(inOriginals(0)).toEqual([]);
    expect(
      filesBelow(volumeOf(data, 'working')).filter((file) => file.includes('/rejects/')).length,
    ).toBeGreaterThan(2);
    expect(await press('bin')).toBe(1);
    expect(inOriginals(2)).toEqual([]);
    expect((await home.frames(shootId)).id).not.toContain(id[2]);
    expect(await result()).toMatchObject({ named: [], out: [] });
    // On the disk nothing was done twice: every picture is there once, with its sidecar beside it.
    expect(pictures(disk).sort()).toEqual(before);
    expect(found()).toEqual([]);
    const sidecars = filesBelow(disk).filter((file) => file.endsWith(`/${name[0]}.xmp`));
    expect(sidecars).toEqual([expect.stringContaining('/rejects/')]);
    expect(await press('names')).toBe(0);
    // What the other archive had put into its bin is in this one’s, and comes back to its place on the disk, too.
    const inBins = () => filesBelow(disk).filter((file) => file.startsWith('.arkiv-bin/'));
    expect(inBins().filter((file) => file.endsWith(`/${name[2]}.dng`))).toHaveLength(1);
    await run(home, '/bin/back', {
      binId: (await home.get<{ times: { id: string }[] }>('/bin')).times[0]!.id,
    });
    expect(inBins().filter((file) => !file.endsWith('bin.json'))).toEqual([]);
    expect(filesBelow(disk)).toContain(`2026/2026-10-16_press-night/originals/${name[2]}.dng`);
    expect(pictures(disk).sort()).toEqual(before);
  });

  it('goes into the bin on the drive also where it was binned here and set aside there', async () => {
    const { id, name } = await home.frames(shootId);
    await takeAlong();
    await plugInto(away);
    await takeInAll(away);
    const run = async (arkiv: TestArkiv, where: string, asked: object) => {
      const { jobId } = await arkiv.post<{ jobId: string }>(where, asked);
      expect(await arkiv.rest(jobId)).toMatchObject({ job: { state: 'done' }, failures: [] });
      await settle(arkiv);
    };
    await away.mark('verdict', 'undecided', 'reject', id[0]!);
    await run(away, '/moves', { kind: 'aside', shootId, frameIds: [id[0]], rename: false });
    await run(home, '/bin', { deed: 'bin', shootId, frameIds: [id[0]] });
    expect((await home.ask('POST', `/volumes/${diskId}/back`)).status).toBe(204);
    await takeInAll(home);
    const its = () => filesBelow(disk).filter((file) => file.endsWith(`/${name[0]}.dng`));
    await until(() => its().every((file) => file.startsWith('.arkiv-bin/')));
    expect(its()).toHaveLength(1);
    const { jobId } = await home.post<{ jobId: string }>('/bin/empty', { typed: 1 });
    expect(await home.rest(jobId)).toMatchObject({ job: { state: 'done' }, failures: [] });
    expect(its()).toEqual([]);
  });

  it('deletes nothing at home of what was deleted on the way, and what was binned at home stays there', async () => {
    const { id, name } = await home.frames(shootId);
    await takeAlong();
    await plugInto(away);
    await takeInAll(away);
    const done = async (arkiv: TestArkiv, asked: object) => {
      const { jobId } = await arkiv.post<{ jobId: string }>('/bin', { shootId, ...asked });
      expect(await arkiv.rest(jobId)).toMatchObject({ job: { state: 'done' }, failures: [] });
      await settle(arkiv);
    };
    await done(away, { deed: 'delete', frameIds: [id[0]], typed: 1 });
    expect(filesBelow(disk).filter((file) => file.includes(`/${name[0]}.`))).toEqual([]);
    await done(home, { deed: 'bin', frameIds: [id[1]] });
    expect((await home.ask('POST', `/volumes/${diskId}/back`)).status).toBe(204);
    // Until it is taken in nothing is done on the disk.
    await home.app.get(BinAway).settled();
    const onDisk = () => filesBelow(disk).filter((file) => file.includes(`/${name[1]}.dng`));
    expect(onDisk()).toEqual([expect.stringMatching(/^2026\//)]);
    const result = await takeInAll(home);
    expect(result.out.map((its) => its.name)).toEqual([name[0]]);
    await settle(home);
    for (const role of ['working', 'backup'] as const)
      expect(filesBelow(volumeOf(data, role)).filter((file) => file.includes(`/${name[0]}.dng`))).toEqual([
        expect.stringMatching(/originals/),
      ]);
    expect((await home.frames(shootId)).id).toContain(id[0]);
    // The one that was binned here is no frame again, and its copy on the disk follows it into the bin.
    expect((await home.frames(shootId)).id).not.toContain(id[1]);
    await until(() => onDisk().every((file) => file.startsWith('.arkiv-bin/')));
    expect(onDisk()).toHaveLength(1);
    const [time] = (await home.get<{ times: { id: string }[] }>('/bin')).times;
    const { jobId } = await home.post<{ jobId: string }>('/bin/back', { binId: time!.id });
    expect(await home.rest(jobId)).toMatchObject({ job: { state: 'done' }, failures: [] });
    expect((await home.frames(shootId)).id).toContain(id[1]);
    expect(onDisk()).toEqual([expect.stringMatching(/^2026\//)]);
  });

  it('and was born on the way comes home with its ids, receipts and history, and then with copies that are proven', async () => {
    const travel = await away.post<{ id: string }>('/volumes', {
      ...{ root: disk, name: 'Travel', role: 'working' },
    });
    const born = await away.takeIn({ title: 'Dress rehearsal', targets: [travel.id] });
    expect((await away.rest(born.jobId)).job).toMatchObject({ state: 'done', filesFailed: 0 });
    const { id } = await away.frames(born.shootId);
    await away.mark('stars', 0, 3, ...id);
    await settle(away);
    const sums = [...outsideManifest(disk)].filter(([file]) => /\.(jpg|dng)$/i.test(file));
    expect(sums.length).toBeGreaterThan(0);
    await plugInto(home);
    const result = await takeInAll(home, travel.id);
    expect(result).toMatchObject({ shoots: 1, frames: id.length });
    expect((await home.frames(born.shootId)).id).toEqual(id);
    expect((await home.frames(born.shootId)).stars).toEqual(id.map(() => 3));
    expect((await history(home, born.shootId)).map((one) => one.id)).toEqual(
      (await history(away, born.shootId)).map((one) => one.id),
    );
    const to = await home.volumeId('backup');
    const { jobId } = await home.post<{ jobId: string }>('/copies/missing', { shootId: born.shootId, to });
    expect((await home.rest(jobId)).job).toMatchObject({ state: 'done', filesFailed: 0 });
    const here = [...outsideManifest(volumeOf(data, 'backup')).values()];
    for (const [, sum] of sums) expect(here).toContain(sum);
    expect(filesBelow(volumeOf(data, 'backup')).some((file) => file.includes('.arkiv/receipts'))).toBe(true);
  });

  it('comes home also where nothing says what its albums are: the history alone knows of these', async () => {
    await takeAlong();
    await plugInto(away);
    await takeInAll(away);
    const { id } = await home.frames(shootId);
    const { id: album } = await away.post<{ id: string }>('/albums', { name: 'On the road' });
    await away.mark(`album ${album}`, null, 'a0', id[0]!);
    await away.mark('stars', 0, 3, id[0]!);
    await settle(away);
    for (const file of filesBelow(disk).filter((name) => name.endsWith('/sets.jsonl')))
      rmSync(path.join(disk, file));
    // A line that was cut off is named, and costs no other.
    appendFileSync(
      path.join(
        disk,
        filesBelow(disk).find((name) => name.endsWith('/history.jsonl'))!,
      ),
      '{"id":"cu',
    );
    await home.ask('POST', `/volumes/${diskId}/back`);
    const { jobId } = await home.post<{ jobId: string }>(`/carried/${diskId}`);
    const { failures } = await home.rest(jobId);
    expect(failures.map(({ reason }) => reason)).toEqual([expect.stringContaining('1 lines of')]);
    expect(await valueOf(home, id[0]!, 'stars')).toBe(3);
    expect((await history(home)).map(({ kind }) => kind)).toContain(`album ${album}`);
    // Of what could not be read whole nothing is written over: it is offered again.
    expect(await home.get('/carried')).toHaveLength(1);
  });

  it('is let lie where that is wanted, and what is said of it there is kept beside what is written anew', async () => {
    await takeAlong();
    await plugInto(away);
    await takeInAll(away);
    const { id } = await home.frames(shootId);
    await away.mark('stars', 0, 5, id[0]!);
    await settle(away);
    await home.ask('POST', `/volumes/${diskId}/back`);
    expect((await home.ask('POST', `/carried/${diskId}/leave`)).status).toBe(204);
    expect(await home.get('/carried')).toEqual([]);
    await home.mark('stars', 0, 1, id[1]!);
    await settle(home);
    const kept = found().filter((file) => file.includes('history_found-'));
    expect(kept).toHaveLength(1);
    expect(readFileSync(path.join(disk, kept[0]!), 'utf8')).toContain(`"subject":"${id[0]!}"`);
    expect(await valueOf(home, id[1]!, 'stars')).toBe(1);
  });

  it('is not asked about where the other archive left nothing on the drive', async () => {
    await away.post('/volumes', { root: disk, name: 'Travel', role: 'working' });
    writeFileSync(path.join(disk, 'a list.txt'), 'of whoever wrote it');
    await plugInto(home);
    await until(async () =>
      (await home.get<{ name: string; heldBy: string | null }[]>('/volumes')).some(
        ({ name, heldBy }) => name === 'Travel' && heldBy === null,
      ),
    );
    expect(await home.get('/carried')).toEqual([]);
  });
});
