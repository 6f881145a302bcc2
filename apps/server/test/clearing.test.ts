import { createHash } from 'node:crypto';
import { readFileSync, statSync, utimesSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { Reading, UnitOfWork } from '../src/db/unitOfWork';
import { Arrival, ArrivalFile } from '../src/ledger/arrival.entity';
import { ArrivalLedger } from '../src/ledger/arrivalLedger';
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

  it('is proven by the arrival that brought its files, however often a card of that name came since', async () => {
    const { jobId } = await arkiv.takeIn();
    await arkiv.rest(jobId);
    const safe = await arkiv.get<object>('/readers/slot-1/clearance');
    expect(safe).toMatchObject({ safe: true, proven: outsideManifest(cardOf(data)).size });
    // A body that begins at 0001 on each card it has formatted: the same paths for years, of other files.
    const reading = arkiv.app.get(Reading);
    const first = await reading.manager.findOneByOrFail(Arrival, { id: jobId });
    const files = await reading.manager.findBy(ArrivalFile, { arrivalId: jobId });
    const ledger = arkiv.app.get(ArrivalLedger);
    for (let n = 1; n <= 30; n++)
      await arkiv.app.get(UnitOfWork).write(async (manager) => {
        const its = {
          id: `${jobId.slice(0, -2)}${String(n).padStart(2, '0')}`,
          at: first.at + n * 86_400_000,
        };
        await ledger.open(manager, { ...first, ...its, visit: its.id, fingerprint: `${n}`.repeat(8) });
        const other = (sum: string) => createHash('sha256').update(`${n} ${sum}`).digest('hex');
        const later = files.map((file) => ({
          ...file,
          arrivalId: its.id,
          frameId: null,
          size: file.size + n,
        }));
        await ledger.add(
          manager,
          later.map((file) => ({ ...file, sha256: file.sha256 && other(file.sha256) })),
        );
      });
    expect(await arkiv.get('/readers/slot-1/clearance')).toEqual(safe);
    // What changed on the card since it was taken in is told as that, not as never seen.
    const [file] = filesBelow(cardOf(data)).filter((f) => f.endsWith('.JPG'));
    writeFileSync(path.join(cardOf(data), file!), 'another');
    expect(await arkiv.get('/readers/slot-1/clearance')).toMatchObject({
      safe: false,
      reasons: [expect.stringMatching(/changed/)],
    });
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
