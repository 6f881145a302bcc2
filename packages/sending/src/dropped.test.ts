import { dragsFiles, fromDrop, fromInput } from './dropped';

const file = (name: string, below = ''): File =>
  Object.defineProperty(new File(['x'], name), 'webkitRelativePath', { value: below });
/** A file of a folder that is dropped, as browsers tell it. */
const entry = (fullPath: string, fails = false) => ({
  ...{ isFile: true, isDirectory: false, fullPath },
  file: (found: (file: File) => void, failed: (error: Error) => void) =>
    fails ? failed(new Error('it cannot be read')) : found(file(fullPath.split('/').at(-1)!)),
});
/** A folder, which is told in parts of two. */
const folder = (fullPath: string, ...inside: object[]) => ({
  ...{ isFile: false, isDirectory: true, fullPath },
  createReader: () => {
    const left = [...inside];
    return { readEntries: (found: (some: object[]) => void) => found(left.splice(0, 2)) };
  },
});
const transfer = (entries: object[], files: File[] = []): DataTransfer =>
  ({
    items: entries.map((one) => ({ webkitGetAsEntry: () => one })),
    ...{ files, types: ['Files'] },
  }) as unknown as DataTransfer;
const paths = (chosen: { path: string }[]) => chosen.map(({ path }) => path);

describe('files that somebody chose', () => {
  it('keep the folders in which they were chosen', () => {
    const chosen = fromInput([file('A.JPG'), file('B.JPG', 'card/DCIM/B.JPG')] as unknown as FileList);
    expect(paths(chosen)).toEqual(['A.JPG', 'card/DCIM/B.JPG']);
  });

  it('are all files of what was dropped, however deep, and however many parts a folder is told in', async () => {
    const card = folder(
      '/card',
      folder('/card/DCIM', ...[1, 2, 3, 4, 5].map((n) => entry(`/card/DCIM/${n}.JPG`))),
      folder('/card/empty'),
      entry('/card/INDEX.DAT'),
    );
    expect(paths(await fromDrop(transfer([card, entry('/loose.JPG')])))).toEqual([
      ...[1, 2, 3, 4, 5].map((n) => `card/DCIM/${n}.JPG`),
      ...['card/INDEX.DAT', 'loose.JPG'],
    ]);
  });

  it('are a picture that was dragged off a page, which is a file without a place', async () => {
    const off = { items: [{ webkitGetAsEntry: () => null }], files: [file('heron.jpg')], types: ['Files'] };
    expect(paths(await fromDrop(off as unknown as DataTransfer))).toEqual(['heron.jpg']);
    expect(dragsFiles(transfer([]))).toBe(true);
    expect(dragsFiles({ types: ['text/plain'] } as unknown as DataTransfer)).toBe(false);
  });

  it('are none where one of them cannot be read: whoever asked is told why', async () => {
    await expect(
      fromDrop(transfer([folder('/card', entry('/card/A.JPG'), entry('/card/B.JPG', true))])),
    ).rejects.toThrow('it cannot be read');
  });
});
