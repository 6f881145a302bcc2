import fc from 'fast-check';
import { EMPTY_SIDECAR } from '../xmp/sidecar';
import {
  ADOPT_RULES,
  dateOfFolder,
  firstSaid,
  besideFile,
  folderChanges,
  shootOfFolder,
  sidecarNames,
  sidecarsAmong,
  staysOut,
  titleOfFolder,
} from '../index';

describe('which folders of a tree become shoots', () => {
  const keyOf = (rule: (typeof ADOPT_RULES)[number], folder: string) =>
    shootOfFolder(rule, folder, '2024-05-11').key;

  it('takes each one directly below with all that lies in it, or each that holds pictures', () => {
    expect(keyOf('top', 'Harbour/raw/card 1')).toBe('Harbour');
    expect(keyOf('each', 'Harbour/raw/card 1')).toBe('Harbour/raw/card 1');
    expect(keyOf('top', '')).toBe('');
  });

  it('takes the innermost that bears a date, and a folder that bears none by itself', () => {
    expect(keyOf('dated', '2024/2024-05-11 Harbour/raw')).toBe('2024/2024-05-11 Harbour');
    expect(keyOf('dated', '2024/05/11/jpg')).toBe('2024/05/11');
    expect(keyOf('dated', 'Old scans/box 3')).toBe('Old scans/box 3');
  });

  it('takes the day of capture whatever the folder', () => {
    expect(shootOfFolder('day', 'mixed/phone', '2024-05-11')).toEqual({
      ...{ key: '2024-05-11', folder: 'mixed/phone', date: '2024-05-11' },
    });
  });

  it.each([
    ['2024-05-11 Harbour', '2024-05-11'],
    ['20240511_harbour', '2024-05-11'],
    ['Harbour 11.05.2024', '2024-05-11'],
    ['2024/05/11', '2024-05-11'],
    ['2024/2024-05/2024-05-11', '2024-05-11'],
    ['2024-05-11/raw', '2024-05-11'],
    ['2024/Harbour', null],
    ['2024-13-45', null],
    ['IMG_20240511123', null],
    ['2024051199', null],
    ['2023-02-29 none such', null],
  ])('reads the date of “%s” as %s', (folder, date) => {
    expect(dateOfFolder(folder)).toBe(date);
  });

  it('puts a folder and all below the same shoot’s folder into that shoot, for any tree', () => {
    const segment = fc.stringMatching(/^[a-z0-9 .-]{1,12}$/).filter((text) => text.trim() !== '');
    fc.assert(
      fc.property(
        fc.constantFrom('top', 'each', 'dated' as const),
        fc.array(segment, { minLength: 1, maxLength: 5 }),
        (rule, segments) => {
          const folder = segments.join('/');
          const shoot = shootOfFolder(rule as 'top', folder, '2024-05-11');
          expect(folder === shoot.folder || folder.startsWith(`${shoot.folder}/`)).toBe(true);
          // A shoot's own folder is a folder of that shoot.
          expect(shootOfFolder(rule as 'top', shoot.folder, '2024-05-11').key).toBe(shoot.key);
        },
      ),
    );
  });

  it.each([
    ['top', '2024-05-11 Harbour', 'Harbour'],
    ['top', 'Harbour', 'Harbour'],
    ['dated', '2024/05/11', 'Pictures 2024 05 11'],
    ['dated', '2024-05-11', 'Pictures 2024-05-11'],
    ['each', '', 'Pictures'],
  ] as const)('by the rule “%s” calls a shoot of “%s” “%s”', (rule, folder, title) => {
    expect(titleOfFolder({ folder, key: folder }, rule, 'Pictures')).toBe(title);
  });
});

describe('what stays out of an adopted folder', () => {
  it('leaves hidden folders, and shoots and texts of an archive', () => {
    expect(staysOut('.cache', [])).toBe('hidden');
    expect(staysOut('.arkiv-archive', [])).toBe('archive');
    expect(staysOut('2026-05-11 Ana', ['.arkiv', 'a.jpg'])).toBe('archive');
    expect(staysOut('Ana', ['a.jpg'])).toBeNull();
  });
});

describe('what has changed in an adopted folder', () => {
  const file = (path: string, size: number, mtimeMillis: number) => ({ path, size, mtimeMillis });

  it('tells new files, changed ones and those that are gone', () => {
    const known = [file('a.jpg', 10, 1), file('b.jpg', 20, 1), file('c.jpg', 30, 1)];
    const found = [file('a.jpg', 10, 1), file('b.jpg', 21, 2), file('d.jpg', 40, 1)];
    expect(folderChanges(known, found)).toEqual({
      fresh: [found[2]],
      changed: [{ was: known[1], is: found[1] }],
      gone: [known[2]],
    });
  });

  it('finds nothing where nothing has changed', () => {
    const known = [file('a.jpg', 10, 1)];
    expect(folderChanges(known, [file('a.jpg', 10, 1)])).toEqual({ fresh: [], changed: [], gone: [] });
  });
});

describe('what is said of a frame that was found', () => {
  it('names its sidecars, the frame’s own before those of single files', () => {
    const names = ['a.jpg', 'A.NEF.xmp', 'a.XMP', 'b.xmp', 'a.jpg.xmp', 'a.pp3'];
    const sidecars = sidecarNames(names);
    expect(sidecarsAmong('a', ['a.NEF', 'a.jpg'], sidecars)).toEqual(['a.XMP', 'A.NEF.xmp', 'a.jpg.xmp']);
    expect(sidecarsAmong('c', ['c.jpg'], sidecars)).toEqual([]);
    // Two that differ by letters alone lie side by side on some disks.
    expect(sidecarsAmong('b', ['b.jpg'], sidecarNames(['b.xmp', 'B.xmp']))).toEqual(['b.xmp', 'B.xmp']);
  });

  it('tells a sidecar of one file from one of its frame, and from what only ends like it', () => {
    expect(['a.jpg.xmp', 'A.v2.NEF.XMP'].map(besideFile)).toEqual(['a.jpg', 'A.v2.NEF']);
    for (const name of ['a.xmp', 'a.jpg', 'a.2019.xmp', 'a.xmp.xmp', '.xmp'])
      expect(besideFile(name)).toBeNull();
  });

  it('takes each field from the first place that says anything of it', () => {
    const own = { ...EMPTY_SIDECAR, stars: 3, keywords: ['boat'] };
    const inside = { stars: 5, caption: 'At the quay', keywords: ['old'], persons: ['Ana'] };
    expect(firstSaid([own, inside])).toEqual({
      ...EMPTY_SIDECAR,
      ...{ stars: 3, caption: 'At the quay', keywords: ['boat'], persons: ['Ana'] },
    });
    expect(firstSaid([])).toEqual(EMPTY_SIDECAR);
  });
});
