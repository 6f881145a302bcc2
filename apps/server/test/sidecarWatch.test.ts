import { readFileSync, renameSync, utimesSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { readSidecar, writeSidecar, type SidecarModel } from '@arkiv/core';
import { ulid } from 'ulid';
import { Reading, UnitOfWork } from '../src/db/unitOfWork';
import { SidecarsService } from '../src/sidecars/sidecars.service';
import { SidecarWatch } from '../src/sidecars/sidecarWatch.service';
import { removeFolder, takenIn, startArkiv, volumeOf, type TestArkiv, until } from './testArkiv';

const FOLDER = '2026/2026-10-16_press-night';
const LONG_AGO = Date.parse('2020-01-01');

describe('what other programs write into sidecars', () => {
  let arkiv: TestArkiv;
  let data: string;
  let shootId: string;
  let ids: string[];
  let names: string[];

  beforeEach(async () => {
    ({ arkiv, data, shootId } = await takenIn('OCK_9972'));
    ({ id: ids, name: names } = await arkiv.frames(shootId));
    await arkiv.app.get(SidecarsService).flush();
    await arkiv.app.get(SidecarWatch).settled();
  });
  afterEach(async () => {
    await arkiv.stop();
    removeFolder(data);
  });

  const file = (volume: 'working' | 'backup', i: number) =>
    path.join(volumeOf(data, volume), FOLDER, 'originals', `${names[i]}.xmp`);
  const inside = (volume: 'working' | 'backup', i: number): SidecarModel => {
    const read = readSidecar(readFileSync(file(volume, i), 'utf8'));
    if (!read.ok) throw new Error(read.reason);
    return read.model;
  };
  /** As editors save: a new file that takes the old one's name, or the old one written over. */
  const change = (i: number, to: Partial<SidecarModel>, how: 'replace' | 'over' = 'replace') => {
    const there = readFileSync(file('working', i), 'utf8');
    const read = readSidecar(there);
    if (!read.ok) throw new Error(read.reason);
    const text = writeSidecar(
      { ...read.model, metadataDate: new Date(Date.now() + 60_000).toISOString(), ...to },
      there,
    );
    const target = how === 'over' ? file('working', i) : `${file('working', i)}.tmp`;
    writeFileSync(target, text);
    if (how === 'replace') renameSync(target, file('working', i));
  };
  // Asking for a shoot's frames is opening it: what is held against is read past that.
  const starsOf = async (i: number) =>
    (
      (await arkiv.app.get(Reading).source.query('SELECT stars FROM frame WHERE id = ?', [ids[i]])) as {
        stars: number;
      }[]
    )[0]!.stars;
  const makeOld = () =>
    arkiv.app.get(UnitOfWork).write(async (manager) => {
      await manager.query('UPDATE shoot SET "createdAt" = ?', [LONG_AGO]);
      await manager.query('UPDATE frame SET "markedAt" = ?', [LONG_AGO]);
    });
  const restart = async () => {
    await arkiv.stop();
    arkiv = await startArkiv(data);
    await arkiv.app.get(SidecarWatch).settled();
  };

  it.each(['replace', 'over'] as const)(
    'is seen when it happens, without any mark of ours, and reaches the other drives (%s)',
    async (how) => {
      change(0, { stars: 4 }, how);
      await until(async () => (await starsOf(0)) === 4);
      await until(() => inside('backup', 0).stars === 4);
      const journal: { kind: string; to: string; window: string }[] = await arkiv.app
        .get(Reading)
        .source.query('SELECT kind, "to", "window" FROM operation WHERE subject = ?', [ids[0]]);
      expect(journal).toEqual([expect.objectContaining({ kind: 'stars', window: 'sidecar' })]);
    },
  );

  it('stands beside what was marked here meanwhile: both are kept, and both are in the journal', async () => {
    await arkiv.app.get(SidecarsService).without(async () => {
      change(1, { label: 'Moss' });
      await arkiv.ask('POST', '/marks', {
        operations: [
          {
            id: ulid(),
            subject: ids[1],
            kind: 'stars',
            from: 0,
            to: 5,
            at: Date.now(),
            group: ulid(),
            window: 'w',
          },
        ],
      });
    });
    await until(() => inside('working', 1).stars === 5 && inside('backup', 1).label === 'Moss');
    expect(inside('working', 1)).toMatchObject({ stars: 5, label: 'Moss' });
    const rows: { kind: string }[] = await arkiv.app
      .get(Reading)
      .source.query('SELECT kind FROM operation WHERE subject = ? ORDER BY kind', [ids[1]]);
    expect(rows.map((row) => row.kind)).toEqual(['label', 'stars']);
  });

  it('while the server was off is seen at its next start in shoots that are in hand', async () => {
    await arkiv.stop();
    change(2, { stars: 3 });
    arkiv = await startArkiv(data);
    await until(async () => (await starsOf(2)) === 3);
  });

  it('in an old shoot is seen when it is opened, and from then on at once', async () => {
    await makeOld();
    await restart();
    change(0, { stars: 2 });
    await arkiv.get(`/shoots/${shootId}/frames`);
    await until(async () => (await starsOf(0)) === 2);
    await arkiv.app.get(SidecarWatch).settled();
    change(1, { stars: 1 });
    await until(async () => (await starsOf(1)) === 1);
  });

  it('in an old shoot that nobody opens is seen by the slow round', async () => {
    await makeOld();
    await restart();
    change(0, { stars: 2 });
    expect(await starsOf(0)).toBe(0);
    await arkiv.app.get(SidecarWatch).round();
    await until(async () => (await starsOf(0)) === 2);
  });

  it('is read once: a sidecar that nobody has touched since costs no more than its facts', async () => {
    const watch = arkiv.app.get(SidecarWatch);
    await watch.look(shootId);
    const due = () =>
      arkiv.app
        .get(Reading)
        .source.query('SELECT COUNT(*) AS n FROM frame WHERE "sidecarDue" > 0') as Promise<{ n: number }[]>;
    // Another time on the same text is no change.
    utimesSync(file('working', 0), new Date(), new Date());
    await watch.look(shootId);
    expect((await due())[0]!.n).toBe(0);
  });
});
