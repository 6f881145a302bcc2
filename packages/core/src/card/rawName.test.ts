import fc from 'fast-check';
import { decodeRawName, encodeRawName } from './rawName';

describe('names as bytes', () => {
  it.each([
    [[0x41, 0x2e, 0x4a], 'A.J'],
    [[0xc3, 0xa9], 'é'],
    [[0xf0, 0x9f, 0x93, 0xb7], '📷'],
    [[0x25], '%25'],
    [[0xff, 0x41], '%FFA'],
    // an overlong form and a surrogate are no UTF-8 (RFC 3629, section 3)
    [[0xc0, 0x80], '%C0%80'],
    [[0xed, 0xa0, 0x80], '%ED%A0%80'],
    [[0xe2, 0x82], '%E2%82'],
  ])('writes %j as %s', (bytes, text) => {
    expect(decodeRawName(Uint8Array.from(bytes))).toBe(text);
    expect([...encodeRawName(text)]).toEqual(bytes);
  });

  it('comes back to the same bytes for every pair of bytes', () => {
    for (let a = 1; a < 256; a++) {
      for (let b = 1; b < 256; b += 7) {
        const bytes = Uint8Array.of(a, b);
        expect(Buffer.from(encodeRawName(decodeRawName(bytes))).equals(Buffer.from(bytes))).toBe(true);
      }
    }
  });

  it('writes what is UTF-8 the same way whether the rest of the name is or not', () => {
    const text = fc.string({ unit: 'binary' }).map((some) => Buffer.from(some).toString());
    fc.assert(
      fc.property(text, text, (before, after) => {
        const [a, b] = [Buffer.from(before), Buffer.from(after)];
        expect(decodeRawName(a)).toBe(before.replaceAll('%', '%25'));
        expect(decodeRawName(Buffer.concat([a, Buffer.of(0xff), b]))).toBe(
          `${decodeRawName(a)}%FF${decodeRawName(b)}`,
        );
        expect(Buffer.from(encodeRawName(decodeRawName(a)))).toEqual(a);
      }),
    );
  });
});
