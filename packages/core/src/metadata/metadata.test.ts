import {
  apexAperture,
  apexTime,
  bodyKey,
  bodyNames,
  exposureShown,
  factsFromTags,
  modelOfBody,
} from './facts';
import { clipTime } from './clipTime';
import { findEmbeddedJpegs } from './embedded';

describe('the moment of a clip', () => {
  const none = { phone: false };
  it.each([
    [
      'its camera’s own time with the offset',
      { creationDate: '2031:04:18 20:05:10+02:00', createDate: '2031:04:18 18:05:10', ...none },
      '2031:04:18 20:05:10',
      '+02:00',
    ],
    [
      'the header as the wall clock where a camera wrote it',
      { createDate: '2031:04:18 20:05:10', ...none },
      '2031:04:18 20:05:10',
      undefined,
    ],
    [
      'the header as UTC where a telephone wrote it',
      { createDate: '2031:04:18 18:05:10', phone: true },
      '2031:04:18 18:05:10',
      '+00:00',
    ],
    [
      'nothing for a clock that was never set',
      { createDate: '0000:00:00 00:00:00', ...none },
      undefined,
      undefined,
    ],
    [
      'nothing for the year in which QuickTime begins',
      { createDate: '1904:01:01 00:00:00', ...none },
      undefined,
      undefined,
    ],
    ['nothing where there is nothing', none, undefined, undefined],
  ])('is %s', (_, times, dateTimeOriginal, offset) =>
    expect(clipTime(times)).toEqual(dateTimeOriginal ? { dateTimeOriginal, offset, subSec: undefined } : {}),
  );

  it('keeps what is smaller than a second', () =>
    expect(clipTime({ creationDate: '2031:04:18 20:05:10.25Z', ...none })).toMatchObject({
      subSec: '25',
      offset: '+00:00',
    }));
});

describe('capture facts', () => {
  // CIPA DC-008, annex C: f/4 → Av 4; 1/60 s → Tv 5.9, shown as 6.
  it('agree with the APEX table', () => {
    expect(apexAperture(4)).toBeCloseTo(4);
    expect(apexTime(1 / 60)).toBeCloseTo(5.9, 1);
  });

  it.each<[[number, number], string]>([
    [[1, 1600], '1/1600'],
    [[10, 600], '1/60'],
    [[1, 2], '1/2'],
    [[25, 10], '2.5 s'],
    [[8, 10], '0.8 s'],
    [[30, 1], '30 s'],
  ])('show %j as %s', (pair, text) => expect(exposureShown(pair)!.text).toBe(text));

  it('are missing rather than wrong', () => {
    const facts = factsFromTags({
      exposureTime: [1, 0],
      fNumber: [0, 1],
      iso: 0,
      orientation: 9,
      make: ' \0',
      dateTimeOriginal: 'x',
    });
    expect(facts).toMatchObject({
      exposure: null,
      aperture: null,
      iso: null,
      orientation: 1,
      make: null,
      capture: null,
    });
  });

  it('tell bodies of one model apart by serial', () => {
    const one = factsFromTags({ make: 'O', model: 'Five', serial: '1' });
    const two = factsFromTags({ make: 'O', model: 'Five', serial: '2' });
    expect(bodyKey(one)).not.toBe(bodyKey(two));
    expect(modelOfBody(bodyKey(one), one.serial)).toBe('Five');
    expect(modelOfBody(bodyKey(one), null)).toBe('1');
    expect(modelOfBody(null, null)).toBe('');
    expect([...bodyNames([bodyKey(one), bodyKey(two)]).values()]).toEqual(['O · Five · 1', 'O · Five · 2']);
  });

  it('call a body by its model, once, and by its serial only beside its like', () => {
    const names = (...keys: string[]) => [...bodyNames(keys).values()];
    expect(names('Ockham · Ockham Five · OK5-004217')).toEqual(['Ockham Five']);
    expect(names('Ockham · Five · OK5-004217')).toEqual(['Ockham Five']);
    expect(
      names('Ockham · Ockham Five · 1', 'Ockham · Ockham Five · 2', 'Ockham · Ockham Three · 1'),
    ).toEqual(['Ockham Five · 1', 'Ockham Five · 2', 'Ockham Three']);
    expect(names('Ockham', '', 'Ockham')).toEqual(['Ockham', '']);
  });
});

describe('embedded pictures', () => {
  it('are not looked for beyond a malformed structure', () => {
    expect(findEmbeddedJpegs(Uint8Array.of())).toEqual([]);
    expect(findEmbeddedJpegs(Uint8Array.of(0xff, 0xd8, 0xff, 0xe1, 0x00))).toEqual([]);
    expect(findEmbeddedJpegs(Uint8Array.from([0x49, 0x49, 42, 0, 8, 0, 0, 0, 0xff, 0xff]))).toEqual([]);
  });

  it('end even where directories point at each other', () => {
    // One directory whose next directory is itself.
    const bytes = Buffer.alloc(32);
    bytes.write('II');
    bytes.writeUInt16LE(42, 2);
    bytes.writeUInt32LE(8, 4);
    bytes.writeUInt16LE(0, 8);
    bytes.writeUInt32LE(8, 10);
    expect(findEmbeddedJpegs(bytes)).toEqual([]);
  });
});
