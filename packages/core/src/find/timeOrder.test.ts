import fc from 'fast-check';
import { Bits } from './bits';
import { HashColumn } from './hashColumn';
import { TimeOrder } from './timeOrder';

describe('frames in order of time', () => {
  /** Steps: a frame comes with a time, or one that is there gets another; NaN: it has none. */
  const time = fc.oneof(fc.integer({ min: 0, max: 9 }), fc.constant(NaN));
  const step = fc.record({ at: fc.nat(30), time, asked: fc.boolean() });

  it('is what sorting all anew gives, whatever comes and changes between two questions', () => {
    fc.assert(
      fc.property(fc.array(step, { maxLength: 60 }), (steps) => {
        const order = new TimeOrder();
        const values: number[] = [];
        const sorted = (): number[] =>
          values
            .map((value, n) => ({ value: Number.isNaN(value) ? Infinity : value, n }))
            .sort((a, b) => (a.value === b.value ? a.n - b.n : a.value - b.value))
            .map(({ n }) => n);
        for (const { at, time: its, asked } of steps) {
          const n = Math.min(at, values.length);
          values[n] = its;
          order.move(n);
          if (asked) expect([...order.of(values, values.length)]).toEqual(sorted());
        }
        expect([...order.of(values, values.length)]).toEqual(sorted());
      }),
    );
  });
});

describe('what pictures are like', () => {
  it('is kept of frames however many come, and told by the bits that differ', () => {
    const hashes = new HashColumn();
    for (let n = 0; n < 5000; n++) hashes.set(n, [n + 1, 7]);
    expect(hashes.get(0)).toEqual([1, 7]);
    expect(hashes.get(4999)).toEqual([5000, 7]);
    expect(hashes.get(5000)).toBeNull();
    expect(hashes.get(-1)).toBeNull();
    const among = Bits.of(5000);
    for (const n of [0, 1, 2, 4999]) among.add(n);
    // 1, 2, 3 and 5000 against 1: no bit, two bits, one bit, and seven of them.
    const told = (most: number) => hashes.alike([1, 7], among, most, 2);
    expect(told(10)).toEqual([
      { n: 0, bits: 0 },
      { n: 2, bits: 1 },
      { n: 1, bits: 2 },
    ]);
    expect(told(1)).toEqual([{ n: 0, bits: 0 }]);
  });
});
