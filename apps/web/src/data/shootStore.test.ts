import { get } from './http';
import { ShootStore } from './shootStore';

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
  let stars: number[];
  beforeEach(() => {
    jest.useFakeTimers();
    hear.clear();
    loads = 0;
    stars = [0, 0];
    jest.mocked(get).mockImplementation(async () => {
      loads += 1;
      const loaded = [...stars];
      await new Promise((resolve) => setTimeout(resolve, LOADING));
      return {
        count: loaded.length,
        columns: {
          id: loaded.map((_, i) => `f${i}`),
          verdict: loaded.map(() => 'undecided'),
          stars: loaded,
          label: loaded.map(() => null),
        },
      };
    });
  });
  afterEach(() => void jest.useRealTimers());

  const store = async () => {
    const made = new ShootStore('s');
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
    made.mark(['f1'], 'stars', 4);
    expect(starsOf(made)).toEqual([0, 4]);
    await jest.advanceTimersByTimeAsync(LOADING);
    expect(starsOf(made)).toEqual([0, 4]);
    expect(made.undo()).toEqual({ ids: ['f1'], skipped: 0 });
    expect(starsOf(made)).toEqual([0, 0]);
    expect(made.redo()).toEqual({ ids: ['f1'], skipped: 0 });
    expect(starsOf(made)).toEqual([0, 4]);
  });

  it('takes the marks of another window, and does not undo what that one changed since', async () => {
    const made = await store();
    made.mark(['f0'], 'stars', 3);
    const operation = { id: 'o', frameId: 'f0', field: 'stars', from: 3, to: 5, at: 1, group: 'g' };
    hear.get('marks')!({ shootId: 's', operations: [{ ...operation, window: 'another' }] });
    expect(starsOf(made)[0]).toBe(5);
    expect(made.undo()).toEqual({ ids: [], skipped: 1 });
    expect(starsOf(made)[0]).toBe(5);
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
