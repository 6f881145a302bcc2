import { existsSync, readFileSync } from 'node:fs';
import path from 'node:path';
import type { Operation } from '@arkiv/core';
import { ulid } from 'ulid';
import { DueTexts } from '../src/frames/dueTexts.service';
import { SidecarsService } from '../src/sidecars/sidecars.service';
import { removeFolder, takenIn, sha256sumCheck, volumeOf, type TestArkiv } from './testArkiv';

const FOLDER = '2026/2026-10-16_press-night';

describe('the journal', () => {
  let arkiv: TestArkiv;
  let data: string;
  let shootId: string;
  let ids: string[];

  beforeEach(async () => {
    ({ arkiv, data, shootId } = await takenIn('OCK_9972'));
    ({ id: ids } = await arkiv.frames(shootId));
    await flush();
  });
  afterEach(async () => {
    await arkiv.stop();
    removeFolder(data);
  });

  const flush = async () => {
    await arkiv.app.get(SidecarsService).flush();
    await arkiv.app.get(DueTexts).flush();
  };
  const operation = (i: number, from: number, to: number, group = ulid()) => ({
    ...{ id: ulid(), subject: ids[i]!, kind: 'stars', from, to, at: Date.now(), group, window: 'w' },
  });
  const page = (before?: number) =>
    arkiv.get<{ operations: Operation[]; before: number | null }>(
      `/shoots/${shootId}/history${before === undefined ? '' : `?before=${before}`}`,
    );
  const own = (volume: 'working' | 'backup', name: string) =>
    path.join(volumeOf(data, volume), FOLDER, '.arkiv', name);
  const written = (volume: 'working' | 'backup') =>
    readFileSync(own(volume, 'history.jsonl'), 'utf8')
      .trim()
      .split('\n')
      .map((line) => JSON.parse(line) as Operation);
  const drive = (state: string) => arkiv.ask('PUT', '/stand-ins/drives/backup', { state });

  it('tells what was decided, by whom, and stands beside the pictures on each drive', async () => {
    const first = operation(0, 0, 4);
    await arkiv.post('/marks', { operations: [first, operation(1, 0, 2, first.group)] });
    const { id: undoing } = operation(0, 0, 0);
    await arkiv.post('/marks', {
      operations: [{ ...operation(0, 4, 0, undoing), undoes: first.group, pass: 'p1' }],
    });
    const { operations, before } = await page();
    expect(before).toBeNull();
    expect(operations).toMatchObject([
      { ...first, by: '', pass: null, undoes: null },
      { subject: ids[1], to: 2 },
      { subject: ids[0], from: 4, to: 0, group: undoing, undoes: first.group, pass: 'p1' },
    ]);
    await flush();
    // With their places in the journal of the whole archive, by which it is made anew.
    const numbered = operations.map((operation, i) => ({ ...operation, number: i + 1 }));
    expect(written('working')).toEqual(numbered);
    expect(written('backup')).toEqual(numbered);
  });

  it('takes nobody at his word who says that he is another', async () => {
    const { status } = await arkiv.ask('POST', '/marks', {
      operations: [{ ...operation(0, 0, 1), by: 'program' }],
    });
    expect(status).toBe(400);
  });

  it('is read back page by page, without a gap and without a limit', async () => {
    const all: string[] = [];
    for (let part = 0; part < 3; part++) {
      const operations = Array.from({ length: 1500 }, (_, i) => operation(i % 2, i % 6, (i + 1) % 6));
      all.push(...operations.map(({ id }) => id));
      await arkiv.post('/marks', { operations });
    }
    const found: string[] = [];
    for (let before: number | null | undefined; before !== null;) {
      const { operations, before: next } = await page(before);
      found.unshift(...operations.map(({ id }) => id));
      before = next;
    }
    expect(found).toEqual(all);
  });

  it('and what a shoot says of itself reach a drive that was away when it is back', async () => {
    await drive('unplugged');
    await arkiv.post('/marks', { operations: [operation(0, 0, 5)] });
    const columns = await arkiv.columns(shootId);
    const { status } = await arkiv.ask('PUT', `/shoots/${shootId}/clocks`, {
      corrections: [{ body: columns.body![0], millis: 3_600_000 }],
    });
    expect(status).toBe(204);
    await flush();
    expect(written('working')).toHaveLength(1);
    await drive('well');
    await flush();
    expect(written('backup')).toEqual(written('working'));
    const facts = (volume: 'working' | 'backup') =>
      JSON.parse(readFileSync(own(volume, 'shoot.json'), 'utf8')) as object;
    expect(facts('backup')).toMatchObject({ clocks: [{ body: columns.body![0], millis: 3_600_000 }] });
    expect(facts('backup')).toEqual(facts('working'));
    sha256sumCheck(path.join(volumeOf(data, 'backup'), FOLDER), '.arkiv/manifest.sha256');
    // Nothing is owed any more, and nothing is made where nothing of the shoot lies.
    await flush();
    expect(existsSync(path.join(volumeOf(data, 'edit'), FOLDER, '.arkiv'))).toBe(false);
  });
});
