import fc from 'fast-check';
import { Bits } from './bits';
import { Coded, Measured, NumbersByKey } from './columns';
import { WordIndex } from './wordIndex';

describe('a set of bits', () => {
  it('is what a set of numbers is', () => {
    const numbers = fc.uniqueArray(fc.nat(199), { maxLength: 80 });
    const bits = (list: readonly number[]) => {
      const made = Bits.of(200);
      list.forEach((n) => made.add(n));
      return made;
    };
    const listed = (set: Bits) => {
      const found: number[] = [];
      set.each((n) => found.push(n));
      return found;
    };
    const inOrder = (list: Iterable<number>) => [...list].sort((a, b) => a - b);
    fc.assert(
      fc.property(numbers, numbers, (a, b) => {
        expect(listed(bits(a))).toEqual(inOrder(a));
        expect(bits(a).count).toBe(a.length);
        expect(bits(a).isEmpty).toBe(a.length === 0);
        expect(listed(bits(a).and(bits(b)))).toEqual(inOrder(a.filter((n) => b.includes(n))));
        expect(listed(bits(a).or(bits(b)))).toEqual(inOrder(new Set([...a, ...b])));
        expect(listed(bits(a).without(bits(b)))).toEqual(inOrder(a.filter((n) => !b.includes(n))));
        const copy = bits(a).copy();
        a.forEach((n) => copy.delete(n));
        expect(copy.isEmpty).toBe(true);
      }),
    );
  });
});

describe('the words of numbers', () => {
  const WORDS = ['heron', 'hero', 'herd', 'fish', 'pier', 'one', 'two'];

  /** The same as a table of words, whatever came in whichever order. */
  class Plain {
    readonly of = new Map<number, string[]>();
    having(words: readonly string[]): number[] {
      return [...this.of].filter(([, its]) => its.some((word) => words.includes(word))).map(([n]) => n);
    }
  }

  it('are found as a plain table finds them, packed, loose and changed', () => {
    const index = new WordIndex();
    const plain = new Plain();
    let seed = 5;
    const random = (n: number) => (seed = (seed * 48_271) % 2_147_483_647) % n;
    const ids = (words: readonly string[]) => Array.from(new Set(words), (word) => index.idOf(word));
    const some = () => WORDS.filter(() => random(3) === 0);
    // Enough for two segments, and for both to be packed.
    const first = Array.from({ length: 70_000 }, (_, n) => n);
    const words = first.map(some);
    index.fill(first, words.map(ids));
    index.settle();
    first.forEach((n) => plain.of.set(n, words[n]!));
    const check = () => {
      for (const wanted of [['heron'], ['hero', 'pier'], ['unknown'], WORDS]) {
        const found = Bits.of(80_000);
        index.addAll(
          wanted.map((word) => index.known(word)).filter((id) => id >= 0),
          found,
        );
        const list: number[] = [];
        found.each((n) => list.push(n));
        expect(list).toEqual(plain.having(wanted).sort((a, b) => a - b));
      }
      const among = Bits.of(80_000);
      for (let n = 0; n < 80_000; n += 3) among.add(n);
      const counted = index.countsIn(
        among,
        WORDS.filter((word) => word !== 'one').map((word) => index.known(word)),
      );
      for (const word of WORDS)
        expect(counted.get(index.known(word)) ?? 0).toBe(
          word === 'one' ? 0 : plain.having([word]).filter((n) => n % 3 === 0).length,
        );
    };
    check();
    // More changes than are held loosely, some of them twice, and numbers that lose all their words.
    for (let i = 0; i < 9000; i++) {
      const n = random(75_000);
      const its = i % 10 === 0 ? [] : [...some(), ...(i % 500 === 0 ? [`new${i}`] : [])];
      index.set(n, ids(its));
      plain.of.set(n, its);
    }
    check();
    expect(
      index
        .beginning('her')
        .map((id) => index.word(id))
        .sort(),
    ).toEqual(['herd', 'hero', 'heron']);
    index.order();
    expect(
      index
        .beginning('her')
        .map((id) => index.word(id))
        .sort(),
    ).toEqual(['herd', 'hero', 'heron']);
    expect(index.beginning('new').length).toBe(
      plain.having(index.beginning('new').map((id) => index.word(id))).length,
    );
    expect(index.beginning('x')).toEqual([]);
  });

  it('are counted, those that were lost at the next packing at the latest', () => {
    const index = new WordIndex();
    const [one, two] = [index.idOf('one'), index.idOf('two')];
    index.set(1, [one, two]);
    index.set(2, [one]);
    expect([index.countOf(one), index.countOf(two)]).toEqual([2, 1]);
    index.set(1, [two]);
    expect([index.countOf(one), index.countOf(two)]).toEqual([1, 1]);
    const many = Array.from({ length: 5000 }, (_, n) => n + 10);
    index.fill(
      many,
      many.map(() => [one]),
    );
    index.settle();
    for (const n of many) index.set(n, [two]);
    expect([index.countOf(one), index.countOf(two)]).toEqual([1 + 903, 5001]);
    for (let n = 0; n < 5000; n++) index.set(n + 6000, [two]);
    expect(index.countOf(one)).toBe(1);
  });
});

describe('columns', () => {
  it('hold values as codes, in as many bytes as tell them apart', () => {
    const column = new Coded<number>();
    const bytes = new Set<number>();
    for (let n = 0; n < 90_000; n++) {
      column.set(n, n % 7 === 0 ? null : n);
      bytes.add(column.codes.BYTES_PER_ELEMENT);
      // What stood there when there was too little room in a byte, or in two.
      if (n % 997 === 1)
        expect([column.get(1), column.get(255), column.get(n)]).toEqual([
          1,
          n < 255 ? null : 255,
          n % 7 === 0 ? null : n,
        ]);
    }
    expect([...bytes]).toEqual([1, 2, 4]);
    for (const n of [0, 1, 7, 65_535, 65_537, 89_999]) expect(column.get(n)).toBe(n % 7 === 0 ? null : n);
    expect([column.known(89_998) > 65_535, column.known(-1)]).toEqual([true, 0]);
    expect(column.get(1_000_000)).toBeNull();
  });

  it('hold measures', () => {
    const column = new Measured();
    column.set(5000, 0);
    column.set(3, -1.5);
    expect([column.get(5000), column.get(3), column.get(4), column.get(9999)]).toEqual([0, -1.5, null, null]);
  });

  it('find a number by its key, wherever keys lie', () => {
    const numbers = new NumbersByKey();
    const keys = [1, 65_535, 65_536, 4_000_000_000];
    keys.forEach((key, n) => numbers.set(key, n));
    expect(keys.map((key) => numbers.get(key))).toEqual([0, 1, 2, 3]);
    expect([numbers.get(2), numbers.get(70_000), numbers.get(0)]).toEqual([-1, -1, -1]);
    numbers.set(1, 9);
    expect(numbers.get(1)).toBe(9);
  });
});
