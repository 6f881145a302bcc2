import { execFileSync } from 'node:child_process';
import path from 'node:path';
import { ulid } from 'ulid';
import { SidecarsService } from '../src/sidecars/sidecars.service';
import { SidecarWatch } from '../src/sidecars/sidecarWatch.service';
import { removeFolder, takenIn, until, volumeOf, type TestArkiv } from './testArkiv';

const ORIGINALS = '2026/2026-10-16_press-night/originals';

interface Decision {
  id: string;
  number: number;
  by: string;
  window: string;
  frames: number;
  said: { kind: string; frames: number; to?: unknown; name: string | null }[];
  more: number;
  shown: { id: string; picture: string | null }[];
  isUndone: boolean;
  turnedAt: number | null;
  canTurn: boolean;
}

describe('what was decided in a shoot', () => {
  let arkiv: TestArkiv;
  let data: string;
  let shootId: string;
  let ids: string[];
  let names: string[];

  beforeAll(async () => {
    ({ arkiv, data, shootId } = await takenIn('OCK_9972'));
    ({ id: ids, name: names } = await arkiv.frames(shootId));
  });
  afterAll(async () => {
    await arkiv.stop();
    removeFolder(data);
  });

  const list = (asked = '') =>
    arkiv.get<{ decisions: Decision[]; more: boolean }>(`/shoots/${shootId}/decisions${asked}`);
  const turn = (group: string, to: 'back' | 'again') =>
    arkiv.post<{ marks: number; skipped: number }>(`/shoots/${shootId}/decisions/${group}`, { to });
  /** One step over several frames, as a window sends it. */
  const decide = async (frames: readonly string[], kind: string, from: unknown, to: unknown, more = {}) => {
    const group = ulid();
    const operations = frames.map((subject) => ({
      ...{ id: ulid(), subject, kind, from, to, at: Date.now(), group, window: 'w', ...more },
    }));
    await arkiv.post('/marks', { operations });
    return group;
  };
  const marks = async (frame: string) =>
    (await arkiv.post<{ frames: Record<string, unknown>[] }>('/marks/now', { frameIds: [frame] })).frames[0]!;

  it('is listed step by step, the newest first, with its frames; one frame’s alone where that is asked for', async () => {
    const stars = await decide(ids, 'stars', 0, 3);
    const { id: pile } = await arkiv.post<{ id: string }>('/piles', { name: 'Cover' });
    const piled = await decide(ids.slice(0, 2), `pile ${pile}`, false, true);
    const captions = ulid();
    const operations = ids.slice(0, 2).map((subject, i) => ({
      ...{ id: ulid(), subject, kind: 'caption', from: null, to: `number ${i}`, at: Date.now() },
      ...{ group: captions, window: 'w' },
    }));
    await arkiv.post('/marks', { operations });
    const { decisions, more } = await list();
    expect(more).toBe(false);
    expect(decisions.map(({ id }) => id)).toEqual([captions, piled, stars]);
    const [caption, cover, three] = decisions;
    expect(three).toMatchObject({ frames: 5, by: '', isUndone: false, turnedAt: null, canTurn: true });
    expect(three!.said).toEqual([{ kind: 'stars', frames: 5, to: 3, name: null }]);
    expect(three!.shown.map(({ id }) => id)).toEqual(ids);
    expect(three!.shown[0]!.picture).toEqual(expect.any(String));
    expect(cover!.said).toEqual([{ kind: `pile ${pile}`, frames: 2, to: true, name: 'Cover' }]);
    // Each has its own: there is no one value to name.
    expect(caption!.said).toEqual([{ kind: 'caption', frames: 2, name: null }]);
    expect((await list(`?frame=${ids[4]}`)).decisions.map(({ id }) => id)).toEqual([stars]);
  });

  it('is taken back step by step, whichever it is, and done again; what was changed since stays', async () => {
    const label = await decide(ids.slice(0, 4), 'label', null, 'M');
    await decide(ids.slice(0, 1), 'verdict', 'undecided', 'keep');
    await decide([ids[3]!], 'label', 'M', 'A');
    expect(await turn(label, 'back')).toEqual({ marks: 3, skipped: 1 });
    expect([(await marks(ids[0]!)).label, (await marks(ids[3]!)).label]).toEqual([null, 'A']);
    // The newer one was not touched, and what takes back is no step of its own.
    expect(await marks(ids[0]!)).toMatchObject({ verdict: 'keep' });
    const its = async () => (await list()).decisions.find(({ id }) => id === label)!;
    expect(await its()).toMatchObject({ isUndone: true, turnedAt: expect.any(Number) });
    expect((await list()).decisions.every(({ window }) => window === 'w')).toBe(true);
    // Twice is once: another window may have been faster.
    expect(await turn(label, 'back')).toEqual({ marks: 0, skipped: 0 });
    expect(await turn(label, 'again')).toEqual({ marks: 3, skipped: 0 });
    expect((await marks(ids[1]!)).label).toBe('M');
    expect(await its()).toMatchObject({ isUndone: false });
    expect(await turn(label, 'back')).toMatchObject({ marks: 3 });
    // Ctrl+Z of a window, which names the step that it takes back, is seen here.
    const stars = await decide([ids[4]!], 'stars', 3, 2);
    await decide([ids[4]!], 'stars', 2, 3, { undoes: stars });
    expect((await list()).decisions[0]).toMatchObject({ id: stars, isUndone: true });
    expect(await turn(stars, 'again')).toEqual({ marks: 1, skipped: 0 });
    expect((await marks(ids[4]!)).stars).toBe(2);
  });

  it('tells what another program decided apart, and takes that back too, in its sidecar as well', async () => {
    const i = 2;
    await decide([ids[i]!], 'stars', 3, 1);
    await arkiv.app.get(SidecarsService).flush();
    await arkiv.app.get(SidecarWatch).settled();
    const sidecar = path.join(volumeOf(data, 'working'), ORIGINALS, `${names[i]}.xmp`);
    execFileSync('exiftool', ['-overwrite_original', '-XMP:Rating=5', '-XMP-dc:Subject+=dusk', sidecar]);
    await until(async () => (await marks(ids[i]!)).stars === 5);
    const [theirs, ...none] = (await list('?whose=others')).decisions;
    expect(none).toEqual([]);
    expect(theirs).toMatchObject({ by: 'program', window: 'sidecar', frames: 1, isUndone: false });
    expect(theirs!.said.map(({ kind, to }) => [kind, to])).toEqual([
      ['stars', 5],
      ['keyword dusk', true],
    ]);
    expect((await list('?whose=studio')).decisions.map(({ id }) => id)).not.toContain(theirs!.id);
    expect(await turn(theirs!.id, 'back')).toEqual({ marks: 2, skipped: 0 });
    expect(await marks(ids[i]!)).toMatchObject({ stars: 1, keywords: '' });
    await arkiv.app.get(SidecarsService).flush();
    const read = execFileSync('exiftool', ['-j', '-XMP:Rating', '-XMP-dc:Subject', sidecar], {
      encoding: 'utf8',
    });
    expect((JSON.parse(read) as object[])[0]).toMatchObject({ Rating: 1 });
    expect(read).not.toContain('dusk');
  });

  it('comes in pages, each going on where the last one ended, and a step of a thousand marks is whole', async () => {
    const before = (await list()).decisions.length;
    for (let n = 0; n < 45; n++) await decide([ids[1]!], 'stars', n === 0 ? 3 : n % 6, (n + 1) % 6);
    const first = await list();
    expect([first.decisions.length, first.more]).toEqual([40, true]);
    const second = await list(`?before=${first.decisions.at(-1)!.number}`);
    expect([second.decisions.length, second.more]).toEqual([before + 5, false]);
    const all = [...first.decisions, ...second.decisions].map(({ id }) => id);
    expect(new Set(all).size).toBe(all.length);
    // What is new comes above a page that others stand below.
    const newer = await decide([ids[0]!], 'note', null, 'brighter');
    const grown = await list(`?from=${first.decisions.at(-1)!.number}`);
    expect(grown.decisions.map(({ id }) => id)).toEqual([newer, ...first.decisions.map(({ id }) => id)]);
    // More than one transaction holds, and than one request.
    const group = ulid();
    for (let n = 0; n < 250; n += 50) {
      const words = Array.from({ length: 50 }, (_, i) => `keyword word ${n + i}`);
      const operations = words.flatMap((kind) =>
        ids.map((subject) => ({
          ...{ id: ulid(), subject, kind, from: false, to: true, at: Date.now(), group, window: 'w' },
        })),
      );
      await arkiv.post('/marks', { operations });
    }
    const [described] = (await list()).decisions;
    expect(described).toMatchObject({ id: group, frames: 5, more: 244 });
    expect(described!.said).toHaveLength(6);
    expect(await turn(group, 'back')).toEqual({ marks: 1250, skipped: 0 });
    expect((await marks(ids[0]!)).keywords).toBe('');
  });

  it('refuses what is not there, saying so', async () => {
    const answer = await arkiv.ask<{ code: string }>('POST', `/shoots/${shootId}/decisions/${ulid()}`, {
      to: 'back',
    });
    expect(answer).toMatchObject({ status: 404, body: { code: 'not-found' } });
    const bad = await arkiv.ask('POST', `/shoots/${shootId}/decisions/${ulid()}`, { to: 'sideways' });
    expect(bad.status).toBe(400);
  });
});
