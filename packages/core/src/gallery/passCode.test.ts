import * as fc from 'fast-check';
import { comparedCode, passCode } from './passCode';

const bytes = (...values: number[]): Uint8Array =>
  Uint8Array.from({ length: 64 }, (_, i) => values[i % values.length]!);

describe('A pass code', () => {
  it('is eight signs in two groups, none of which is taken for another', () => {
    fc.assert(
      fc.property(fc.uint8Array({ minLength: 64, maxLength: 64 }), (random) => {
        // Sixty-four bytes may by chance all be unfair ones; nobody lives to see it, but a generator finds it.
        if (random.filter((byte) => byte < 250).length < 8) return;
        expect(passCode(random)).toMatch(/^[ABCDEFGHJKMNPQRTWXY346789]{4}-[ABCDEFGHJKMNPQRTWXY346789]{4}$/);
      }),
    );
  });

  it('gives every sign the same chance', () => {
    const signs = new Map<string, number>();
    for (let byte = 0; byte < 250; byte++) {
      const [sign] = passCode(bytes(byte));
      signs.set(sign!, (signs.get(sign!) ?? 0) + 1);
    }
    expect(signs.size).toBe(25);
    expect(new Set(signs.values())).toEqual(new Set([10]));
  });

  it('passes over the bytes that would favour some signs', () => {
    expect(passCode(bytes(250, 255, 0, 1))).toBe('ABAB-ABAB');
  });

  it('is not made of too little chance', () => {
    expect(() => passCode(new Uint8Array(7))).toThrow('too few random bytes');
    expect(() => passCode(bytes(255))).toThrow('too few random bytes');
  });

  it.each(['abcd-wxy3', 'ABCD WXY3', ' a b c d – w x y 3 ', 'ａｂｃｄ－ｗｘｙ３', 'AbCdWxY3'])(
    'is compared as it was meant: %j',
    (typed) => expect(comparedCode(typed)).toBe('ABCDWXY3'),
  );

  it('is another one when a sign is another one', () => {
    expect(comparedCode('ABCD-WXY4')).not.toBe(comparedCode('ABCD-WXY3'));
    expect(comparedCode('—')).toBe('');
  });
});
