import {
  compareDcf,
  groupCardFiles,
  parseDcfBase,
  parseDcfDirectory,
  roleOf,
  splitByCaptureTime,
} from './dcf';

const file = (path: string, size = 1) => ({ path, size, mtimeMillis: 0 });

// CIPA DC-009 (DCF 2.0), 3.2.2 and 3.2.3.
describe('DCF names', () => {
  it.each([
    ['100ABCDE', { number: 100, free: 'ABCDE' }],
    ['999_____', { number: 999, free: '_____' }],
  ])('reads the directory %s', (name, expected) => expect(parseDcfDirectory(name)).toEqual(expected));

  it.each(['099ABCDE', '1000ABCDE', '100ABCD', '100ABC-E', 'ABCDE100', ''])(
    'refuses the directory “%s”',
    (name) => expect(parseDcfDirectory(name)).toBeNull(),
  );

  it.each([
    ['ABCD0001', { free: 'ABCD', number: 1 }],
    ['OCK_9999', { free: 'OCK_', number: 9999 }],
  ])('reads the base %s', (name, expected) => expect(parseDcfBase(name)).toEqual(expected));

  it.each(['ABCD0000', 'ABC0001', 'ABCDE001', 'AB-D0001'])('refuses the base “%s”', (name) =>
    expect(parseDcfBase(name)).toBeNull(),
  );

  it('puts 9999 of one directory before 0001 of the next', () => {
    const last = { directory: 'DCIM/100OCKHM', base: 'OCK_9999' };
    const first = { directory: 'DCIM/101OCKHM', base: 'OCK_0001' };
    expect(compareDcf(last, first)).toBeLessThan(0);
    expect(compareDcf(first, last)).toBeGreaterThan(0);
  });

  it('puts folders that follow no rule after those that do', () => {
    expect(
      compareDcf({ directory: 'AAA', base: 'X' }, { directory: 'DCIM/100ABCDE', base: 'ABCD0001' }),
    ).toBeGreaterThan(0);
  });
});

describe('files of a card', () => {
  it('makes raw, JPEG, note and sidecar of one base name one frame', () => {
    const { frames, extras } = groupCardFiles(
      [
        'DCIM/100A_CDE/IMG_0001.JPG',
        'DCIM/100A_CDE/IMG_0001.DNG',
        'DCIM/100A_CDE/IMG_0001.WAV',
        'DCIM/100A_CDE/IMG_0001.DNG.xmp',
      ].map((p) => file(p)),
    );
    expect(extras).toEqual([]);
    expect(frames).toHaveLength(1);
    expect(frames[0]!.files.map((f) => f.role)).toEqual(['raw', 'jpeg', 'note', 'sidecar']);
  });

  it('keeps equal base names of two directories apart', () => {
    const { frames } = groupCardFiles([
      file('DCIM/100AAAAA/IMG_0001.JPG'),
      file('DCIM/101AAAAA/IMG_0001.JPG'),
    ]);
    expect(frames).toHaveLength(2);
  });

  it('pairs names that differ only by case', () => {
    expect(groupCardFiles([file('A/img_1.jpg'), file('A/IMG_1.DNG')]).frames).toHaveLength(1);
  });

  it('leaves nothing out: what is no picture is an extra', () => {
    const paths = ['MISC/INDEX.DAT', 'DCIM/100AAAAA/.DS_Store', 'DCIM/100AAAAA/NOTE0001.WAV', 'README'];
    const { frames, extras } = groupCardFiles(paths.map((p) => file(p)));
    expect(frames).toEqual([]);
    expect(extras.map((e) => e.path).sort()).toEqual([...paths].sort());
  });

  it.each([
    ['x/a.JPG', 'jpeg'],
    ['x/a.cr3', 'raw'],
    ['x/a.mp4', 'clip'],
    ['x/._a.JPG', 'other'],
    ['x/noextension', 'other'],
  ])('takes %s for %s', (path, role) => expect(roleOf(path)).toBe(role));

  it('makes two frames of one base name with two capture times', () => {
    const [frame] = groupCardFiles([file('D/A.JPG'), file('D/A.DNG'), file('D/A.WAV')]).frames;
    const seconds: Record<string, number> = { 'D/A.JPG': 1000, 'D/A.DNG': 5000 };
    const parts = splitByCaptureTime(frame!, (path) => seconds[path] ?? null);
    expect(parts.map((p) => p.files.map((f) => f.path))).toEqual([['D/A.DNG', 'D/A.WAV'], ['D/A.JPG']]);
    expect(new Set(parts.map((p) => p.key)).size).toBe(2);
  });

  it('allows two seconds between raw and JPEG of one press', () => {
    const [frame] = groupCardFiles([file('D/A.JPG'), file('D/A.DNG')]).frames;
    expect(splitByCaptureTime(frame!, (path) => (path.endsWith('JPG') ? 1002 : 1000))).toHaveLength(1);
  });
});
