import fc from 'fast-check';
import { AWAY, takenOf, type QueryFrame } from '../query/fields';
import { matches, type Filter } from '../query/filter';
import { generated, SHOOTS, whole, type GeneratedFrame } from '../query/generated.testing';
import { FindIndex, type FoundRow } from './findIndex';

const row = (frame: GeneratedFrame, key: number, more: Partial<FoundRow> = {}): FoundRow => {
  const { drives = '', delivered = null, ...facts } = whole(frame);
  return {
    ...facts,
    ...{
      key,
      shootId: frame.shootId,
      binned: false,
      shown: true,
      arrival: null,
      drives,
      delivered,
      hash: null,
    },
    taken: facts.taken ?? null,
    lies: facts.lies ?? '',
    ...more,
  };
};

/** Frames in an index, and the same as filters see them by their keys. */
function filled(frames: readonly GeneratedFrame[], online = ['D1']) {
  const index = new FindIndex();
  SHOOTS.forEach((shoot) => index.setShoot(shoot));
  index.setOnline(online);
  const known = new Map<number, QueryFrame>();
  const put = (frame: GeneratedFrame, key: number, more: Partial<FoundRow> = {}) => {
    index.put([row(frame, key, more)]);
    const seen = whole(frame);
    const away = seen.drives!.split('+').some((id) => online.includes(id)) ? null : AWAY;
    known.set(key, { ...seen, away });
  };
  frames.forEach((frame, i) => put(frame, i * 3 + 1));
  const asked: Filter[] = [];
  const found = async (filter: Filter, among = index.all()) => {
    const bits = await index.find(filter, among, async (leaf, keys) => {
      asked.push(leaf);
      return Promise.resolve(keys.filter((key) => matches(leaf, known.get(key)!)));
    });
    const keys: number[] = [];
    bits.each((n) => keys.push(index.keyOf(n)));
    return keys.sort((a, b) => a - b);
  };
  const wanted = (filter: Filter) =>
    [...known]
      .filter(([, frame]) => matches(filter, frame))
      .map(([key]) => key)
      .sort((a, b) => a - b);
  return { index, known, put, found, wanted, asked };
}

const { pool, filters } = generated();
const sample = (seed: number, numRuns: number) => fc.sample(pool, { numRuns, seed });

describe('what is found among all frames', () => {
  it('is what the predicate finds, with every filter', async () => {
    const { found, wanted } = filled(sample(3, 300));
    let some = 0;
    await fc.assert(
      fc.asyncProperty(filters, async (filter) => {
        const keys = wanted(filter);
        expect(await found(filter)).toEqual(keys);
        if (keys.length > 0 && keys.length < 300) some += 1;
      }),
      { numRuns: 1500, seed: 17 },
    );
    expect(some).toBeGreaterThan(400);
  });

  it('stays so when frames change, go and come back', async () => {
    const { index, put, known, found, wanted } = filled(sample(4, 120));
    const others = sample(5, 200);
    const asked = fc.sample(filters, { numRuns: 60, seed: 19 });
    for (const [i, frame] of others.entries()) {
      const key = (i * 7) % 500;
      if (i % 4 === 3) {
        index.remove([key]);
        known.delete(key);
      } else put(frame, key);
      if (i % 20 === 0) for (const filter of asked) expect(await found(filter)).toEqual(wanted(filter));
    }
    for (const filter of asked) expect(await found(filter)).toEqual(wanted(filter));
    expect(index.count).toBe(known.size);
  });

  it('reads only what has the words, and what nothing else has ruled out', async () => {
    const { found, wanted, asked } = filled(sample(6, 200));
    const phrase: Filter = { field: 'text', phrase: 'two lines' };
    expect(await found({ all: [phrase, { field: 'stars', atLeast: 6 }] })).toEqual([]);
    expect(asked).toEqual([]);
    expect(await found(phrase)).toEqual(wanted(phrase));
    expect(asked).toEqual([phrase]);
  });

  it('has the bin in only on request', async () => {
    const [frame] = sample(8, 1);
    const { index, put, found } = filled([frame!]);
    put(frame!, 1000, { binned: true });
    expect(await found({ all: [] })).toEqual([1]);
    expect(await found({ all: [] }, index.all(true))).toEqual([1, 1000]);
    put(frame!, 1000);
    put(frame!, 1, { binned: true });
    expect(await found({ all: [] })).toEqual([1000]);
  });

  it('stands in order of time, also when clocks are corrected and frames come', () => {
    const frames = sample(9, 50).map((frame, i) => ({
      ...frame,
      instant: i % 9 === 8 ? null : ((i * 37) % 50) * 1000,
    }));
    const { index, put, known } = filled(frames);
    const check = () => {
      const order = [...index.inTime()].map((n) => known.get(index.keyOf(n))!.instant ?? Infinity);
      expect(order).toEqual([...order].sort((a, b) => a - b));
      expect(order.length).toBe(known.size);
    };
    check();
    put({ ...frames[3]!, instant: 99_000 }, 3 * 3 + 1);
    put({ ...frames[4]!, instant: null }, 4 * 3 + 1);
    put({ ...frames[5]!, instant: 500 }, 7777);
    check();
    expect(index.inTime()).toBe(index.inTime());
  });

  it('is ranked by how alike pictures are', () => {
    const frames = sample(10, 5);
    const { index, put } = filled([]);
    const hashes: ([number, number] | null)[] = [
      [0b1111, 1],
      [0b1110, 1],
      [0, 1],
      [0xffffffff, 0xffffffff],
      null,
    ];
    frames.forEach((frame, i) => {
      put(frame, i);
      if (hashes[i]) index.setHash(i, hashes[i]!);
    });
    // What else is new of a frame leaves what its picture is like.
    put(frames[1]!, 1);
    index.setHash(99, [1, 1]);
    expect([index.hashOf(1), index.hashOf(4), index.hashOf(99)]).toEqual([[0b1110, 1], null, null]);
    const like = index.alike([0b1111, 1], index.all(), 10, 20);
    expect(like.map(({ n, bits }) => [index.keyOf(n), bits])).toEqual([
      [0, 0],
      [1, 1],
      [2, 4],
    ]);
    expect(index.alike([0b1111, 1], index.all(), 2, 20).length).toBe(2);
  });

  it('knows the day by the clock, not by the time zone', () => {
    expect(takenOf('2029-04-18T09:14:07.320')).toBe(202904180914);
    expect(takenOf(null)).toBeNull();
  });
});
