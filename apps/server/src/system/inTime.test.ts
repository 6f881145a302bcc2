import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { RestingPool } from './restingPool';

/** Milliseconds that an answer may take, and that the thread takes to start. */
const [LIMIT, START] = [1000, 1500];

describe('a thread that has a time for its answer', () => {
  let folder: string;
  let threads: RestingPool;

  beforeEach(() => {
    folder = mkdtempSync(path.join(os.tmpdir(), 'arkiv-in-time-'));
    const script = path.join(folder, 'slow.cjs');
    writeFileSync(
      script,
      `for (const until = Date.now() + ${START}; Date.now() < until;);
       const { answer } = require(${JSON.stringify(require.resolve('@arkiv/server/dist/system/inTime.js'))});
       answer({ quick: (n) => n + 1, never: () => { for (;;); } });`,
    );
    threads = new RestingPool(script, { maxWorkers: 1 }, 60_000);
  });
  afterEach(async () => {
    await threads.end(true);
    rmSync(folder, { recursive: true });
  });

  it('has all of it, however long it took to start', async () => {
    expect(await threads.run('quick', [1], { limit: LIMIT })).toBe(2);
  });

  it('is ended where it takes longer, and another answers the next', async () => {
    await expect(threads.run('never', [], { limit: LIMIT })).rejects.toThrow(/timed out/);
    expect(await threads.run('quick', [2], { limit: LIMIT })).toBe(3);
  });
});
