import { ALL_FOLDERS, folderAsked, pathOf, withFolder } from './folderPart';

describe('the folder that a line asks for', () => {
  it('is put in and taken out beside all else that the line says', () => {
    const quay = { path: 'Old pictures/2019-06-01 Quay', below: true };
    const line = withFolder('heron ≥4★', quay);
    expect(line).toBe('heron ≥4★ below:"Old pictures/2019-06-01 Quay"');
    expect(folderAsked(line)).toEqual(quay);
    const own = withFolder(line, { ...quay, below: false });
    expect(own).toBe('heron ≥4★ folder="Old pictures/2019-06-01 Quay"');
    expect(folderAsked(own)).toEqual({ ...quay, below: false });
    expect(withFolder(own, ALL_FOLDERS)).toBe('heron ≥4★ below:/');
    expect(folderAsked('below:/ heron')).toEqual(ALL_FOLDERS);
    expect(withFolder('below:a heron folder=b', null)).toBe('heron');
  });

  it('is none where a line asks for words of it, for several, or for what lies elsewhere', () => {
    for (const line of ['folder:quay', 'folder=a|b', '-below:a', 'heron', ''])
      expect(folderAsked(line)).toBeNull();
  });

  it('has its way from the outermost', () => {
    expect(pathOf('a/b c')).toEqual([
      { path: 'a', name: 'a' },
      { path: 'a/b c', name: 'b c' },
    ]);
    expect(pathOf('')).toEqual([]);
  });
});
