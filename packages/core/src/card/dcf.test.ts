import { formatWords, frameKind, pictureOf } from './fileKinds';
import {
  compareDcf,
  groupCardFiles,
  parseDcfBase,
  parseDcfDirectory,
  kindOf,
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
    expect(frames[0]!.files.map((f) => f.role)).toEqual(['original', 'original', 'note', 'sidecar']);
    expect(frames[0]!.files.map((f) => [f.format, f.raw]).slice(0, 2)).toEqual([
      ['dng', true],
      ['jpeg', false],
    ]);
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
    ['x/a.JPG', 'original', 'jpeg', false],
    ['x/a.cr3', 'original', 'cr3', true],
    ['x/a.TIF', 'original', 'tiff', false],
    ['x/a.heic', 'original', 'heic', false],
    ['x/a.X3F', 'original', 'x3f', true],
    ['x/a.jxl', 'original', 'jxl', false],
    ['x/a.mp4', 'clip', 'mp4', false],
    ['x/._a.JPG', 'other', '', false],
    ['x/noextension', 'other', '', false],
  ])('takes %s for %s, %s, raw: %s', (path, role, format, raw) =>
    expect(kindOf(path)).toEqual({ role, format, raw }),
  );

  it.each([
    ['case', ['D/DSCN0001.JPG', 'D/dscn0001.jpg']],
    ['case of the extension alone', ['D/A.JPG', 'D/A.jpg']],
    ['Unicode form', ['D/\u00e9.JPG', 'D/e\u0301.JPG']],
    ['a dot at the end', ['D/A.JPG', 'D/A..JPG']],
  ])('makes two frames of two files whose names differ only by %s', (_, paths) => {
    const { frames, extras } = groupCardFiles(paths.map((p) => file(p)));
    expect(extras).toEqual([]);
    expect(frames.map((f) => f.files.map((x) => x.path)).sort()).toEqual(paths.map((p) => [p]).sort());
    expect(new Set(frames.map((f) => f.key)).size).toBe(2);
  });

  it('leaves each of two such frames what is named exactly like it', () => {
    const paths = ['D/A.DNG', 'D/A.JPG', 'D/a.jpg', 'D/a.wav', 'D/a.JPG.xmp'];
    const { frames } = groupCardFiles(paths.map((p) => file(p)));
    expect(frames.map((f) => f.files.map((x) => x.path))).toEqual([
      ['D/A.DNG', 'D/A.JPG'],
      ['D/a.jpg', 'D/a.wav', 'D/a.JPG.xmp'],
    ]);
  });

  it('says three facts of a frame, and which file shows it', () => {
    const kinds = (...names: string[]) => names.map((name) => kindOf(`x/${name}`));
    expect(frameKind(kinds('a.jpg', 'a.dng'))).toEqual({ role: 'original', format: 'dng+jpeg', raw: 'pair' });
    expect(frameKind(kinds('a.tif'))).toEqual({ role: 'original', format: 'tiff', raw: 'none' });
    expect(frameKind(kinds('a.heic', 'a.mov'))).toEqual({
      role: 'original',
      format: 'heic+mov',
      raw: 'none',
    });
    expect(frameKind(kinds('a.mp4'))).toEqual({ role: 'clip', format: 'mp4', raw: 'none' });
    expect(pictureOf(kinds('a.dng', 'a.heic', 'a.jpg'))?.format).toBe('jpeg');
    expect(pictureOf(kinds('a.jxl', 'a.dng'))?.format).toBe('dng');
    expect(pictureOf(kinds('a.mov', 'a.jxl'))?.format).toBe('jxl');
    expect(pictureOf(kinds('a.wav'))).toBeNull();
    expect(['dng+jpeg', 'jxl', ''].map(formatWords)).toEqual(['DNG + JPEG', 'JPEG XL', '']);
  });

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
