import { execFileSync } from 'node:child_process';
import { existsSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { ended, startServer } from './serverProcess';
import {
  cardOf,
  dataWithCard,
  filesBelow,
  outsideManifest,
  removeFolder,
  sha256sumCheck,
  until,
  volumeOf,
} from './testArkiv';

const FOLDER = '2026/2026-10-16_press-night';

describe('a server that is killed', () => {
  let data: string;
  beforeAll(() => {
    data = dataWithCard();
  });
  afterAll(() => removeFolder(data));

  it('leaves no process behind that goes on by itself', async () => {
    // Of a clip its tool is asked.
    writeFileSync(path.join(cardOf(data), 'DCIM/100OCKHM/OCK_9999.MOV'), Buffer.alloc(4096, 7));
    const { process: server, client } = await startServer(data);
    await client.get('/readers/slot-1/card');
    const own = execFileSync('ps', ['-o', 'pid=,args=', '--ppid', String(server.pid)], { encoding: 'utf8' });
    const tools = [...own.matchAll(/^\s*(\d+) .*stay_open/gm)].map(([, pid]) => pid!);
    expect(tools.length).toBeGreaterThan(0);
    server.kill('SIGKILL');
    await ended(server);
    await until(() => tools.every((pid) => !existsSync(`/proc/${pid}`)));
    rmSync(path.join(cardOf(data), 'DCIM/100OCKHM/OCK_9999.MOV'));
  });

  it('in mid-intake loses nothing, leaves nothing half-written, and ends the work on its next start', async () => {
    const oracle = outsideManifest(cardOf(data));
    const wanted = new Set(oracle.values());
    let { process: server, client } = await startServer(data);
    const { jobId, shootId } = await client.takeIn();
    const filesAtKill: number[] = [];
    // Killed several times on the way, each time a little further on.
    for (const share of [0.05, 0.3, 0.6]) {
      for (;;) {
        const { job } = await client.get<{ job: { filesDone: number; filesTotal: number } }>(
          `/jobs/${jobId}`,
        );
        if (job.filesDone >= job.filesTotal * share) {
          filesAtKill.push(job.filesDone);
          break;
        }
      }
      server.kill('SIGKILL');
      await ended(server);
      // Whatever stands under a final name now is whole: it is one of the card's files.
      for (const volume of ['working', 'backup'] as const) {
        const there = outsideManifest(path.join(volumeOf(data, volume), FOLDER, 'originals'));
        for (const [name, sha] of there)
          if (!name.endsWith('.part') && !name.endsWith('.xmp')) expect(wanted).toContain(sha);
      }
      ({ process: server, client } = await startServer(data));
    }
    expect(filesAtKill[0]).toBeLessThan(oracle.size);
    expect((await client.rest(jobId)).job).toMatchObject({
      state: 'done',
      filesFailed: 0,
      filesDone: oracle.size,
    });
    expect((await client.frames(shootId)).count).toBe(57);
    expect(await client.get('/readers/slot-1/clearance')).toMatchObject({ safe: true });
    server.kill('SIGTERM');
    await ended(server);
    for (const volume of ['working', 'backup'] as const) {
      const folder = path.join(volumeOf(data, volume), FOLDER);
      const copies = outsideManifest(path.join(folder, 'originals'));
      expect(
        [...copies]
          .filter(([name]) => !name.endsWith('.xmp'))
          .map(([, sha]) => sha)
          .sort(),
      ).toEqual([...oracle.values()].sort());
      const receipts = filesBelow(path.join(folder, '.arkiv/receipts')).filter((f) => f.endsWith('.sha256'));
      expect(receipts).toHaveLength(1);
      sha256sumCheck(folder, `.arkiv/receipts/${receipts[0]}`);
      sha256sumCheck(folder, '.arkiv/manifest.sha256');
    }
    expect(filesBelow(path.join(data, 'stand-ins/volumes')).filter((f) => f.endsWith('.part'))).toEqual([]);
    expect(outsideManifest(cardOf(data))).toEqual(oracle);
  });

  it('while frames are copied makes each of them once, whole and on every drive', async () => {
    const wanted = new Set(outsideManifest(cardOf(data)).values());
    let { process: server, client } = await startServer(data);
    const [shoot] = await client.get<{ id: string }[]>('/shoots');
    const shootId = shoot!.id;
    const { id: all, name } = await client.frames(shootId);
    const frameIds = all.slice(0, 20);
    const asked = { kind: 'arrange', rename: false, shootId, frameIds, below: 'spare', copies: true };
    const { jobId } = await client.post<{ jobId: string }>('/moves', asked);
    for (const share of [0.1, 0.5]) {
      for (;;) {
        const { job } = await client.get<{ job: { filesDone: number; filesTotal: number } }>(
          `/jobs/${jobId}`,
        );
        if (job.filesDone >= job.filesTotal * share) break;
      }
      server.kill('SIGKILL');
      await ended(server);
      for (const volume of ['working', 'backup'] as const)
        for (const [name, sha] of outsideManifest(path.join(volumeOf(data, volume), FOLDER, 'originals')))
          if (!name.endsWith('.part') && !name.endsWith('.xmp')) expect(wanted).toContain(sha);
      ({ process: server, client } = await startServer(data));
    }
    expect((await client.rest(jobId)).job).toMatchObject({ state: 'done', filesFailed: 0, reason: null });
    expect((await client.frames(shootId)).count).toBe(all.length + frameIds.length);
    server.kill('SIGTERM');
    await ended(server);
    for (const volume of ['working', 'backup'] as const) {
      const files = [...outsideManifest(path.join(volumeOf(data, volume), FOLDER, 'originals')).keys()];
      expect(files.filter((file) => file.endsWith('.part'))).toEqual([]);
      const its = files.filter((file) => !file.endsWith('.xmp'));
      const spare = its
        .filter((file) => file.startsWith('spare/'))
        .map((file) => file.slice('spare/'.length));
      const first = its.filter((file) => name.slice(0, 20).some((one) => file.startsWith(`${one}.`)));
      expect(spare.sort()).toEqual(first.sort());
    }
  });
});
