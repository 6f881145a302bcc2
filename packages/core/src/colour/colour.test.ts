import { meansOptionalColour, withMeantProfile, withProfileOf } from './jpegColour';
import { DCF_OPTIONAL, iccProfile } from './profile';

const ascii = (words: string): number[] => [...words].map((letter) => letter.charCodeAt(0));
const segment = (marker: number, body: number[]): number[] => [
  ...[0xff, marker, (body.length + 2) >> 8, (body.length + 2) & 255],
  ...body,
];
/** Exif with an interoperability index, in one byte order or the other. */
function exif(index: string, little: boolean): number[] {
  const u = (bytes: number, value: number) => {
    const big = Array.from({ length: bytes }, (_, i) => (value >>> (8 * (bytes - 1 - i))) & 255);
    return little ? big.reverse() : big;
  };
  const directory = (tag: number, type: number, count: number, value: number[]) => [
    ...[...u(2, 1), ...u(2, tag), ...u(2, type), ...u(4, count)],
    ...[...value, ...u(4, 0)],
  ];
  return [
    ...ascii('Exif\0\0'),
    ...(little ? ascii('II') : ascii('MM')),
    ...[...u(2, 42), ...u(4, 8)],
    ...directory(0x8769, 4, 1, u(4, 26)),
    ...directory(0xa005, 4, 1, u(4, 44)),
    ...directory(0x0001, 2, 4, ascii(`${index}\0`)),
  ];
}
const SOI = [0xff, 0xd8];
const PICTURE = [...segment(0xda, [1, 2, 3]), 9, 9, 9, 0xff, 0xd9];
const jpeg = (...segments: number[][]) => new Uint8Array([...SOI, ...segments.flat(), ...PICTURE]);
const JFIF = segment(0xe0, ascii('JFIF\0'));
const R03 = segment(0xe1, exif('R03', true));
const OWN = segment(0xe2, [...ascii('ICC_PROFILE\0'), 1, 1, 0]);

describe('the colours that a camera means', () => {
  it('are the optional ones where Exif says R03, in either byte order, and no profile is there', () => {
    expect(meansOptionalColour(jpeg(R03))).toBe(true);
    expect(meansOptionalColour(jpeg(segment(0xe1, exif('R03', false))))).toBe(true);
    expect(meansOptionalColour(jpeg(segment(0xe1, exif('R98', true))))).toBe(false);
    expect(meansOptionalColour(jpeg(R03, OWN))).toBe(false);
    expect(meansOptionalColour(jpeg(JFIF))).toBe(false);
  });

  it('get their profile as a segment behind Exif, and no other byte of the file changes', () => {
    const before = jpeg(JFIF, R03);
    const after = withMeantProfile(before)!;
    const added = after.length - before.length;
    const at = SOI.length + JFIF.length + R03.length;
    expect([...after.subarray(0, at)]).toEqual([...before.subarray(0, at)]);
    expect([...after.subarray(at + added)]).toEqual([...before.subarray(at)]);
    expect(String.fromCharCode(...after.subarray(at + 4, at + 15))).toBe('ICC_PROFILE');
    // It has what it needs now, and gets no second one.
    expect(withMeantProfile(after)).toBeNull();
    expect(withMeantProfile(jpeg(JFIF))).toBeNull();
  });

  it('go for a small picture inside, which says nothing of itself', () => {
    const inside = jpeg(JFIF);
    expect(withProfileOf(jpeg(R03), inside).length).toBeGreaterThan(inside.length);
    expect(withProfileOf(jpeg(JFIF), inside)).toBe(inside);
  });

  it('are those of a picture inside a raw where the raw’s own Exif says so, in either byte order', () => {
    const inside = jpeg(JFIF);
    const raw = (index: string, little: boolean) => new Uint8Array(exif(index, little).slice(6));
    for (const little of [true, false]) {
      expect(withProfileOf(raw('R03', little), inside).length).toBeGreaterThan(inside.length);
      expect(withProfileOf(raw('R98', little), inside)).toBe(inside);
      const whole = raw('R03', little);
      for (let end = 0; end < whole.length; end++)
        expect(withProfileOf(whole.subarray(0, end), inside).length).toBeGreaterThanOrEqual(inside.length);
    }
  });

  it('are not searched for beyond a broken file’s end', () => {
    const whole = jpeg(JFIF, R03);
    for (let end = 0; end < whole.length; end++) {
      const part = whole.subarray(0, end);
      expect([true, false]).toContain(meansOptionalColour(part));
      withMeantProfile(part);
    }
    expect(meansOptionalColour(new Uint8Array(ascii('no picture at all')))).toBe(false);
  });

  it('stand in the profile as the standard’s primaries under D50 give them', () => {
    const profile = iccProfile(DCF_OPTIONAL);
    const view = new DataView(profile.buffer);
    expect(view.getUint32(0)).toBe(profile.length);
    const tag = (name: string): number[] => {
      for (let i = 0; i < view.getUint32(128); i++) {
        const at = 132 + i * 12;
        if (String.fromCharCode(...profile.subarray(at, at + 4)) !== name) continue;
        const start = view.getUint32(at + 4);
        return [0, 1, 2].map((v) => Number((view.getInt32(start + 8 + v * 4) / 65536).toFixed(4)));
      }
      return [];
    };
    // As profiles of this space that come with operating systems have it.
    expect(tag('rXYZ')[0]).toBeCloseTo(0.6097, 3);
    expect(tag('gXYZ')[1]).toBeCloseTo(0.6257, 3);
    expect(tag('bXYZ')[2]).toBeCloseTo(0.7446, 3);
    const sum = [0, 1, 2].map((v) => tag('rXYZ')[v]! + tag('gXYZ')[v]! + tag('bXYZ')[v]!);
    expect(sum.map((v) => Number(v.toFixed(3)))).toEqual([0.964, 1, 0.825]);
  });
});
