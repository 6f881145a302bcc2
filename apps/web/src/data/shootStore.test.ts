import { PROGRAM, STUDIO, type MarkOperation } from '@arkiv/core';
import { get, post } from './http';
import { sourceOf } from './frameSource';
import { ShootStore, shootStore } from './shootStore';

const hear = new Map<string, (data: unknown) => void>();
jest.mock('./stream', () => ({
  listen: (type: string, listener: (data: unknown) => void) => {
    hear.set(type, listener);
    return () => hear.delete(type);
  },
}));
jest.mock('./http', () => ({ get: jest.fn(), post: jest.fn(() => new Promise(() => undefined)) }));

/** How long the server takes for all frames of a shoot, in milliseconds. */
const LOADING = 400;

describe('a shoot in a window', () => {
  let loads: number;
  /** Each check has frames of its own: what waits in the queue of one is nothing to the next. */
  let check = 0;
  const f = (i: number) => `${check}-f${i}`;
  let stars: number[];
  /** what the server has of the journal: its newest page, and the one before */
  let journal: MarkOperation[];
  let older: MarkOperation[];
  /** frames on drives that are away */
  let away: string[];
  beforeEach(() => {
    jest.useFakeTimers();
    hear.clear();
    sessionStorage.clear();
    loads = 0;
    check += 1;
    stars = [0, 0];
    journal = [];
    older = [];
    away = [];
    jest.mocked(get).mockImplementation(async (where: string) => {
      if (where.endsWith('/history')) return { operations: journal, before: older.length > 0 ? 1 : null };
      if (where.endsWith('/history?before=1')) return { operations: older, before: null };
      if (where.endsWith('/away')) return away;
      loads += 1;
      const loaded = [...stars];
      await new Promise((resolve) => setTimeout(resolve, LOADING));
      return {
        count: loaded.length,
        columns: {
          id: loaded.map((_, i) => f(i)),
          verdict: loaded.map(() => 'undecided'),
          stars: loaded,
          label: loaded.map(() => null),
          instant: loaded.map(() => null),
          name: loaded.map((_, i) => `${i}`),
        },
      };
    });
  });
  afterEach(() => void jest.useRealTimers());

  const store = async () => {
    const made = new ShootStore(sourceOf('s'));
    await jest.advanceTimersByTimeAsync(LOADING);
    return made;
  };
  const starsOf = (made: ShootStore) => made.snapshot().frames.map((frame) => frame.stars);

  it('is loaded a tenth of the time at most while frames arrive, and shows the last of them in the end', async () => {
    const made = await store();
    expect(loads).toBe(1);
    // Twenty frames a second for ten seconds.
    for (let i = 0; i < 200; i++) {
      stars = [...stars, 0];
      hear.get('frames')!({ shootId: 's' });
      await jest.advanceTimersByTimeAsync(50);
    }
    expect(loads - 1).toBeLessThanOrEqual(3);
    expect(loads - 1).toBeGreaterThanOrEqual(2);
    await jest.advanceTimersByTimeAsync(10 * LOADING);
    expect(made.snapshot().frames).toHaveLength(202);
  });

  it('asks for the frames that are told to have come, and for those alone', async () => {
    const made = await store();
    const asked: string[] = [];
    jest.mocked(get).mockImplementation((where: string) => {
      asked.push(where);
      if (where.endsWith('/away')) return Promise.resolve(away);
      const columns = {
        id: [f(7)],
        name: ['b'],
        instant: [5],
        verdict: ['undecided'],
        stars: [2],
        label: [null],
      };
      return Promise.resolve({ count: 1, columns });
    });
    made.mark([f(0)], 'stars', 3);
    const { order } = made.snapshot();
    hear.get('frames')!({ shootId: 's', ids: [f(7)] });
    hear.get('frames')!({ shootId: 's', ids: [f(1)] });
    await jest.advanceTimersByTimeAsync(10 * LOADING);
    expect(asked).toEqual([`/shoots/s/frames?only=${f(7)},${f(1)}`]);
    // One came, one is here no more; what was marked stays marked.
    expect(made.snapshot().frames.map(({ id, stars: n }) => [id, n])).toEqual([
      [f(7), 2],
      [f(0), 3],
    ]);
    expect(made.snapshot().order).not.toBe(order);
    asked.length = 0;
    hear.get('frames')!({ shootId: 's', ids: [f(1)] });
    hear.get('frames')!({ shootId: 's', ids: null });
    await jest.advanceTimersByTimeAsync(10 * LOADING);
    expect(asked).toEqual(['/shoots/s/frames', '/shoots/s/away']);
  });

  /** sharp by 41.5, a tenth of it white */
  const MEASURES = '41.5 0.2 10 0.5 0.5 0.12 0.1 -2 255 0 0 -';
  it('learns what is measured of frames without loading them, and what is not in it stays out', async () => {
    const made = await store();
    const { order, version } = made.snapshot();
    hear.get('measured')!({
      shootId: 's',
      measures: [
        [f(1), MEASURES],
        ['of another', MEASURES],
      ],
    });
    hear.get('measured')!({ shootId: 'other', measures: [[f(0), MEASURES]] });
    const now = made.snapshot();
    expect(now.frames.map(({ sharpness }) => sharpness)).toEqual([null, 41.5]);
    expect(now.frames.map(({ advice }) => advice)).toEqual(['', 'over-exposed']);
    expect([now.order === order, now.changedSince(version), now.measured, loads]).toEqual([true, [1], 1, 1]);
    made.mark([f(1)], 'stars', 2);
    expect(made.snapshot().frames[1]).toMatchObject({ sharpness: 41.5, stars: 2 });
  });

  it('knows which frames lie on drives that are away, also of those that are loaded anew', async () => {
    away = [f(1)];
    const made = await store();
    const known = () => made.snapshot().frames.map((frame) => frame.away !== null);
    await jest.advanceTimersByTimeAsync(LOADING);
    expect(known()).toEqual([false, true]);
    hear.get('frames')!({ shootId: 's', ids: null });
    await jest.advanceTimersByTimeAsync(10 * LOADING);
    expect(known()).toEqual([false, true]);
    away = [f(0)];
    hear.get('volumes')!({});
    await jest.advanceTimersByTimeAsync(LOADING);
    expect(known()).toEqual([true, false]);
  });

  it('keeps every frame’s place when one is marked, and tells which ones changed', async () => {
    const made = await store();
    const before = made.snapshot();
    const [first] = made.mark([f(1)], 'stars', 4);
    const after = made.snapshot();
    expect(after.order).toBe(before.order);
    expect(after.frames[0]).toBe(before.frames[0]);
    expect(after.changedSince(before.version)).toEqual([1]);
    expect(after.changedSince(after.version)).toEqual([]);
    expect(after.changedSince(before.version - 1)).toBeNull();
    // What is drawn already is not drawn again when the server says it too.
    const drawn = jest.fn();
    made.subscribe(drawn);
    const [second] = made.mark([f(1)], 'stars', 5);
    expect(drawn).toHaveBeenCalledTimes(1);
    tell(first!, second!);
    expect(drawn).toHaveBeenCalledTimes(1);
  });

  it('hears nothing more when it has ended', async () => {
    const made = await store();
    made.end();
    expect(hear.size).toBe(0);
    expect(made.isUsed).toBe(false);
  });

  it('lives on while it is looked at; of the others the two that were left last', async () => {
    const ends = jest.spyOn(ShootStore.prototype, 'end');
    const leave = shootStore('looked-at').subscribe(() => undefined);
    const [one, two] = [shootStore('one'), shootStore('two')];
    shootStore('three');
    shootStore('four');
    expect(ends.mock.contexts).toEqual([one]);
    expect(shootStore('two')).toBe(two);
    expect(shootStore('looked-at')).not.toBe(one);
    leave();
    await jest.advanceTimersByTimeAsync(LOADING);
    ends.mockRestore();
  });

  it('is loaded at once when the stream lost its place, and not for another shoot’s frames', async () => {
    await store();
    hear.get('frames')!({ shootId: 'another' });
    await jest.advanceTimersByTimeAsync(60_000);
    expect(loads).toBe(1);
    hear.get('reset')!({});
    expect(loads).toBe(2);
  });

  it('keeps a mark that was set while an older answer was on its way', async () => {
    const made = await store();
    hear.get('reset')!({});
    await jest.advanceTimersByTimeAsync(LOADING / 2);
    made.mark([f(1)], 'stars', 4);
    expect(starsOf(made)).toEqual([0, 4]);
    await jest.advanceTimersByTimeAsync(LOADING);
    expect(starsOf(made)).toEqual([0, 4]);
    expect(await made.undo()).toMatchObject({ ids: [f(1)], skipped: 0 });
    expect(starsOf(made)).toEqual([0, 0]);
    expect(await made.redo()).toMatchObject({ ids: [f(1)], skipped: 0 });
    expect(starsOf(made)).toEqual([0, 4]);
  });

  const foreign = (id: string, from: number, to: number): MarkOperation => ({
    ...{ id, subject: f(0), kind: 'stars', from, to, at: 1, group: id, window: 'another' },
    ...{ by: PROGRAM, pass: null, undoes: null },
  });
  /** The same person, in another window. */
  const elsewhere = (id: string, from: number, to: number): MarkOperation => ({
    ...foreign(id, from, to),
    by: STUDIO,
  });
  const tell = (...operations: MarkOperation[]) => hear.get('marks')!({ shootId: 's', operations });

  it('takes the marks of another window, and does not undo what that one changed since', async () => {
    const made = await store();
    tell(...made.mark([f(0)], 'stars', 3), foreign('o1', 3, 5));
    expect(starsOf(made)[0]).toBe(5);
    expect(await made.undo()).toMatchObject({ ids: [], skipped: 1 });
    expect(starsOf(made)[0]).toBe(5);
  });

  it('ends with what the journal ends with, whatever came while its own mark was on its way', async () => {
    // The other window's mark came first, and ours is told of after it.
    const late = await store();
    const mine = late.mark([f(0)], 'stars', 3);
    tell(foreign('o2', 0, 5));
    expect(starsOf(late)[0]).toBe(3);
    tell(...mine);
    expect(starsOf(late)[0]).toBe(3);
    check += 1;
    // Ours came first, though its answer is not here yet: the other one's is the last word.
    const early = await store();
    tell(...early.mark([f(0)], 'stars', 1));
    tell(foreign('o3', 1, 4));
    expect(starsOf(early)[0]).toBe(4);
    tell(foreign('o4', 4, 2));
    expect(starsOf(early)[0]).toBe(2);
  });

  it('takes marks back on frames that are in another shoot by now', async () => {
    const made = await store();
    const place = { current: f(1), selection: [] };
    tell(...made.mark([f(1)], 'stars', 4, place));
    stars = [0];
    hear.get('reset')!({});
    await jest.advanceTimersByTimeAsync(LOADING);
    expect(starsOf(made)).toEqual([0]);
    jest.mocked(post).mockResolvedValueOnce({
      frames: [
        {
          id: f(1),
          shootId: 'other',
          verdict: 'undecided',
          stars: 4,
          label: null,
          note: null,
          take: null,
          piles: '',
          albums: '',
          ...{ caption: null, keywords: '', persons: '', texts: '', finish: '' },
        },
      ],
    });
    expect(await made.undo()).toEqual({ ids: [f(1)], skipped: 0, elsewhere: 1, place });
    expect(await made.undo()).toBeNull();
  });

  it('loses no step when the server is away as one is taken back on a frame of another shoot', async () => {
    const made = await store();
    tell(...made.mark([f(1)], 'stars', 4));
    stars = [0];
    hear.get('reset')!({});
    await jest.advanceTimersByTimeAsync(LOADING);
    jest.mocked(post).mockRejectedValueOnce(new Error('away'));
    await expect(made.undo()).rejects.toThrow('away');
    jest.mocked(post).mockResolvedValueOnce({
      frames: [
        {
          id: f(1),
          shootId: 'other',
          verdict: 'undecided',
          stars: 4,
          label: null,
          note: null,
          take: null,
          piles: '',
          albums: '',
          ...{ caption: null, keywords: '', persons: '', texts: '', finish: '' },
        },
      ],
    });
    expect(await made.undo()).toMatchObject({ ids: [f(1)], elsewhere: 1 });
  });

  it('takes steps back one after the other, however fast they are pressed, and after a reload too', async () => {
    const made = await store();
    tell(...made.mark([f(0)], 'stars', 1), ...made.mark([f(1)], 'stars', 2));
    void made.undo();
    await made.undo();
    expect(starsOf(made)).toEqual([0, 0]);
    journal = [...made.mark([f(0)], 'stars', 5, { current: f(0), selection: [f(0), f(1)] })];
    tell(...journal);
    stars = [5, 0];
    window.dispatchEvent(new Event('pagehide'));
    const reloaded = await store();
    expect(await reloaded.undo()).toMatchObject({
      ids: [f(0)],
      place: { current: f(0), selection: [f(0), f(1)] },
    });
    expect(starsOf(reloaded)).toEqual([0, 0]);
  });

  it('takes back the newest step of all windows, first what another one made since', async () => {
    const made = await store();
    tell(...made.mark([f(0)], 'stars', 1), elsewhere('x1', 1, 4));
    expect(starsOf(made)).toEqual([4, 0]);
    await made.undo();
    expect(starsOf(made)).toEqual([1, 0]);
    await made.undo();
    expect(starsOf(made)).toEqual([0, 0]);
    await made.redo();
    await made.redo();
    expect(starsOf(made)).toEqual([4, 0]);
  });

  it('takes back what was decided before this window began, page by page, a group of two pages whole', async () => {
    stars = [5, 3];
    const part = (id: string, subject: string, from: number, to: number): MarkOperation => ({
      ...elsewhere(id, from, to),
      ...{ subject, group: 'both' },
    });
    older = [elsewhere('first', 0, 1), part('second', f(0), 1, 5)];
    journal = [part('third', f(1), 0, 3)];
    const made = await store();
    await jest.advanceTimersByTimeAsync(0);
    expect(made.snapshot().canUndo).toBe(true);
    expect(await made.undo()).toMatchObject({ ids: [f(1), f(0)], skipped: 0 });
    expect(starsOf(made)).toEqual([1, 0]);
    expect(await made.undo()).toMatchObject({ ids: [f(0)] });
    expect(starsOf(made)).toEqual([0, 0]);
    expect(await made.undo()).toBeNull();
    expect(made.snapshot().canUndo).toBe(false);
  });

  it('says that it could not be loaded, and is whole again with the next answer', async () => {
    const made = await store();
    jest.mocked(get).mockRejectedValueOnce(new Error('not reached'));
    hear.get('reset')!({});
    await jest.advanceTimersByTimeAsync(0);
    expect(made.snapshot().failure?.message).toBe('not reached');
    expect(made.snapshot().frames).toHaveLength(2);
    hear.get('reset')!({});
    await jest.advanceTimersByTimeAsync(LOADING);
    expect(made.snapshot().failure).toBeNull();
  });
});
