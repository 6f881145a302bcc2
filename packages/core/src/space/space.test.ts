import fc from 'fast-check';
import {
  monthsBefore,
  spaceBy,
  spareCopies,
  sumOf,
  SPACE_KINDS,
  type SpaceDrive,
  type SpaceKind,
} from './space';

const row = (year: string, volumeId: string, bytes: number, kind: SpaceKind = 'raw') => ({
  ...{ year, volumeId, kind, bytes },
});
const drive = (id: string, more: Partial<SpaceDrive> = {}): SpaceDrive => ({
  ...{ id, role: 'backup', online: true, free: 50, total: 100 },
  ...more,
});

describe('what takes how much', () => {
  it('is said in the whole, by drive and by year', () => {
    const rows = [
      row('2025', 'blue', 100),
      row('2025', 'green', 100),
      row('2025', 'blue', 30, 'picture'),
      row('2024', 'blue', 7, 'clip'),
    ];
    const { all, drives, years } = spaceBy(rows);
    expect(all).toEqual({ raw: 200, picture: 30, clip: 7, edit: 0, other: 0 });
    expect(sumOf(drives.get('blue')!)).toBe(137);
    expect(years.map(([year, bytes]) => [year, sumOf(bytes)])).toEqual([
      ['2024', 7],
      ['2025', 230],
    ]);
    expect(sumOf(spaceBy([]).all)).toBe(0);
  });

  it('is the same sum, however it is parted', () => {
    const rows = fc.array(
      fc.record({
        ...{ year: fc.constantFrom('2024', '2025', '2026'), volumeId: fc.constantFrom('x', 'y') },
        ...{ kind: fc.constantFrom(...SPACE_KINDS), bytes: fc.nat(1e9) },
      }),
    );
    fc.assert(
      fc.property(rows, (some) => {
        const whole = some.reduce((sum, { bytes }) => sum + bytes, 0);
        const { all, drives, years } = spaceBy(some);
        const sums = [drives, new Map(years)].map((parts) =>
          [...parts.values()].reduce((sum, bytes) => sum + sumOf(bytes), 0),
        );
        expect([sumOf(all), ...sums]).toEqual([whole, whole, whole]);
      }),
    );
  });
});

describe('copies beyond those that are wanted', () => {
  const spare = (shootId: string, volumeId: string, bytes: number) => ({
    ...{ shootId, volumeId, spareFiles: 1, spareBytes: bytes },
  });

  it('are taken off one drive for each shoot, the largest first', () => {
    const rows = [
      ...['work', 'old', 'new'].map((id) => spare('ball', id, 100)),
      ...['work', 'old', 'new'].map((id) => spare('press', id, 300)),
      { ...spare('other', 'old', 0), spareFiles: 0 },
    ];
    const drives = [
      drive('work', { role: 'working', free: 1 }),
      drive('new', { free: 90 }),
      drive('old', { free: 5 }),
    ];
    expect(spareCopies(rows, drives)).toEqual([
      { shootId: 'press', volumeId: 'old', files: 1, bytes: 300 },
      { shootId: 'ball', volumeId: 'old', files: 1, bytes: 100 },
    ]);
    // One that is away waits, and the drive that is worked from comes last.
    const away = drives.map((one) => (one.id === 'old' ? { ...one, online: false, free: null } : one));
    expect(spareCopies(rows, away)[0]).toMatchObject({ volumeId: 'new' });
    expect(spareCopies(rows, [drives[0]!])[0]).toMatchObject({ volumeId: 'work' });
    expect(spareCopies(rows, [])).toEqual([]);
  });

  it('are those of all kinds together', () => {
    const rows = [spare('ball', 'old', 5), spare('ball', 'old', 7)];
    expect(spareCopies(rows, [drive('old')])).toEqual([
      { shootId: 'ball', volumeId: 'old', files: 2, bytes: 12 },
    ]);
  });
});

describe('the day some months before', () => {
  it('is the same of its month, or the last one where the month is shorter', () => {
    expect(monthsBefore('2026-05-31', 3)).toBe('2026-02-28');
    expect(monthsBefore('2024-05-31', 3)).toBe('2024-02-29');
    expect(monthsBefore('2026-05-31', 12)).toBe('2025-05-31');
    expect(monthsBefore('2026-01-15', 1)).toBe('2025-12-15');
    expect(monthsBefore('2026-05-31', 0)).toBe('2026-05-31');
  });
});
