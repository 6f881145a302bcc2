import { chosenFiles, settledFiles, watchTypeOf, type Unchanged, type WatchChoice } from './watch';

const ALL: WatchChoice = { types: ['raw', 'jpeg', 'other', 'clip'], below: true, out: '' };
const file = (path: string, size = 100, mtimeMillis = 1000) => ({ path, size, mtimeMillis });
const paths = (files: readonly { path: string }[]) => files.map(({ path }) => path).sort();

describe('What a rule takes of a watched folder', () => {
  const files = [
    file('A.DNG'),
    file('A.JPG'),
    file('A.WAV'),
    file('B.jpg'),
    file('B.xmp'),
    file('C.MOV'),
    file('D.png'),
    file('notes.txt'),
    file('E.xmp'),
    file('.hidden.jpg'),
    file('day 2/F.jpg'),
    file('day 2/.trash/G.jpg'),
    file('Private/H.jpg'),
    file('day 2/private/I.jpg'),
  ];

  it('tells types apart', () => {
    expect(['A.DNG', 'a.jpeg', 'D.png', 'C.mp4', 'A.WAV', 'notes.txt'].map(watchTypeOf)).toEqual([
      ...['raw', 'jpeg', 'other', 'clip', null, null],
    ]);
  });

  it('is every picture and clip with what lies beside it, and nothing else', () => {
    const { chosen, outside } = chosenFiles(ALL, files);
    expect(paths(chosen)).toEqual([
      ...['A.DNG', 'A.JPG', 'A.WAV', 'B.jpg', 'B.xmp', 'C.MOV', 'D.png', 'Private/H.jpg'],
      ...['day 2/F.jpg', 'day 2/private/I.jpg'],
    ]);
    expect(Object.fromEntries(outside)).toEqual({
      '.hidden.jpg': 'hidden',
      'day 2/.trash/G.jpg': 'hidden',
      'notes.txt': 'unknown',
      'E.xmp': 'unknown',
    });
  });

  it('is of the types that are wanted; what lies beside others alone stays with them', () => {
    const { chosen, outside } = chosenFiles({ ...ALL, types: ['raw'] }, files);
    expect(paths(chosen)).toEqual(['A.DNG', 'A.WAV']);
    expect(outside.get('A.JPG')).toBe('type');
    expect(outside.get('B.xmp')).toBe('type');
  });

  it('leaves folders below alone where that is wanted, and one that is to stay out wherever it lies, in any case', () => {
    expect(paths(chosenFiles({ ...ALL, below: false }, files).chosen)).not.toContain('day 2/F.jpg');
    const { chosen, outside } = chosenFiles({ ...ALL, out: 'PRIVATE' }, files);
    expect(paths(chosen).filter((path) => /[HI]\.jpg/.test(path))).toEqual([]);
    expect(outside.get('day 2/private/I.jpg')).toBe('out');
  });
});

describe('A file that is still being written', () => {
  const settle = 2000;

  it('waits until it has not changed for long enough', () => {
    const seen: Unchanged = new Map();
    expect(settledFiles([file('A.jpg', 10)], seen, 0, settle)).toEqual({ settled: [], next: 2000 });
    expect(settledFiles([file('A.jpg', 20)], seen, 1900, settle)).toEqual({ settled: [], next: 2000 });
    expect(settledFiles([file('A.jpg', 20)], seen, 3000, settle)).toEqual({ settled: [], next: 900 });
    expect(paths(settledFiles([file('A.jpg', 20)], seen, 3900, settle).settled)).toEqual(['A.jpg']);
  });

  it('keeps the others of its frame waiting, and no other frame', () => {
    const seen: Unchanged = new Map();
    settledFiles([file('A.jpg'), file('B.jpg')], seen, 0, settle);
    const { settled, next } = settledFiles(
      [file('A.jpg'), file('A.DNG', 5), file('B.jpg')],
      seen,
      2000,
      settle,
    );
    expect([paths(settled), next]).toEqual([['B.jpg'], 2000]);
    settledFiles([file('A.jpg'), file('A.DNG', 9)], seen, 3000, settle);
    expect(paths(settledFiles([file('A.jpg'), file('A.DNG', 9)], seen, 5000, settle).settled)).toEqual([
      ...['A.DNG', 'A.jpg'],
    ]);
  });

  it('is forgotten when it goes, and begins anew when it comes back', () => {
    const seen: Unchanged = new Map();
    settledFiles([file('A.jpg')], seen, 0, settle);
    settledFiles([], seen, 1000, settle);
    expect(settledFiles([file('A.jpg')], seen, 2500, settle).settled).toEqual([]);
  });

  it('is taken at once where nothing is waited for', () => {
    expect(paths(settledFiles([file('A.jpg')], new Map(), 0, 0).settled)).toEqual(['A.jpg']);
  });
});
