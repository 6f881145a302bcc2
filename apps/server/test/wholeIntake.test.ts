import { execFileSync } from 'node:child_process';
import {
  cpSync,
  readFileSync,
  renameSync,
  rmSync,
  statSync,
  symlinkSync,
  utimesSync,
  writeFileSync,
} from 'node:fs';
import path from 'node:path';
import {
  cardOf,
  dataWithCard,
  filesBelow,
  outsideManifest,
  removeFolder,
  startArkiv,
  volumeOf,
  type TestArkiv,
} from './testArkiv';

interface Card {
  fingerprint: string;
  frames: { key: string; files: { path: string }[]; facts: { capture: { local: string } | null } }[];
}
interface Report {
  files: { from: string; to: string; fate: string; reason: string | null }[];
}

describe('taking in a whole card', () => {
  let arkiv: TestArkiv;
  let data: string;
  let card: Card;

  beforeEach(async () => {
    data = dataWithCard({ until: 'OCK_9977' });
    arkiv = await startArkiv(data);
    card = await arkiv.get<Card>('/readers/slot-1/card');
  });
  afterEach(async () => {
    await arkiv.stop();
    removeFolder(data);
  });

  const done = async (jobId: string) => {
    const report = await arkiv.rest(jobId);
    expect(report.job).toMatchObject({ state: 'done', filesFailed: 0 });
    return arkiv.get<Report>(`/intakes/${jobId}`);
  };
  const fates = ({ files }: Report) =>
    files.reduce<Record<string, number>>((sum, f) => ({ ...sum, [f.fate]: (sum[f.fate] ?? 0) + 1 }), {});
  const known = () => arkiv.get<string[]>('/readers/slot-1/known');
  /** Sidecars follow a moment after the frames. */
  const sidecarOf = async (name: string): Promise<string> => {
    for (let i = 0; i < 200; i++) {
      const file = filesBelow(volumeOf(data, 'backup')).find((f) => path.basename(f) === `${name}.xmp`);
      if (file) return path.join(volumeOf(data, 'backup'), file);
      await new Promise((r) => setTimeout(r, 50));
    }
    throw new Error(`no sidecar of ${name}`);
  };

  it('is shown by names and small pictures before its facts are read', async () => {
    await arkiv.stop();
    removeFolder(data);
    data = dataWithCard({ until: 'OCK_9977' });
    arkiv = await startArkiv(data);
    const listing = await arkiv.get<Card>('/readers/slot-1/listing');
    expect(listing.fingerprint).toBe(card.fingerprint);
    expect(listing.frames.map((f) => f.key).sort()).toEqual(card.frames.map((f) => f.key).sort());
    expect(listing.frames.every((f) => f.facts.capture === null)).toBe(true);
    const path0 = encodeURIComponent(listing.frames[0]!.files.find((f) => f.path.endsWith('.JPG'))!.path);
    const [picture] = await Promise.all([
      fetch(`${arkiv.base}/api/readers/slot-1/picture?size=thumb&card=${listing.fingerprint}&path=${path0}`),
      arkiv.get('/readers/slot-1/card'),
    ]);
    expect([...new Uint8Array(await picture.arrayBuffer()).subarray(0, 2)]).toEqual([0xff, 0xd8]);
  });

  it('is seen whole as the latest arrival, whatever became of its frames', async () => {
    const late = card.frames.slice(5).map((f) => f.key);
    const more = [{ title: 'Curtain call', date: '2026-10-16', client: '', place: '', keys: late }];
    const { jobId, shootId } = await arkiv.takeIn({ more });
    for (const { id } of (await arkiv.get<{ id: string }[]>('/jobs')).filter((j) => j.id !== jobId))
      await done(id);
    await done(jobId);
    const latest = () =>
      arkiv.get<{ card: string; frames: { shoot: string; name: string }[] }>('/arrivals/latest');
    expect((await latest()).frames).toHaveLength(card.frames.length);
    expect(new Set((await latest()).frames.map((f) => f.shoot))).toEqual(
      new Set(['Press night', 'Curtain call']),
    );
    const moved = { kind: 'rename', shootId, pattern: 'x_{seq:2}', rename: true };
    await arkiv.rest((await arkiv.post<{ jobId: string }>('/moves', moved)).jobId);
    expect((await latest()).frames.filter((f) => f.name.startsWith('x_'))).toHaveLength(5);
  });

  describe('that is archived in part', () => {
    it('knows the frames again, under other names too, and copies only what is new', async () => {
      expect(await known()).toEqual([]);
      const first = card.frames.slice(0, 4).map((f) => f.key);
      const rest = card.frames.slice(4).map((f) => f.key);
      const one = await arkiv.takeIn({ leaveOut: rest });
      await done(one.jobId);
      await arkiv.rest(
        (
          await arkiv.post<{ jobId: string }>('/moves', {
            kind: 'rename',
            shootId: one.shootId,
            pattern: 'renamed_{seq:3}',
            rename: true,
          })
        ).jobId,
      );
      expect((await known()).sort()).toEqual([...first].sort());

      const two = await arkiv.takeIn({ title: 'Second half', known: first });
      const report = await done(two.jobId);
      const filesOf = (keys: string[]) =>
        card.frames.filter((f) => keys.includes(f.key)).reduce((sum, f) => sum + f.files.length, 0);
      expect(fates(report)).toMatchObject({ 'already-here': filesOf(first) + 1 });
      expect(report.files.find((f) => f.fate === 'already-here')!.to).toMatch(/renamed_001/);
      // New frames are numbered without a gap, and the next ones carry on after them.
      const { name } = await arkiv.frames(two.shootId);
      expect(name.map((n) => n.slice(-4))).toEqual(rest.map((_, i) => String(i + 1).padStart(4, '0')));
      expect(await arkiv.get(`/shoots/${two.shootId}`)).toMatchObject({ nextSeq: rest.length + 1 });
      // What was left out as archived stands in no way of clearing: it is proven.
      expect(await arkiv.get('/readers/slot-1/clearance')).toMatchObject({ safe: true });
    });

    it('copies a frame that only seemed to be archived', async () => {
      await done((await arkiv.takeIn()).jobId);
      const all = await known();
      expect(all).toHaveLength(card.frames.length);
      // Same body, same moment, same size; one bit is another.
      const [file] = filesBelow(cardOf(data)).filter((f) => f.endsWith('9976.JPG'));
      const full = path.join(cardOf(data), file!);
      const { atime, mtime } = statSync(full);
      const bytes = readFileSync(full);
      bytes[bytes.length - 40]! ^= 1;
      writeFileSync(full, bytes);
      utimesSync(full, atime, mtime);
      const two = await arkiv.takeIn({ title: 'Again', known: await known() });
      const report = await done(two.jobId);
      expect(report.files.filter((f) => f.fate === 'copied').map((f) => f.from)).toEqual([file]);
      expect((await arkiv.frames(two.shootId)).count).toBe(1);
      expect([...outsideManifest(volumeOf(data, 'backup')).values()]).toContain(
        outsideManifest(path.dirname(full)).get(path.basename(full)),
      );
    });

    it('says of a frame with one copy that it is archived, and that the card is not safe to clear yet', async () => {
      const one = await arkiv.takeIn({ targets: [await arkiv.volumeId('working')] });
      await done(one.jobId);
      const two = await arkiv.takeIn({ title: 'Again', known: await known() });
      const report = await arkiv.rest(two.jobId);
      expect(report.job).toMatchObject({ state: 'done', filesFailed: 0 });
      const pictures = (await arkiv.get<Report>(`/intakes/${two.jobId}`)).files.filter((f) =>
        /DCIM/.test(f.from),
      );
      expect(new Set(pictures.map((f) => f.fate))).toEqual(new Set(['already-here']));
      expect(await arkiv.get('/readers/slot-1/clearance')).toMatchObject({ safe: false });
      await arkiv.rest((await arkiv.post<{ jobId: string }>('/copies/missing', {})).jobId);
      expect(await arkiv.get('/readers/slot-1/clearance')).toMatchObject({ safe: true });
    });

    it('writes nothing while it compares', async () => {
      await done((await arkiv.takeIn()).jobId);
      const before = filesBelow(volumeOf(data, 'working'));
      const two = await arkiv.takeIn({ title: 'Again', known: await known() });
      await done(two.jobId);
      expect(filesBelow(volumeOf(data, 'working')).filter((f) => !f.includes('.xmp'))).toEqual(
        before.filter((f) => !f.includes('.xmp')),
      );
      expect(await arkiv.get<object[]>('/shoots')).toHaveLength(1);
    });

    it('does not know frames of another body with the same names and times', async () => {
      await done((await arkiv.takeIn()).jobId);
      const other = path.join(cardOf(data), 'DCIM/100OCKHM');
      for (const file of filesBelow(other)
        .filter((f) => f.endsWith('.JPG'))
        .slice(0, 2)) {
        const { atime, mtime } = statSync(path.join(other, file));
        execFileSync('exiftool', [
          '-overwrite_original',
          '-q',
          '-SerialNumber=9999',
          '-BodySerialNumber=9999',
          path.join(other, file),
        ]);
        utimesSync(path.join(other, file), atime, mtime);
      }
      expect(await known()).toHaveLength(card.frames.length - 2);
    });
  });

  describe('into several shoots', () => {
    it('parts it by choice; each has its folders, its numbers and its receipt', async () => {
      const late = card.frames.slice(5).map((f) => f.key);
      const { shootId, others, jobId } = (await arkiv.takeIn({
        more: [{ title: 'Curtain call', date: '2026-10-16', client: '', place: '', keys: late }],
      })) as unknown as { jobId: string; shootId: string; others: { jobId: string; shootId: string }[] };
      expect(others).toHaveLength(1);
      await done(jobId);
      await done(others[0]!.jobId);
      expect((await arkiv.frames(shootId)).count).toBe(5);
      const second = await arkiv.frames(others[0]!.shootId);
      expect(second.count).toBe(card.frames.length - 5);
      expect(second.name[0]).toBe('curtain-call_20261016_0001');
      const sums = new Set(outsideManifest(volumeOf(data, 'working')).values());
      expect([...outsideManifest(cardOf(data)).values()].filter((sum) => !sums.has(sum))).toEqual([]);
      const receipts = filesBelow(volumeOf(data, 'backup')).filter((f) => /receipts\/.*\.sha256$/.test(f));
      expect(receipts).toHaveLength(2);
      expect(await arkiv.get('/readers/slot-1/clearance')).toMatchObject({ safe: true });
    });

    it('begins none of them when one cannot be planned', async () => {
      const request = await arkiv.intakeRequest({
        more: [{ title: '///', date: '2026-10-16', client: '', place: '', keys: [card.frames[0]!.key] }],
      });
      expect(await arkiv.ask('POST', '/intakes', request)).toMatchObject({
        status: 422,
        body: { code: 'plan.problems' },
      });
      expect(await arkiv.get('/shoots')).toEqual([]);
      expect(await arkiv.get('/jobs')).toEqual([]);
    });
  });

  describe('with a metadata template', () => {
    const template = {
      mode: 'replace',
      fields: {
        creator: 'R. Ashdown',
        rights: '© {capture:yyyy} R. Ashdown, {place}',
        credit: 'Ashdown Pictures',
        usageTerms: 'Press use only',
        email: 'studio@example.org',
        website: 'https://example.org',
        headline: '{shoot}: frame {seq:3}',
        city: 'Millbrook',
        country: 'Nowhere',
      },
      keywords: 'theatre, puppets, Theatre, {client}',
    };

    it('stamps every frame’s sidecar, as the metadata tool reads it, and leaves originals as they were', async () => {
      const { jobId, shootId } = await arkiv.takeIn({ template });
      await done(jobId);
      const { name } = await arkiv.frames(shootId);
      const [tags] = JSON.parse(
        execFileSync('exiftool', ['-j', '-struct', '-XMP:all', await sidecarOf(name[2]!)], {
          encoding: 'utf8',
        }),
      ) as Record<string, unknown>[];
      expect(tags).toMatchObject({
        Creator: ['R. Ashdown'],
        Rights: '© 2026 R. Ashdown, Mill Stage',
        Credit: 'Ashdown Pictures',
        UsageTerms: 'Press use only',
        Headline: 'Press night: frame 003',
        City: 'Millbrook',
        Country: 'Nowhere',
        Subject: ['theatre', 'puppets', 'Lantern Row'],
        CreatorContactInfo: { CiEmailWork: 'studio@example.org', CiUrlWork: 'https://example.org' },
      });
      const sums = new Set(outsideManifest(volumeOf(data, 'working')).values());
      expect([...outsideManifest(cardOf(data)).values()].filter((sum) => !sums.has(sum))).toEqual([]);
    });

    it('fills only what the camera left empty when asked to', async () => {
      const [jpeg] = filesBelow(cardOf(data)).filter((f) => f.endsWith('9972.JPG'));
      execFileSync('exiftool', [
        '-overwrite_original',
        '-q',
        '-Artist=Second Body',
        path.join(cardOf(data), jpeg!),
      ]);
      const { jobId, shootId } = await arkiv.takeIn({ template: { ...template, mode: 'fill' } });
      await done(jobId);
      const { name } = await arkiv.frames(shootId);
      const creators = await Promise.all(
        [3, 4].map(async (i) =>
          execFileSync('exiftool', ['-s3', '-XMP-dc:Creator', await sidecarOf(name[i]!)], {
            encoding: 'utf8',
          }).trim(),
        ),
      );
      expect(creators).toContain('R. Ashdown');
      const all = await Promise.all(
        name.map(async (n) =>
          execFileSync('exiftool', ['-s3', '-XMP-dc:Creator', await sidecarOf(n)], {
            encoding: 'utf8',
          }).trim(),
        ),
      );
      expect(all.filter((creator) => creator === 'Second Body')).toHaveLength(1);
    });

    it('is refused with an unknown field before anything happens', async () => {
      const request = await arkiv.intakeRequest({
        template: { ...template, fields: { headline: '{shot}' } },
      });
      expect(await arkiv.ask('POST', '/intakes', request)).toMatchObject({
        status: 400,
        body: { message: expect.stringMatching(/“shot”, which does not exist/) as string },
      });
    });
  });

  it('keeps cards’ frames in a folder for each body where the folder plan asks for it', async () => {
    const { folders } = await arkiv.get<{ folders: object }>('/settings');
    const { jobId, shootId } = await arkiv.takeIn({ folders: { ...folders, below: '{card}/{body}' } });
    await done(jobId);
    const { name } = await arkiv.frames(shootId);
    expect(await sidecarOf(name[0]!)).toMatch(/originals\/card-a\/[^/]+\/press-night_20261016_0001\.xmp$/);
    expect(filesBelow(path.dirname(await sidecarOf(name[0]!))).some((f) => f === `${name[0]}.dng`)).toBe(
      true,
    );
  });

  it('corrects a clock afterwards: the order changes, names and the camera’s times stay', async () => {
    const { jobId, shootId } = await arkiv.takeIn();
    await done(jobId);
    const before = await arkiv.columns(shootId);
    const body = before.body![0] as string;
    const answer = await arkiv.ask('PUT', `/shoots/${shootId}/clocks`, {
      corrections: [{ body, millis: -207_000 }],
    });
    expect(answer.status).toBe(204);
    const columns = await arkiv.columns(shootId);
    expect(columns.name).toEqual(before.name);
    expect(columns.local).toEqual(before.local);
    expect(columns.instant).toEqual(before.instant!.map((t) => (t as number) - 207_000));
    // Said twice, it holds once.
    await arkiv.ask('PUT', `/shoots/${shootId}/clocks`, { corrections: [{ body, millis: -207_000 }] });
    expect((await arkiv.columns(shootId)).instant).toEqual(columns.instant);
    const folder = path.join(volumeOf(data, 'working'), '2026/2026-10-16_press-night/.arkiv/shoot.json');
    expect(JSON.parse(readFileSync(folder, 'utf8'))).toMatchObject({ clocks: [{ body, millis: -207_000 }] });
  });

  it('lets the lane go first that is put first', async () => {
    const second = path.join(data, 'stand-ins/cards/card-b');
    cpSync(cardOf(data), second, { recursive: true, preserveTimestamps: true });
    renameSync(path.join(second, 'DCIM/100OCKHM'), path.join(second, 'DCIM/101OCKHM'));
    rmSync(path.join(data, 'stand-ins/reader/slot-2'), { force: true });
    symlinkSync(second, path.join(data, 'stand-ins/reader/slot-2'));
    for (const slot of ['slot-1', 'slot-2'])
      await arkiv.ask('PUT', `/stand-ins/slots/${slot}`, { bytesPerSecond: 400_000 });
    const request = await arkiv.intakeRequest();
    const other = await arkiv.get<Card>('/readers/slot-2/card');
    const one = await arkiv.post<{ jobId: string }>('/intakes', request);
    const two = await arkiv.post<{ jobId: string }>('/intakes', {
      ...request,
      readerId: 'slot-2',
      fingerprint: other.fingerprint,
      title: 'First out',
    });
    await arkiv.post(`/jobs/${two.jobId}/first`);
    await arkiv.rest(two.jobId);
    const { job } = await arkiv.get<{ job: { filesDone: number; filesTotal: number; state: string } }>(
      `/jobs/${one.jobId}`,
    );
    expect(job.filesDone).toBeLessThan(job.filesTotal);
    await arkiv.ask('PUT', '/stand-ins/slots/slot-1', { bytesPerSecond: null });
    await done(one.jobId);
  });
});
