import { readFileSync, statSync, utimesSync, writeFileSync } from 'node:fs';
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

describe('clearing a card', () => {
  let arkiv: TestArkiv;
  let data: string;

  beforeEach(async () => {
    data = dataWithCard({ until: 'OCK_9973' });
    arkiv = await startArkiv(data);
  });
  afterEach(async () => {
    await arkiv.stop();
    removeFolder(data);
  });

  const clear = async () => {
    const { fingerprint } = await arkiv.get<{ fingerprint: string }>('/readers/slot-1/card');
    const { jobId } = await arkiv.post<{ jobId: string }>('/readers/slot-1/clear', { fingerprint });
    return arkiv.rest(jobId);
  };
  /** Another content of the same size, at the same time: only reading it tells. */
  const flipBit = (file: string) => {
    const { atime, mtime } = statSync(file);
    const bytes = readFileSync(file);
    bytes[bytes.length >> 1]! ^= 1;
    writeFileSync(file, bytes);
    utimesSync(file, atime, mtime);
  };

  it('deletes everything that lies twice, proven again', async () => {
    const card = outsideManifest(cardOf(data));
    await arkiv.rest((await arkiv.takeIn()).jobId);
    const report = await clear();
    expect(report.job).toMatchObject({ state: 'done', filesDone: card.size, filesFailed: 0, reason: null });
    expect(filesBelow(cardOf(data))).toEqual([]);
    for (const name of ['working', 'backup'] as const) {
      const kept = new Set(outsideManifest(volumeOf(data, name)).values());
      expect([...card.values()].filter((sum) => !kept.has(sum))).toEqual([]);
    }
  });

  it('leaves what was left out, and says so', async () => {
    const { frames } = await arkiv.get<{ frames: { key: string; files: { path: string }[] }[] }>(
      '/readers/slot-1/card',
    );
    const stays = frames[2]!;
    await arkiv.rest((await arkiv.takeIn({ leaveOut: [stays.key] })).jobId);
    const report = await clear();
    expect(report.job.reason).toBe(
      `${stays.files.length} of ${filesBelow(cardOf(data)).length + report.job.filesTotal - stays.files.length} files stay on the card.`,
    );
    expect(filesBelow(cardOf(data))).toEqual(stays.files.map((f) => f.path).sort());
    expect(report.failures[0]!.reason).toMatch(/stays on the card: 0 of 2 copies prove good/);
  });

  it('leaves a file whose content is another than the one that was copied', async () => {
    await arkiv.rest((await arkiv.takeIn()).jobId);
    const [file] = filesBelow(cardOf(data)).filter((f) => f.endsWith('.JPG'));
    flipBit(path.join(cardOf(data), file!));
    await clear();
    expect(filesBelow(cardOf(data))).toEqual([file]);
  });

  it('leaves a file one of whose copies has gone bad since', async () => {
    await arkiv.rest((await arkiv.takeIn()).jobId);
    const copies = filesBelow(volumeOf(data, 'backup')).filter((f) => f.endsWith('_0001.jpg'));
    flipBit(path.join(volumeOf(data, 'backup'), copies[0]!));
    const report = await clear();
    expect(filesBelow(cardOf(data))).toHaveLength(1);
    expect(report.failures[0]!.reason).toMatch(/1 of 2 copies prove good.*“Backup drive” has changed/);
  });

  it('leaves everything when there is one copy and two are asked for', async () => {
    const before = filesBelow(cardOf(data));
    await arkiv.rest((await arkiv.takeIn({ targets: [await arkiv.volumeId('working')] })).jobId);
    expect((await clear()).job.reason).toBe(`${before.length} of ${before.length} files stay on the card.`);
    expect(filesBelow(cardOf(data))).toEqual(before);
  });

  it('never takes the archive itself for a card', async () => {
    await arkiv.rest((await arkiv.takeIn()).jobId);
    const root = path.join(volumeOf(data, 'working'), '2026');
    const reader = await arkiv.post<{ id: string }>('/readers', { root, name: 'Own archive' });
    const { fingerprint } = await arkiv.get<{ fingerprint: string }>(`/readers/${reader.id}/card`);
    const before = filesBelow(root).filter((f) => !f.includes('.xmp'));
    expect(await arkiv.ask('POST', `/readers/${reader.id}/clear`, { fingerprint })).toMatchObject({
      status: 409,
      body: { code: 'card.archive' },
    });
    expect(filesBelow(root).filter((f) => !f.includes('.xmp'))).toEqual(before);
  });

  it('is refused for another card than the one that was looked at, and while a copy is made', async () => {
    const request = await arkiv.intakeRequest();
    expect(await arkiv.ask('POST', '/readers/slot-1/clear', { fingerprint: '0'.repeat(32) })).toMatchObject({
      status: 409,
      body: { code: 'card.other' },
    });
    await arkiv.ask('PUT', '/stand-ins/slots/slot-1', { bytesPerSecond: 20_000 });
    const { jobId } = await arkiv.post<{ jobId: string }>('/intakes', request);
    const fingerprint = request.fingerprint;
    expect(await arkiv.ask('POST', '/readers/slot-1/clear', { fingerprint })).toMatchObject({
      status: 409,
      body: { code: 'card.busy' },
    });
    await arkiv.post(`/jobs/${jobId}/cancel`);
  });
});
