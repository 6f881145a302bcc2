import path from 'node:path';
import { readFileSync } from 'node:fs';
import { takesOf, type GroupedFrame } from '@arkiv/core';
import { ulid } from 'ulid';
import { UnitOfWork } from '../src/db/unitOfWork';
import { Happenings, type DomainEvents } from '../src/events/domainEvents';
import { FeaturesService } from '../src/features/features.service';
import { ClosenessService } from '../src/takes/closeness.service';
import {
  dataWithCard,
  filesBelow,
  removeFolder,
  startArkiv,
  until,
  volumeOf,
  type TestArkiv,
} from './testArkiv';

type Row = Record<string, string | number | null>;

describe('takes of a shoot', () => {
  let arkiv: TestArkiv;
  let data: string;
  let shootId: string;
  const told: DomainEvents['compared'][] = [];

  beforeAll(async () => {
    // An empty stage in three exposures, two puppets in a burst, and closer in another one 21 seconds later.
    data = dataWithCard({ until: 'OCK_9978' });
    arkiv = await startArkiv(data, undefined, { looks: true });
    arkiv.app.get(Happenings).on('compared', (event) => void told.push(event));
    const started = await arkiv.takeIn();
    ({ shootId } = started);
    await arkiv.rest(started.jobId);
    await until(async () => (await rows()).slice(1).every(({ close }) => close !== null));
  });
  afterAll(async () => {
    await arkiv.stop();
    removeFolder(data);
  });

  const rows = async (): Promise<Row[]> => {
    const columns = await arkiv.columns(shootId);
    return columns.id!.map((_, i) =>
      Object.fromEntries(Object.entries(columns).map(([fact, values]) => [fact, values[i] ?? null])),
    );
  };
  const say = (subject: string, to: string) => {
    const mark = {
      subject,
      kind: 'take',
      from: null,
      to,
      at: Date.now(),
      window: 'w',
      pass: null,
      undoes: null,
    };
    return arkiv.post('/marks', { operations: [{ ...mark, id: ulid(), group: ulid() }] });
  };
  const takes = async () =>
    takesOf((await rows()).map((row) => ({ ...row, body: row.serial }) as unknown as GroupedFrame));

  it('are compared without asking a file of what is up to date, nor of what nobody has looked at', async () => {
    const look = jest.spyOn(arkiv.app.get(FeaturesService), 'look');
    const closeness = arkiv.app.get(ClosenessService);
    expect(await closeness.compareAll(shootId)).toBe(0);
    expect(look).not.toHaveBeenCalled();
    const before = (await rows()).map(({ close }) => close);
    await arkiv.app.get(UnitOfWork).write(async (manager) => {
      await manager.query(`DELETE FROM picture_hash`);
      await manager.query(`UPDATE frame SET "closeTo" = NULL, close = NULL`);
    });
    expect([await closeness.compareAll(shootId), look.mock.calls.length]).toEqual([before.length, 0]);
    // Then they are looked at, and are what they were.
    await until(
      async () => JSON.stringify((await rows()).map(({ close }) => close)) === JSON.stringify(before),
    );
    expect(look).toHaveBeenCalled();
    look.mockRestore();
  });

  it('are told apart by what their frames look like: a bracket of the empty stage, and the puppets', async () => {
    const all = await rows();
    expect(all[0]).toMatchObject({ close: null, dx: null, dy: null });
    const [stage, puppets, ...rest] = await takes();
    expect(stage).toMatchObject({ kind: 'bracket', ids: all.slice(0, 3).map(({ id }) => id) });
    expect(puppets!.ids.length).toBeGreaterThanOrEqual(4);
    expect(new Set([...puppets!.ids, ...rest.flatMap(({ ids }) => ids)])).toEqual(
      new Set(all.slice(3).map(({ id }) => id)),
    );
  });

  it('are told to windows as they are found', async () => {
    const heard = new Map(told.flatMap(({ frames }) => frames.map(([id, close]) => [id, close])));
    for (const { id, close } of await rows()) expect(heard.get(String(id))).toBe(close);
    expect(new Set(told.map((event) => event.shootId))).toEqual(new Set([shootId]));
  });

  it('are compared again when a shoot is opened in which another frame stands before one now, and nothing else is', async () => {
    const before = await rows();
    told.length = 0;
    await arkiv.app
      .get(UnitOfWork)
      .write((manager) =>
        manager.query(`UPDATE frame SET "close" = NULL, "closeTo" = '4.1.1 another its' WHERE id = ?`, [
          before[4]!.id,
        ]),
      );
    await rows();
    await until(() => told.length > 0);
    expect(told.flatMap(({ frames }) => frames)).toEqual([
      [before[4]!.id, before[4]!.close, before[4]!.dx, before[4]!.dy],
    ]);
  });

  it('keep what a person said of them: in the sidecar, and through a restart', async () => {
    const { id } = (await rows())[5]!;
    await say(String(id), 'cut');
    await until(() =>
      filesBelow(volumeOf(data, 'working')).some(
        (file) =>
          file.endsWith('.xmp') &&
          /arkiv:take(?:>|=")cut/.test(readFileSync(path.join(volumeOf(data, 'working'), file), 'utf8')),
      ),
    );
    await arkiv.stop();
    arkiv = await startArkiv(data, undefined, { looks: true });
    expect((await rows())[5]).toMatchObject({ id, take: 'cut' });
    expect((await takes()).map(({ ids }) => ids[0])).toContain(id);
  });

  it('refuse words that say nothing of a take', async () => {
    const { id } = (await rows())[6]!;
    await expect(say(String(id), 'somewhere else')).rejects.toThrow();
  });
});
