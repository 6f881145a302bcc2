import {
  correctedLocal,
  formatLdml,
  instantMillis,
  parseExifTime,
  parseOffset,
  shootDay,
} from './captureTime';

describe('capture time', () => {
  it('keeps local time, sub-seconds and offset apart', () => {
    expect(parseExifTime('2031:04:18 09:14:07', '32', '+02:00')).toEqual({
      local: '2031-04-18T09:14:07',
      millis: 320,
      offsetMinutes: 120,
      correctionMillis: 0,
    });
  });

  it.each([
    '0000:00:00 00:00:00',
    '2031:02:30 00:00:00',
    '2031:13:01 00:00:00',
    '    ',
    undefined,
    '2031:04:18 25:00:00',
  ])('finds no time in “%s”', (text) => expect(parseExifTime(text)).toBeNull());

  it.each([
    ['+05:45', 345],
    ['-09:30', -570],
    ['Z', 0],
    ['+15:00', null],
    ['   :  ', null],
  ])('reads the offset %s as %s minutes', (text, minutes) => expect(parseOffset(text)).toBe(minutes));

  it('orders by sub-seconds', () => {
    const early = parseExifTime('2031:04:18 09:14:07', '04')!;
    const late = parseExifTime('2031:04:18 09:14:07', '4')!;
    expect(instantMillis(late, 0) - instantMillis(early, 0)).toBe(360);
  });

  it('counts the written offset before the shoot’s zone', () => {
    const written = parseExifTime('2031:04:18 12:00:00', undefined, '+02:00')!;
    const silent = parseExifTime('2031:04:18 12:00:00')!;
    expect(new Date(instantMillis(written, -300)).toISOString()).toBe('2031-04-18T10:00:00.000Z');
    expect(new Date(instantMillis(silent, -300)).toISOString()).toBe('2031-04-18T17:00:00.000Z');
  });

  it('moves by the clock correction and leaves the camera’s words alone', () => {
    const time = { ...parseExifTime('2031:04:18 23:59:59', undefined, 'Z')!, correctionMillis: 2000 };
    expect(new Date(instantMillis(time, 0)).toISOString()).toBe('2031-04-19T00:00:01.000Z');
    expect(time.local).toBe('2031-04-18T23:59:59');
  });

  it.each([
    ['2031:04:19 03:59:59', '2031-04-18'],
    ['2031:04:19 04:00:00', '2031-04-19'],
    ['2031:01:01 00:30:00', '2030-12-31'],
  ])('counts %s to the shoot’s day %s', (text, day) => expect(shootDay(parseExifTime(text)!, 4)).toBe(day));
});

// UTS #35, date field symbols.
describe('date letters', () => {
  const iso = '2031-04-08T09:05:07.042';
  it.each([
    ['yyyyMMdd', '20310408'],
    ['yy-MM-dd', '31-04-08'],
    ['HH.mm.ss.SSS', '09.05.07.042'],
    ["yyyy'y'MM", '2031y04'],
  ])('writes %s as %s', (format, text) => expect(formatLdml(iso, format)).toEqual({ ok: true, text }));

  it.each(['YYYY', 'yyy', 'hh', 'EEE'])('refuses %s', (format) =>
    expect(formatLdml(iso, format)).toEqual({ ok: false, unknown: format }),
  );
});

describe('a wall clock that was put right', () => {
  it('reads a time without a correction as it is written, and with one as if it had been written so', () => {
    for (let hour = 0; hour < 24; hour++) {
      const local = `2031-03-01T${String(hour).padStart(2, '0')}:59:59`;
      const plain = { local, millis: 7, offsetMinutes: 120, correctionMillis: 0 };
      // A day later by the clock's correction, a day earlier in the camera's words.
      const moved = { ...plain, local: local.replace('03-01', '02-28'), correctionMillis: 86_400_000 };
      expect(correctedLocal(plain)).toBe(`${local}.007`);
      expect(correctedLocal(moved)).toBe(correctedLocal(plain));
      for (const start of [0, 4, 12]) {
        expect(shootDay(plain, start)).toBe(hour >= start ? '2031-03-01' : '2031-02-28');
        expect(shootDay(moved, start)).toBe(shootDay(plain, start));
      }
    }
  });
});
