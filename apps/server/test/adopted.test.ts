import { execFileSync } from 'node:child_process';
import {
  copyFileSync,
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  statSync,
  utimesSync,
  writeFileSync,
} from 'node:fs';
import path from 'node:path';
import { ADOPTED_TEXTS, DEFAULT_OUTPUT_SPEC } from '@arkiv/core';
import { AdoptedFrames } from '../src/adopted/adoptedFrames.service';
import { AdoptedService } from '../src/adopted/adopted.service';
import { Reading, UnitOfWork } from '../src/db/unitOfWork';
import { DueTexts } from '../src/frames/dueTexts.service';
import { Happenings } from '../src/events/domainEvents';
import { ReturnsWatch } from '../src/returns/returnsWatch.service';
import { SidecarsService } from '../src/sidecars/sidecars.service';
import { SidecarWatch } from '../src/sidecars/sidecarWatch.service';
import { FaultyDisk } from './faultyDisk';
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

interface AdoptedFolder {
  id: string;
  shoots: number;
  frames: number;
  unread: number;
  busy: boolean;
  trouble: string | null;
  firstShoot: string | null;
}
interface Shoot {
  id: string;
  title: string;
  date: string;
  frames: number;
}

const SPEC = { ...DEFAULT_OUTPUT_SPEC, name: 'Web', size: { by: 'long', pixels: 160 } };

/** A sidecar as another program writes it. */
const sidecar = (rating: number, keyword: string, more = '') =>
  `<x:xmpmeta xmlns:x="adobe:ns:meta/"><rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#"><rdf:Description rdf:about="" xmlns:xmp="http://ns.adobe.com/xap/1.0/" xmlns:dc="http://purl.org/dc/elements/1.1/" xmlns:other="http://other.example/1.0/" xmp:Rating="${rating}" other:curve="steep"><dc:subject><rdf:Bag><rdf:li>${keyword}</rdf:li></rdf:Bag></dc:subject>${more}</rdf:Description></rdf:RDF></x:xmpmeta>`;

describe('An adopted folder', () => {
  let arkiv: TestArkiv;
  let data: string;
  let tree: string;

  const card = (file: string) => path.join(cardOf(data), 'DCIM/100OCKHM', file);
  const OLD = new Date('2020-02-02T12:00:00Z');
  const settle = (file: string) => utimesSync(file, OLD, OLD);
  /** A file of the card in the tree, as it lies there for years. */
  const put = (file: string, as: string) => {
    const to = path.join(tree, as);
    mkdirSync(path.dirname(to), { recursive: true });
    copyFileSync(card(file), to);
    settle(to);
    return to;
  };
  const write = (as: string, text: string) => {
    writeFileSync(path.join(tree, as), text);
    settle(path.join(tree, as));
  };

  beforeEach(async () => {
    data = dataWithCard({ until: 'OCK_9975' });
    tree = path.join(volumeOf(data, 'working'), 'Old pictures');
    put('OCK_9968.JPG', '2019-06-01 Quay/raw/OCK_9968.JPG');
    put('OCK_9968.DNG', '2019-06-01 Quay/raw/OCK_9968.DNG');
    put('OCK_9970.JPG', '2019-06-01 Quay/OCK_9970.JPG');
    put('OCK_9972.JPG', 'Phone/a.jpg');
    write('2019-06-01 Quay/raw/OCK_9968.xmp', sidecar(4, 'heron'));
    write('2019-06-01 Quay/OCK_9970.JPG.xmp', sidecar(2, 'boat'));
    write('Phone/notes.txt', 'not a picture');
    execFileSync('exiftool', [
      ...[
        '-q',
        '-overwrite_original',
        '-XMP-xmp:Rating=5',
        '-IPTC:Keywords=inside',
        '-IPTC:Caption-Abstract=By the wall',
      ],
      path.join(tree, 'Phone/a.jpg'),
    ]);
    settle(path.join(tree, 'Phone/a.jpg'));
    arkiv = await startArkiv(data);
  });
  afterEach(async () => {
    await arkiv.stop();
    removeFolder(data);
  });

  const wish = (more: object = {}) => ({ path: tree, rule: 'top', sidecars: false, ...more });
  const adopt = (more: object = {}) => arkiv.post<AdoptedFolder>('/adopted', wish(more));
  const folder = async () => (await arkiv.get<AdoptedFolder[]>('/adopted'))[0]!;
  const restart = async () => {
    await arkiv.stop();
    arkiv = await startArkiv(data);
  };
  const shoots = () => arkiv.get<Shoot[]>('/shoots');
  const rows = <T>(sql: string, parameters: unknown[] = []): Promise<T[]> =>
    arkiv.app.get(Reading).source.query(sql, parameters);
  const frames = () =>
    rows<{
      id: string;
      name: string;
      place: string;
      stars: number;
      keywords: string;
      caption: string | null;
    }>(`SELECT id, name, place, stars, keywords, caption FROM frame_here ORDER BY name`);
  /** A look that began before may have seen half of what a test did, and be taking that in: then it is looked once more. */
  const looked = async () => {
    await until(async () => arkiv.app.get(AdoptedService).look((await folder()).id));
    await until(async () => !(await folder()).busy);
  };
  /** Everything is known, and read whole. */
  const whole = () =>
    until(async () => {
      const { busy, unread, frames: known } = await folder();
      return !busy && unread === 0 && known > 0;
    });

  it('says what it would become before anything is done, by each rule', async () => {
    const before = outsideManifest(tree);
    const example = (rule: string) =>
      arkiv.post<{ shoots: object[] }>('/adopted/example', { path: tree, rule });
    expect(await example('top')).toMatchObject({
      ...{ drive: 'Working drive', newDrive: null, frames: 3, files: 4, sidecars: 2 },
      shoots: [
        { title: 'Quay', date: '2019-06-01', folder: '2019-06-01 Quay', frames: 2 },
        { title: 'Phone', date: null, folder: 'Phone', frames: 1 },
      ],
      out: { other: 1, hidden: 0, archive: 0, link: 0, unnamed: 0, root: 0 },
    });
    expect((await example('each')).shoots).toHaveLength(3);
    expect((await example('day')).shoots).toEqual([
      { title: 'Old pictures 2026-10-16', date: '2026-10-16', folder: '', frames: 3 },
    ]);
    expect(await arkiv.get('/adopted')).toEqual([]);
    expect(outsideManifest(tree)).toEqual(before);
  });

  it('has its collections as albums, those of a name that is known in the same one', async () => {
    const { id: known } = await arkiv.post<{ id: string }>('/albums', { name: 'portfolio' });
    const { id: ruled } = await arkiv.post<{ id: string }>('/albums', { name: 'Wall', rule: 'stars:5' });
    const collections = (...names: string[]) =>
      `-XMP-mwg-coll:Collections=[${names.map((name) => `{CollectionName=${name}}`).join(',')}]`;
    const tell = (file: string, ...names: string[]) => {
      execFileSync('exiftool', ['-q', '-overwrite_original', collections(...names), path.join(tree, file)]);
      settle(path.join(tree, file));
    };
    tell('2019-06-01 Quay/raw/OCK_9968.xmp', 'Portfolio', 'Birds');
    tell('2019-06-01 Quay/OCK_9970.JPG.xmp', 'Birds');
    // Inside the picture itself, and of an album that fills itself.
    tell('Phone/a.jpg', 'Wall');
    const before = outsideManifest(tree);
    await adopt();
    await whole();
    const albums = await arkiv.get<{ id: string; name: string }[]>('/albums');
    expect(albums.map(({ name }) => name).sort()).toEqual([
      'Birds',
      'Wall',
      'Wall (from sidecars)',
      'portfolio',
    ]);
    const idOf = (name: string) => albums.find((one) => one.name === name)!.id;
    const held = async (album: string) => {
      const found = await arkiv.post<{ page: { columns: { name?: string[] } } }>('/find', {
        ...{ line: '', heading: 'album', album },
      });
      // Folders are taken up two at a time: either comes first.
      return [...(found.page.columns.name ?? [])].sort();
    };
    expect([await held(known), await held(idOf('Birds')), await held(idOf('Wall (from sidecars)'))]).toEqual([
      ['OCK_9968'],
      ['OCK_9968', 'OCK_9970'],
      ['a'],
    ]);
    expect(ruled).toBe(idOf('Wall'));
    expect(outsideManifest(tree)).toEqual(before);
  });

  it('is there at once with what was said of its pictures, and nothing in it is touched', async () => {
    const before = outsideManifest(tree);
    const adopted = await adopt();
    // Its first frames come with the answer.
    expect(adopted.frames).toBeGreaterThan(0);
    await whole();
    expect((await shoots()).map(({ title, date, frames: n }) => [title, date, n]).sort()).toEqual([
      ['Phone', '2026-10-16', 1],
      ['Quay', '2019-06-01', 2],
    ]);
    expect(await frames()).toMatchObject([
      { name: 'OCK_9968', place: 'Old pictures/2019-06-01 Quay/raw', stars: 4, keywords: 'heron' },
      { name: 'OCK_9970', place: 'Old pictures/2019-06-01 Quay', stars: 2, keywords: 'boat' },
      { name: 'a', place: 'Old pictures/Phone', stars: 5, keywords: 'inside', caption: 'By the wall' },
    ]);
    // Checksums are those that others find, and each copy was read.
    const files = await rows<{ at: string; sha256: string; verifiedAt: number }>(
      `SELECT "at", sha256, "verifiedAt" FROM copy_at ORDER BY "at"`,
    );
    expect(files.map(({ at, sha256 }) => [path.relative('Old pictures', at), sha256])).toEqual(
      [...before].filter(([file]) => /\.(jpg|dng)$/i.test(file)).sort(([a], [b]) => (a < b ? -1 : 1)),
    );
    expect(files.every(({ verifiedAt }) => verifiedAt > 0)).toBe(true);
    // Nothing is read again that was never read before.
    const jobs = await arkiv.get<{ kind: string; deed: string | null }[]>('/jobs');
    expect(jobs.filter(({ kind }) => kind === 'verify').map(({ deed }) => deed)).toEqual(['first-reading']);
    // Its pictures can be seen, and marks are kept without a word in the folder.
    const [heron] = await frames();
    // Twenty years that were adopted are no work to do; what somebody takes in hand is.
    const open = async () => (await arkiv.get<Shoot[]>('/shoots?open=true')).map(({ title }) => title);
    expect(await open()).toEqual([]);
    await arkiv.mark('stars', 4, 5, heron!.id);
    expect(await open()).toEqual(['Quay']);
    const { shootId } = (
      await rows<{ shootId: string }>(`SELECT "shootId" FROM frame WHERE id = ?`, [heron!.id])
    )[0]!;
    const { picture } = await arkiv.frames(shootId);
    expect(picture.every((key) => key !== null)).toBe(true);
    await restart();
    expect(outsideManifest(tree)).toEqual(before);
    // What is kept of the shoot lies at the drive's root, and proves the folder's files to anybody.
    const kept = path.join(volumeOf(data, 'working'), '.arkiv-archive/adopted', shootId);
    expect(sha256sumCheck(kept, '.arkiv/manifest.sha256')).toContain('OCK_9968.DNG: OK');
    expect(readFileSync(path.join(kept, '.arkiv/history.jsonl'), 'utf8')).toContain('"stars"');
  });

  it('takes marks from beside a picture alone where there are any, and words from wherever they stand first', async () => {
    // The picture says five stars and a caption; its sidecar, which somebody wrote later, says none, and another keyword.
    write('Phone/a.xmp', sidecar(0, 'quay wall'));
    // A voice note whose picture is gone belongs to no frame, and is no reason to look again and again.
    write('Phone/alone.wav', 'RIFF');
    await adopt();
    await whole();
    expect((await frames()).find(({ name }) => name === 'a')).toMatchObject({
      ...{ stars: 0, keywords: 'quay wall', caption: 'By the wall' },
    });
    const jobs = () => rows(`SELECT id FROM job WHERE kind = 'adopt'`);
    const { length } = await jobs();
    await restart();
    await looked();
    expect(await jobs()).toHaveLength(length);
  });

  it('shows by itself what comes, is renamed, moved, changed, goes and comes back', async () => {
    await adopt();
    await whole();
    const ids = new Map((await frames()).map(({ name, id }) => [name, id]));
    await arkiv.mark('label', null, 'A', ids.get('a')!);
    // A new one.
    put('OCK_9973.JPG', 'Phone/new.jpg');
    await looked();
    await until(async () => (await folder()).frames === 4);
    // One that somebody renames, and one that is moved to another folder with both its files: the same frames, with their marks.
    renameSync(path.join(tree, 'Phone/a.jpg'), path.join(tree, 'Phone/wall.jpg'));
    mkdirSync(path.join(tree, 'Best'));
    for (const file of ['OCK_9968.JPG', 'OCK_9968.DNG', 'OCK_9968.xmp'])
      renameSync(path.join(tree, '2019-06-01 Quay/raw', file), path.join(tree, 'Best', file));
    await looked();
    const moved = await rows<{
      id: string;
      name: string;
      place: string;
      label: string | null;
      stars: number;
    }>(`SELECT id, name, place, label, stars FROM frame_here WHERE id IN (?, ?) ORDER BY name`, [
      ids.get('a'),
      ids.get('OCK_9968'),
    ]);
    expect(moved).toMatchObject([
      { id: ids.get('OCK_9968'), name: 'OCK_9968', place: 'Old pictures/Best', stars: 4 },
      { id: ids.get('a'), name: 'wall', place: 'Old pictures/Phone', label: 'A' },
    ]);
    expect((await folder()).frames).toBe(4);
    // One that another program writes anew: it is read anew.
    const changed = path.join(tree, '2019-06-01 Quay/OCK_9970.JPG');
    copyFileSync(card('OCK_9975.JPG'), changed);
    utimesSync(changed, OLD, new Date('2021-01-01T00:00:00Z'));
    await looked();
    await whole();
    const sum = outsideManifest(tree).get('2019-06-01 Quay/OCK_9970.JPG');
    expect(await rows(`SELECT sha256 FROM asset WHERE "frameId" = ?`, [ids.get('OCK_9970')])).toEqual([
      { sha256: sum },
    ]);
    // One that goes is missed, and comes back as the same.
    rmSync(path.join(tree, 'Phone/new.jpg'));
    await looked();
    const damage = () => rows<{ reason: string }>(`SELECT reason FROM damage`);
    expect(await damage()).toEqual([{ reason: 'is not there any more.' }]);
    put('OCK_9973.JPG', 'Phone/new.jpg');
    await looked();
    expect(await damage()).toEqual([]);
    expect((await folder()).frames).toBe(4);
    expect(await rows(`SELECT * FROM volume WHERE damaged <> 0`)).toEqual([]);
  });

  it('misses nothing that comes just as one of its folders is looked at', async () => {
    const disk = new FaultyDisk();
    await arkiv.stop();
    arkiv = await startArkiv(data, disk);
    await adopt();
    await whole();
    await looked();
    // It is looked at anew, and watched anew.
    let comes = true;
    disk.onNames = (folder) => {
      if (comes && folder === path.join(tree, 'Phone')) put('OCK_9973.JPG', 'Phone/new.jpg');
      comes &&= folder !== path.join(tree, 'Phone');
    };
    arkiv.app.get(Happenings).tell('volumes', {});
    await until(async () => (await folder()).frames === 4);
  });

  it('is seen as it comes again where it was put away, as a folder of its own in that place', async () => {
    await adopt();
    await whole();
    rmSync(tree, { recursive: true });
    await until(async () => (await folder()).trouble !== null);
    put('OCK_9973.JPG', 'Phone/new.jpg');
    await until(async () => (await folder()).frames === 4 && (await folder()).trouble === null);
  });

  it('is parted by days where that is wanted, and a frame stays in its day’s shoot wherever its file goes', async () => {
    const early = path.join(tree, 'Phone/a.jpg');
    execFileSync('exiftool', ['-q', '-overwrite_original', '-DateTimeOriginal=2018:05:01 10:00:00', early]);
    settle(early);
    await adopt({ rule: 'day' });
    await whole();
    const days = async () =>
      (await shoots())
        .map(({ title, date, frames: n }) => [title, date, n])
        .sort(([, a], [, b]) => (a! < b! ? -1 : 1));
    expect(await days()).toEqual([
      ['Old pictures 2018-05-01', '2018-05-01', 1],
      ['Old pictures 2026-10-16', '2026-10-16', 2],
    ]);
    renameSync(early, path.join(tree, '2019-06-01 Quay/a.jpg'));
    await looked();
    expect(await days()).toEqual([
      ['Old pictures 2018-05-01', '2018-05-01', 1],
      ['Old pictures 2026-10-16', '2026-10-16', 2],
    ]);
    expect((await frames()).map(({ name, place }) => [name, path.basename(place)])).toContainEqual([
      'a',
      '2019-06-01 Quay',
    ]);
  });

  it('puts a raw that comes beside its JPEG into the same frame, and copies of a picture into frames of their own', async () => {
    await adopt({ rule: 'dated' });
    await whole();
    expect((await shoots()).map(({ title }) => title).sort()).toEqual(['Phone', 'Quay']);
    put('OCK_9970.DNG', '2019-06-01 Quay/OCK_9970.DNG');
    put('OCK_9970.JPG', 'Phone/copy of it.jpg');
    await looked();
    await whole();
    expect((await folder()).frames).toBe(4);
    const formats = await rows<{ name: string; format: string; files: number }>(
      `SELECT f.name, f.format, COUNT(*) AS files FROM frame_here f JOIN asset a ON a."frameId" = f.id
       WHERE f.name IN ('OCK_9970', 'copy of it') GROUP BY f.id ORDER BY f.name`,
    );
    expect(formats).toEqual([
      { name: 'OCK_9970', format: 'dng+jpeg', files: 2 },
      { name: 'copy of it', format: 'jpeg', files: 1 },
    ]);
    // What became of files is in the paper trail where nobody here did it.
    renameSync(path.join(tree, 'Phone/copy of it.jpg'), path.join(tree, 'Phone/renamed.jpg'));
    await looked();
    const { lines } = await arkiv.get<{ lines: { kind: string; to: string; reason: string }[] }>('/trail');
    expect(lines.find(({ kind }) => kind === 'renamed')).toMatchObject({
      ...{ to: 'Old pictures/Phone/renamed', reason: 'by another program' },
    });
  });

  it('sees after a restart what changed meanwhile, and leaves alone what is still being written', async () => {
    await adopt();
    await whole();
    await arkiv.stop();
    put('OCK_9973.JPG', 'Phone/new.jpg');
    renameSync(path.join(tree, 'Phone'), path.join(tree, 'Mobile'));
    arkiv = await startArkiv(data);
    await until(async () => (await folder()).frames === 4 && !(await folder()).busy);
    expect((await frames()).filter(({ place }) => place.endsWith('Mobile')).map(({ name }) => name)).toEqual([
      'a',
      'new',
    ]);
    // One that somebody has written just now may not be whole yet.
    const service = arkiv.app.get(AdoptedFrames);
    service.settles = 60 * 60 * 1000;
    copyFileSync(card('OCK_9975.JPG'), path.join(tree, 'Mobile/half.jpg'));
    await looked();
    expect((await folder()).frames).toBe(4);
    service.settles = 0;
    await looked();
    expect((await folder()).frames).toBe(5);
  });

  it('gets sidecars only where that is allowed, and keeps what others say in them', async () => {
    await adopt();
    await whole();
    const { id } = await folder();
    const [heron] = await frames();
    const beside = path.join(tree, '2019-06-01 Quay/raw/OCK_9968.xmp');
    const before = readFileSync(beside, 'utf8');
    await arkiv.mark('label', null, 'A', heron!.id);
    expect(readFileSync(beside, 'utf8')).toBe(before);
    // What another program says there is taken in all the same.
    writeFileSync(beside, sidecar(3, 'heron'));
    const { shootId } = (
      await rows<{ shootId: string }>(`SELECT "shootId" FROM frame WHERE id = ?`, [heron!.id])
    )[0]!;
    await arkiv.columns(shootId);
    await until(async () => (await frames())[0]!.stars === 3);
    expect((await arkiv.ask('PUT', `/adopted/${id}`, { sidecars: true })).status).toBe(204);
    await until(() => readFileSync(beside, 'utf8') !== sidecar(3, 'heron'));
    const now = readFileSync(beside, 'utf8');
    expect(now).toContain('steep');
    expect(now).toMatch(/Rating(="3"|>3<)/);
    // The other program's own stays as it is.
    expect(readFileSync(path.join(tree, '2019-06-01 Quay/OCK_9970.JPG.xmp'), 'utf8')).toBe(
      sidecar(2, 'boat'),
    );
  });

  it('takes in what other programs change beside single files, and never writes there', async () => {
    await adopt();
    await whole();
    const beside = path.join(tree, '2019-06-01 Quay/OCK_9970.JPG.xmp');
    const boat = async () => (await frames()).find(({ name }) => name === 'OCK_9970')!;
    const { id } = await boat();
    const { shootId } = (
      await rows<{ shootId: string }>(`SELECT "shootId" FROM frame WHERE id = ?`, [id])
    )[0]!;
    const opened = () => arkiv.columns(shootId);
    // The folder is watched once it is on a screen: the word is there without anybody asking again.
    await opened();
    writeFileSync(beside, sidecar(5, 'schooner'));
    await until(async () => (await boat()).stars === 5);
    await until(async () => (await boat()).keywords === 'schooner');
    const said = await rows<{ by: string }>(`SELECT by FROM operation WHERE subject = ? AND kind = 'stars'`, [
      id,
    ]);
    expect(said.map(({ by }) => by)).toEqual(['program']);
    // What is decided here stands while the other program says nothing new of it; what it does say anew is taken in, the later of two words.
    await arkiv.mark('stars', 5, 1, id);
    writeFileSync(beside, sidecar(5, 'ferry'));
    await until(async () => (await boat()).keywords === 'ferry');
    expect((await boat()).stars).toBe(1);
    // While the server is away, and under another name.
    await arkiv.stop();
    writeFileSync(beside, sidecar(4, 'ferry'));
    const moved = path.join(tree, '2019-06-01 Quay/Boat.JPG');
    renameSync(path.join(tree, '2019-06-01 Quay/OCK_9970.JPG'), moved);
    renameSync(beside, `${moved}.xmp`);
    arkiv = await startArkiv(data);
    await looked();
    await until(
      async () => (await rows(`SELECT 1 FROM frame_here WHERE id = ? AND name = 'Boat'`, [id])).length === 1,
    );
    await opened();
    await until(async () => {
      const [frame] = await rows<{ stars: number }>(`SELECT stars FROM frame WHERE id = ?`, [id]);
      return frame!.stars === 4;
    });
    // One that is written by and by, and one that says nothing, change nothing; who looks is told of the first.
    const told: string[] = [];
    arkiv.app.get(Happenings).on('sidecar', ({ frameId, message }) => {
      if (frameId === id) told.push(message);
    });
    writeFileSync(`${moved}.xmp`, sidecar(2, 'ferry').slice(0, 200));
    await opened();
    await until(() => told.length > 0);
    expect(told[0]).toMatch(
      /^What another program wrote beside it into Boat\.JPG\.xmp on “.+” cannot be read: /,
    );
    writeFileSync(path.join(tree, '2019-06-01 Quay/Boat.xmp.xmp'), sidecar(1, 'x'));
    await opened();
    await arkiv.app.get(SidecarWatch).settled();
    expect((await rows<{ stars: number }>(`SELECT stars FROM frame WHERE id = ?`, [id]))[0]!.stars).toBe(4);
    expect(readFileSync(`${moved}.xmp`, 'utf8')).toBe(sidecar(2, 'ferry').slice(0, 200));
    expect(existsSync(path.join(tree, '2019-06-01 Quay/Boat.xmp'))).toBe(false);
  });

  it('does not take up again what was taken off here, where nobody noted what lay beside it before', async () => {
    await adopt();
    await whole();
    const { id } = (await frames()).find(({ name }) => name === 'OCK_9970')!;
    await arkiv.mark('stars', 2, 0, id);
    // As an earlier version left it.
    await arkiv.app
      .get(UnitOfWork)
      .write((manager) => manager.query(`DELETE FROM own_text WHERE path LIKE '%.JPG.xmp'`));
    await restart();
    const { shootId } = (
      await rows<{ shootId: string }>(`SELECT "shootId" FROM frame WHERE id = ?`, [id])
    )[0]!;
    await arkiv.columns(shootId);
    await arkiv.app.get(SidecarWatch).settled();
    await until(
      async () =>
        (await rows(`SELECT 1 FROM own_text WHERE path LIKE '%.JPG.xmp' AND said IS NOT NULL`)).length > 0,
    );
    expect((await frames()).find(({ name }) => name === 'OCK_9970')!.stars).toBe(0);
  });

  it('is walked as it lies on the disk, across its shoots, a folder with or without what lies below it', async () => {
    await adopt();
    await whole();
    const folders = (at: string) => arkiv.get(`/find/folders?path=${encodeURIComponent(at)}`);
    const count = async (line: string) =>
      (await arkiv.post<{ count: number }>('/find', { line, rejects: true })).count;
    await until(async () => (await count('')) === 3);
    expect(await folders('')).toEqual({
      ...{ frames: 3, own: 0 },
      folders: [{ path: 'Old pictures', name: 'Old pictures', frames: 3 }],
    });
    expect(await folders('Old pictures')).toEqual({
      ...{ frames: 3, own: 0 },
      folders: [
        { path: 'Old pictures/2019-06-01 Quay', name: '2019-06-01 Quay', frames: 2 },
        { path: 'Old pictures/Phone', name: 'Phone', frames: 1 },
      ],
    });
    expect(await shoots()).toHaveLength(2);
    expect(await count('below:"Old pictures"')).toBe(3);
    expect(await count('below:"Old pictures/2019-06-01 Quay"')).toBe(2);
    expect(await count('folder="Old pictures/2019-06-01 Quay"')).toBe(1);
    // Somebody gives it another name in the system's own file manager.
    renameSync(path.join(tree, 'Phone'), path.join(tree, 'Telephone'));
    await looked();
    await until(async () => (await count('below:"Old pictures/Telephone"')) === 1);
    expect(await count('below:"Old pictures/Phone"')).toBe(0);
    expect((await arkiv.ask('GET', `/find/folders?path=${'a'.repeat(5000)}`)).status).toBe(400);
  });

  it('is forgotten with its files untouched, and does not come back by itself', async () => {
    await adopt();
    await whole();
    const before = outsideManifest(tree);
    // One frame alone first: the folder is looked at again and again, and it stays away.
    const [heron] = await frames();
    const { shootId } = (
      await rows<{ shootId: string }>(`SELECT "shootId" FROM frame WHERE id = ?`, [heron!.id])
    )[0]!;
    const { jobId } = await arkiv.post<{ jobId: string }>('/bin', {
      deed: 'forget',
      shootId,
      frameIds: [heron!.id],
    });
    await arkiv.rest(jobId);
    await looked();
    await restart();
    await looked();
    expect((await folder()).frames).toBe(2);
    expect(await arkiv.post(`/adopted/${(await folder()).id}/forget`)).toEqual({ frames: 2 });
    await until(async () => (await frames()).length === 0);
    expect(await arkiv.get('/adopted')).toEqual([]);
    expect(await shoots()).toEqual([]);
    expect(outsideManifest(tree)).toEqual(before);
  });

  it('does not take up again what was forgotten where somebody renames or moves it, and brings it back from there', async () => {
    await adopt();
    await whole();
    const [heron] = await frames();
    const at = await rows<{ shootId: string }>(`SELECT "shootId" FROM frame WHERE id = ?`, [heron!.id]);
    const forgetting = { deed: 'forget', shootId: at[0]!.shootId, frameIds: [heron!.id] };
    await arkiv.rest((await arkiv.post<{ jobId: string }>('/bin', forgetting)).jobId);
    // Renamed while nobody is there to see it, and then moved: each time it is the one that was put out.
    await arkiv.stop();
    for (const ending of ['JPG', 'DNG'])
      renameSync(
        path.join(tree, `2019-06-01 Quay/raw/OCK_9968.${ending}`),
        path.join(tree, `2019-06-01 Quay/raw/heron.${ending}`),
      );
    arkiv = await startArkiv(data);
    await looked();
    mkdirSync(path.join(tree, 'Best'));
    for (const ending of ['JPG', 'DNG'])
      renameSync(
        path.join(tree, `2019-06-01 Quay/raw/heron.${ending}`),
        path.join(tree, `Best/heron.${ending}`),
      );
    await looked();
    expect((await frames()).map(({ name }) => name)).toEqual(['OCK_9970', 'a']);
    // The list on the drive says where it lies, so that it stays away when the archive is made anew.
    await arkiv.app.get(DueTexts).flush();
    const lists = path.join(volumeOf(data, 'working'), '.arkiv-archive/forgotten');
    const list = readdirSync(lists, { recursive: true })
      .map(String)
      .find((name) => name.endsWith('.json'))!;
    expect(readFileSync(path.join(lists, list), 'utf8')).toContain('Old pictures/Best/heron.DNG');
    // A copy of it is another file: nobody put that one out.
    copyFileSync(path.join(tree, 'Best/heron.JPG'), path.join(tree, 'Phone/heron too.jpg'));
    settle(path.join(tree, 'Phone/heron too.jpg'));
    await looked();
    expect((await frames()).map(({ name }) => name)).toEqual(['OCK_9970', 'a', 'heron too']);
    const { times } = await arkiv.get<{ times: { id: string }[] }>('/bin');
    const back = await arkiv.post<{ jobId: string }>('/bin/back', { binId: times[0]!.id });
    expect((await arkiv.rest(back.jobId)).job.state).toBe('done');
    expect(await frames()).toMatchObject([
      { name: 'OCK_9970' },
      { name: 'a' },
      { id: heron!.id, name: 'heron', place: 'Old pictures/Best', stars: 4 },
      { name: 'heron too' },
    ]);
    expect(existsSync(path.join(tree, 'Best/heron.DNG'))).toBe(true);
    await looked();
    expect((await frames()).length).toBe(4);
  });

  it('gets proven second copies like everything else, once it was read whole', async () => {
    const before = outsideManifest(tree);
    await adopt();
    await whole();
    const { jobId } = await arkiv.post<{ jobId: string }>('/copies/missing', {});
    await arkiv.rest(jobId);
    const there = outsideManifest(path.join(volumeOf(data, 'backup'), 'Old pictures'));
    for (const [file, sum] of before) if (/\.(jpg|dng)$/i.test(file)) expect(there.get(file)).toBe(sum);
    // Now that another drive holds it as it was, a change of the first is damage and no news.
    const changed = path.join(tree, 'Phone/a.jpg');
    writeFileSync(changed, readFileSync(card('OCK_9975.JPG')));
    settle(changed);
    await looked();
    expect(await rows(`SELECT reason FROM damage`)).toEqual([
      { reason: 'was changed by another program; other drives hold it as it was.' },
    ]);
    expect(statSync(changed).size).toBe(statSync(card('OCK_9975.JPG')).size);
  });

  it('is named anew where it lies, with a title and a client of its own, and stays as it was walked', async () => {
    await adopt();
    await whole();
    const quay = (await shoots()).find(({ title }) => title === 'Quay')!.id;
    const said = { title: 'North quay', client: 'Harbour Trust' };
    expect((await arkiv.ask('PATCH', `/shoots/${quay}`, said)).status).toBe(204);
    const before = await frames();
    const asked = { kind: 'rename', shootId: quay, pattern: '{shoot}_{number:3}', rename: true };
    const { jobId } = await arkiv.post<{ jobId: string }>('/moves', asked);
    expect(await arkiv.rest(jobId)).toMatchObject({ job: { state: 'done' }, failures: [] });
    await looked();
    await whole();
    const after = await frames();
    expect(after.map(({ id, place }) => [id, place]).sort()).toEqual(
      before.map(({ id, place }) => [id, place]).sort(),
    );
    expect(after.map(({ name }) => name).sort()).toEqual(['a', 'north-quay_001', 'north-quay_002']);
    expect(
      filesBelow(tree)
        .filter((file) => /\.(jpg|dng)$/i.test(file))
        .sort(),
    ).toEqual([
      expect.stringMatching(/^2019-06-01 Quay\/north-quay_00\d\.JPG$/),
      expect.stringMatching(/^2019-06-01 Quay\/raw\/north-quay_00\d\.DNG$/),
      expect.stringMatching(/^2019-06-01 Quay\/raw\/north-quay_00\d\.JPG$/),
      'Phone/a.jpg',
    ]);
    // What was beside them went along, and a start finds nothing that is new or gone.
    expect(filesBelow(tree).filter((file) => file.endsWith('.xmp'))).toHaveLength(2);
    await restart();
    await looked();
    expect(await frames()).toEqual(after);
    expect(await rows(`SELECT 1 FROM damage`)).toEqual([]);
  });

  it('keeps its texts to itself where some of it goes into a shoot of the archive’s own, or all of it', async () => {
    await adopt();
    await whole();
    const quay = (await shoots()).find(({ title }) => title === 'Quay')!.id;
    const { id } = await arkiv.frames(quay);
    const move = async (asked: object) => {
      const { jobId, shootId } = await arkiv.post<{ jobId: string; shootId: string }>('/moves', asked);
      expect(await arkiv.rest(jobId)).toMatchObject({ job: { state: 'done' }, failures: [] });
      return shootId;
    };
    const own = await move({
      kind: 'split',
      shootId: quay,
      frameIds: [id[0]],
      title: 'Herons',
      rename: true,
    });
    const facts = async (of: string) =>
      (
        await rows<{ keptIn: string | null; folders: string }>(
          'SELECT "keptIn", folders FROM shoot WHERE id = ?',
          [of],
        )
      )[0]!;
    expect((await facts(own)).keptIn).toBeNull();
    expect((await facts(quay)).keptIn).toContain(quay);
    await move({ kind: 'merge', shootId: quay, into: own, rename: true });
    // What comes into its folder later is a shoot of that folder again: nothing is written there.
    put('OCK_9971.JPG', '2019-06-01 Quay/OCK_9971.JPG');
    await looked();
    await whole();
    const later = (await shoots()).find(({ title }) => title === 'Quay')!.id;
    expect([own, quay]).not.toContain(later);
    expect((await arkiv.frames(later)).name).toEqual(['OCK_9971']);
    await arkiv.app.get(DueTexts).flush();
    expect(filesBelow(tree).filter((file) => file.includes('.arkiv'))).toEqual([]);
    expect(JSON.parse((await facts(own)).folders)).toEqual([expect.stringContaining('herons')]);
  });

  it('is taken into dated folders of the archive’s own, with all that belongs to it, and put back as it lay', async () => {
    await adopt();
    await whole();
    const quay = (await shoots()).find(({ title }) => title === 'Quay')!.id;
    const { id } = await arkiv.frames(quay);
    await arkiv.mark('stars', 4, 5, id[0]!);
    await arkiv.app.get(DueTexts).flush();
    const texts = path.join(volumeOf(data, 'working'), ADOPTED_TEXTS);
    expect(existsSync(path.join(texts, quay, '.arkiv/history.jsonl'))).toBe(true);
    const before = outsideManifest(tree);
    const asked = { kind: 'takeIn', shootId: quay, pattern: '{shoot}_{number:3}', rename: true };
    const plan = await arkiv.post<{ folders: string[]; problems: string[] }>('/moves/plan', asked);
    expect(plan).toMatchObject({ problems: [], folders: [expect.stringMatching(/2026-10-16_quay$/)] });
    const home = path.join(volumeOf(data, 'working'), plan.folders[0]!);
    expect(outsideManifest(tree)).toEqual(before);
    const { jobId } = await arkiv.post<{ jobId: string }>('/moves', asked);
    expect(await arkiv.rest(jobId)).toMatchObject({ job: { state: 'done' }, failures: [] });
    expect(existsSync(path.join(texts, quay, '.arkiv/shoot.json'))).toBe(false);
    const settled = async () => {
      await arkiv.app.get(SidecarsService).flush();
      await arkiv.app.get(DueTexts).flush();
      await looked();
      await whole();
    };
    await settled();
    // Nothing of it is left in the folder, what another program said of it included; nothing else was touched there.
    expect(filesBelow(tree).sort()).toEqual(['Phone/a.jpg', 'Phone/notes.txt']);
    const there = filesBelow(home).sort();
    expect(there.filter((file) => !file.startsWith('.arkiv'))).toEqual([
      ...['originals/quay_001.DNG', 'originals/quay_001.JPG', 'originals/quay_001.xmp'],
      ...['originals/quay_002.JPG', 'originals/quay_002.JPG.xmp', 'originals/quay_002.xmp'],
    ]);
    expect(there).toEqual(expect.arrayContaining(['.arkiv/history.jsonl', '.arkiv/record/frames-0.jsonl']));
    sha256sumCheck(home, '.arkiv/manifest.sha256');
    expect(readdirSync(texts)).not.toContain(quay);
    // The adopted folder is of the other shoot alone: looked at anew, after a start too, and forgotten.
    expect(await folder()).toMatchObject({ shoots: 1, frames: 1 });
    await restart();
    await settled();
    expect(await folder()).toMatchObject({ shoots: 1, frames: 1 });
    expect((await arkiv.frames(quay)).id).toEqual(id);
    expect(await rows(`SELECT 1 FROM damage`)).toEqual([]);
    const { jobId: copying } = await arkiv.post<{ jobId: string }>('/copies/missing', { shootId: quay });
    await arkiv.rest(copying);
    sha256sumCheck(path.join(volumeOf(data, 'backup'), plan.folders[0]!), '.arkiv/manifest.sha256');

    const back = await arkiv.post<{ jobId: string }>(`/moves/${jobId}/undo`);
    expect(await arkiv.rest(back.jobId)).toMatchObject({
      job: { state: 'done', deed: 'back' },
      failures: [],
    });
    await settled();
    const after = outsideManifest(tree);
    // Sidecars that others wrote have come along with what was said since; ours lie beside nothing where they may not.
    expect([...after.keys()].sort()).toEqual([...before.keys()].sort());
    for (const [file, sum] of before) if (!file.endsWith('.xmp')) expect(after.get(file)).toBe(sum);
    expect(existsSync(home)).toBe(false);
    expect(readdirSync(texts)).toContain(quay);
    expect(await folder()).toMatchObject({ shoots: 2, frames: 3 });
    // The putting back can be taken back too: it is the archive's own again, under the same names.
    const again = await arkiv.post<{ jobId: string }>(`/moves/${back.jobId}/undo`);
    expect(await arkiv.rest(again.jobId)).toMatchObject({
      job: { state: 'done', deed: 'takeIn' },
      failures: [],
    });
    await settled();
    sha256sumCheck(home, '.arkiv/manifest.sha256');
    expect(filesBelow(home).filter((file) => file.startsWith('originals/'))).toEqual(
      there.filter((file) => file.startsWith('originals/')),
    );
    expect(await folder()).toMatchObject({ shoots: 1, frames: 1 });
    await arkiv.post(`/adopted/${(await folder()).id}/forget`);
    await until(async () => (await rows(`SELECT 1 FROM frame_here`)).length === 2);
    expect((await arkiv.frames(quay)).id).toEqual(id);
  });

  it('stays adopted as long as some of it could not be taken in, and is whole when that was tried again', async () => {
    const disk = new FaultyDisk();
    await arkiv.stop();
    arkiv = await startArkiv(data, disk);
    await adopt();
    await whole();
    const quay = (await shoots()).find(({ title }) => title === 'Quay')!.id;
    const before = filesBelow(tree);
    const asked = { kind: 'takeIn', shootId: quay, rename: false };
    const { folders } = await arkiv.post<{ folders: string[] }>('/moves/plan', asked);
    const home = path.join(volumeOf(data, 'working'), folders[0]!);
    const take = async () => {
      const { jobId } = await arkiv.post<{ jobId: string }>('/moves', asked);
      await arkiv.app.get(DueTexts).flush();
      return (await arkiv.rest(jobId)).failures.length;
    };
    const keptIn = async () =>
      (await rows<{ keptIn: string | null }>('SELECT "keptIn" FROM shoot WHERE id = ?', [quay]))[0]!.keptIn;
    // Somebody's file comes to the place of one in the last moment.
    const stranger = path.join(home, 'originals/OCK_9970.JPG');
    disk.onLink = (to) => {
      if (to === stranger) writeFileSync(stranger, 'somebody else’s');
    };
    expect(await take()).toBe(1);
    disk.onLink = () => undefined;
    expect(await keptIn()).toContain(quay);
    expect(filesBelow(home).filter((file) => file.includes('.arkiv'))).toEqual([]);
    expect(readFileSync(stranger, 'utf8')).toBe('somebody else’s');
    rmSync(stranger);
    expect(await take()).toBe(0);
    expect(await keptIn()).toBeNull();
    sha256sumCheck(home, '.arkiv/manifest.sha256');
    // It is the archive's own by now.
    expect((await arkiv.ask('POST', '/moves', asked)).status).toBe(409);
    // The first step alone cannot be taken back: a shoot of the archive's own lies in its folders as a whole.
    const jobs = await arkiv.get<{ id: string; deed: string | null; createdAt: number }[]>('/jobs');
    const [first, second] = jobs
      .filter(({ deed }) => deed === 'takeIn')
      .sort((x, y) => (x.id < y.id ? -1 : 1))
      .map(({ id }) => id);
    const undo = (id: string) => arkiv.ask<{ message: string; jobId: string }>('POST', `/moves/${id}/undo`);
    const refused = await undo(first!);
    expect(refused.status).toBe(409);
    expect(refused.body.message).toMatch(/frames came into the shoot since/);
    for (const id of [second!, first!])
      expect(await arkiv.rest((await undo(id)).body.jobId)).toMatchObject({ failures: [] });
    expect(await keptIn()).toContain(quay);
    expect(existsSync(home)).toBe(false);
    expect(filesBelow(tree)).toEqual(before);
  });

  it('is taken in whole, each shoot by a step of its own, two of one name and day without a word of each other', async () => {
    put('OCK_9974.JPG', 'Other/Quay/OCK_9974.JPG');
    await adopt({ rule: 'each' });
    await whole();
    const all = (await frames()).length;
    // Two that come into the same folder under the same numbers.
    for (const { id, title } of await shoots())
      if (title !== 'Quay') await arkiv.ask('PATCH', `/shoots/${id}`, { title: 'Quay' });
    const { id } = await folder();
    const naming = { rename: true, pattern: '{shoot}_{number:3}' };
    const taken = await arkiv.post<{ shoots: number; frames: number; left: string[] }>(
      `/adopted/${id}/take-in`,
      naming,
    );
    expect(taken).toEqual({ shoots: (await shoots()).length, frames: all, left: [] });
    const jobs = await arkiv.get<{ id: string; deed: string | null }[]>('/jobs');
    for (const job of jobs.filter(({ deed }) => deed === 'takeIn'))
      expect(await arkiv.rest(job.id)).toMatchObject({ job: { state: 'done' }, failures: [] });
    await looked();
    expect(await folder()).toMatchObject({ shoots: 0, frames: 0 });
    expect(await frames()).toHaveLength(all);
    expect(filesBelow(tree)).toEqual(['Phone/notes.txt']);
    expect(await rows(`SELECT 1 FROM shoot WHERE "keptIn" IS NOT NULL`)).toEqual([]);
  });

  it('brings what was binned before back to where its shoot lies by now, and not into the folder', async () => {
    await adopt();
    await whole();
    const quay = (await shoots()).find(({ title }) => title === 'Quay')!.id;
    const { id, name } = await arkiv.frames(quay);
    const gone = id[name.indexOf('OCK_9968')]!;
    const run = async (where: string, asked: object) => {
      const { jobId } = await arkiv.post<{ jobId: string }>(where, asked);
      expect(await arkiv.rest(jobId)).toMatchObject({ job: { state: 'done' }, failures: [] });
    };
    await run('/bin', { deed: 'bin', shootId: quay, frameIds: [gone] });
    await run('/moves', { kind: 'takeIn', shootId: quay, rename: false });
    const { times } = await arkiv.get<{ times: { id: string }[] }>('/bin');
    await run('/bin/back', { binId: times[0]!.id });
    await arkiv.app.get(SidecarsService).flush();
    expect(filesBelow(tree)).toEqual(['Phone/a.jpg', 'Phone/notes.txt']);
    const home = path.join(volumeOf(data, 'working'), '2026/2026-10-16_quay');
    expect(filesBelow(path.join(home, 'originals')).filter((file) => file.startsWith('OCK_9968'))).toEqual([
      ...['OCK_9968.DNG', 'OCK_9968.JPG', 'OCK_9968.xmp'],
    ]);
    sha256sumCheck(home, '.arkiv/manifest.sha256');
    expect(readFileSync(path.join(home, '.arkiv/manifest.sha256'), 'utf8')).toContain('OCK_9968.DNG');
  });

  it('has nothing put into it by a hand-off, a set or an edit: they have a folder of the archive’s own', async () => {
    await adopt();
    await whole();
    const before = outsideManifest(tree);
    const quay = (await shoots()).find(({ title }) => title === 'Quay')!.id;
    const { id, name } = await arkiv.frames(quay);
    await arkiv.mark('verdict', 'undecided', 'keep', ...id);
    const volumeId = await arkiv.volumeId('working');
    const run = async (where: string, asked: object) => {
      const { jobId } = await arkiv.post<{ jobId: string }>(where, asked);
      expect(await arkiv.rest(jobId)).toMatchObject({ job: { state: 'done', filesFailed: 0 } });
    };
    await run(`/shoots/${quay}/handoffs`, { volumeId });
    await run(`/shoots/${quay}/deliveries`, { name: 'Set', volumeId, specs: [SPEC], sheet: false });
    const work = path.join(volumeOf(data, 'working'), '2019/2019-06-01_quay');
    expect(filesBelow(work)).toEqual(
      expect.arrayContaining(['delivery/set.zip', 'selects/OCK_9968.DNG', 'selects/OCK_9970.JPG']),
    );
    // Who edits sees what was decided here, and what other programs say beside the pictures.
    const said = (frame: string) => readFileSync(path.join(work, `selects/${frame}.xmp`), 'utf8');
    for (const frame of name) expect(said(frame)).toContain('<xmpDM:good>True');
    expect(said('OCK_9968')).toContain('steep');
    // An edit that is saved beside them comes back to its frame.
    const { edits } = await arkiv.get<{ edits: string }>(`/shoots/${quay}`);
    expect(edits).toBe('2019/2019-06-01_quay/edits');
    mkdirSync(path.join(work, 'edits'));
    const made = filesBelow(path.join(work, 'delivery/set')).find((file) => file.endsWith('.jpg'))!;
    copyFileSync(path.join(work, 'delivery/set', made), path.join(work, 'edits', `${name[0]}-final.jpg`));
    arkiv.app.get(ReturnsWatch).settles = 0;
    const returns = () => arkiv.get<{ originals: { id: string }[] }[]>(`/shoots/${quay}/returns`);
    await until(async () => {
      await arkiv.app.get(ReturnsWatch).look(quay);
      const [its] = await returns();
      return its?.originals.map((frame) => frame.id).join() === id[0];
    });
    // Nothing came into the tree, and what went out of it is no picture of its own.
    await looked();
    await whole();
    expect(outsideManifest(tree)).toEqual(before);
    expect(await folder()).toMatchObject({ shoots: 2, frames: 3 });
    // The same where the whole drive is adopted.
    const { id: first } = await folder();
    await arkiv.post(`/adopted/${first}/forget`);
    await until(async () => (await rows(`SELECT 1 FROM frame_here`)).length === 0);
    await adopt({ path: volumeOf(data, 'working') });
    await looked();
    expect((await frames()).filter(({ place }) => place.startsWith('2019/'))).toEqual([]);
  });

  it('gets no frames of another shoot, nor of a card, as long as it lies in that folder', async () => {
    const { jobId, shootId: evening } = await arkiv.takeIn();
    await arkiv.rest(jobId);
    await adopt();
    await whole();
    const { id: quay } = (await shoots()).find(({ title }) => title === 'Quay')!;
    const { id } = await arkiv.frames(evening);
    const refused = async (where: string, asked: object) => {
      const { status, body } = await arkiv.ask<{ code: string; next: string }>('POST', where, asked);
      expect([status, body.code]).toEqual([409, 'move.adopted']);
      expect(body.next).toMatch(/Take it in first/);
    };
    const into = { shootId: evening, into: quay, rename: false };
    await refused('/moves', { kind: 'merge', ...into });
    await refused('/moves', { kind: 'arrange', frameIds: [id[0]], ...into });
    await refused('/moves', { kind: 'arrange', frameIds: [id[0]], copies: true, ...into });
    await refused('/intakes', await arkiv.intakeRequest({ shootId: quay, seqStart: 900 }));
    expect((await arkiv.frames(evening)).id).toEqual(id);
  });

  it('may lie on no drive yet, and is refused where it is the archive’s own or adopted already', async () => {
    const outside = path.join(data, 'elsewhere/album');
    mkdirSync(outside, { recursive: true });
    copyFileSync(card('OCK_9970.JPG'), path.join(outside, 'x.jpg'));
    settle(path.join(outside, 'x.jpg'));
    expect(await arkiv.post('/adopted/example', { path: outside, rule: 'top' })).toMatchObject({
      ...{ newDrive: path.join(data, 'elsewhere'), frames: 1, shoots: [{ title: 'album' }] },
    });
    expect(readdirSync(path.join(data, 'elsewhere'))).toEqual(['album']);
    await adopt({ path: outside });
    expect((await frames()).map(({ place }) => place)).toEqual(['album']);
    expect(readdirSync(outside)).toEqual(['x.jpg']);
    const refused = async (at: string, reason: RegExp) => {
      const { status, body } = await arkiv.ask('POST', '/adopted', wish({ path: at }));
      expect([status, body]).toMatchObject([
        409,
        { code: 'adopt.folder', message: expect.stringMatching(reason) },
      ]);
    };
    await refused(outside, /adopted already/);
    await refused('relative', /full path/);
    await refused(path.join(data, 'none'), /no such folder/);
    const { shootId, jobId } = await arkiv.takeIn();
    await arkiv.rest(jobId);
    const [home] = (await rows<{ folders: string }>(`SELECT folders FROM shoot WHERE id = ?`, [shootId])).map(
      ({ folders }) => (JSON.parse(folders) as string[])[0]!,
    );
    await refused(path.join(volumeOf(data, 'working'), home!), /belongs to a shoot/);
    // Above a shoot it is adopted without it.
    const { out } = await arkiv.post<{ out: { archive: number } }>('/adopted/example', {
      ...{ path: volumeOf(data, 'working'), rule: 'each' },
    });
    expect(out.archive).toBeGreaterThan(0);
    expect(existsSync(path.join(tree, '.arkiv'))).toBe(false);
  });
});
