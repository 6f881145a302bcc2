import { partsOfLine, predicate, lineFilter, type QueryFrame } from '@arkiv/core';
import { folderLine, foldersIn, picturesOf, shownFolder } from './folders';

const HOME = '2031/2031-04-18_regatta/originals';
const places = [HOME, HOME, `${HOME}/proofs`, `${HOME}/proofs/second round`, `${HOME}/finish`];
const folders = foldersIn(places);
const shown = (line: string) =>
  places.filter((lies) => predicate(lineFilter(partsOfLine(line)))({ lies } as QueryFrame)).length;

describe('the folders of a shoot', () => {
  it('count what lies in them and below them', () => {
    expect(folders.map(({ path, name, frames }) => `${path}|${name}|${frames}`)).toEqual([
      ...['|originals|5', 'finish|finish|1', 'proofs|proofs|2', 'proofs/second round|second round|1'],
    ]);
    expect(foldersIn([HOME, HOME])).toHaveLength(1);
    expect(foldersIn([])).toEqual([]);
    // Rejects that were set aside lie beside the originals.
    expect(foldersIn([HOME, HOME.replace('originals', 'rejects')]).map(({ path }) => path)).toEqual([
      ...['', 'originals', 'rejects'],
    ]);
  });

  it('stand by their names as people count them', () => {
    const rounds = ['round 10', 'round 2', 'a "b" \\'].map((name) => `${HOME}/${name}`);
    const ordered = foldersIn([HOME, ...rounds]);
    expect(ordered.map(({ name }) => name)).toEqual(['originals', 'a "b" \\', 'round 2', 'round 10']);
    // A name with quotation marks of its own is walked to like any other.
    const line = folderLine('heron', 'a "b" \\', ordered);
    expect(shownFolder(line, ordered)).toEqual({ path: 'a "b" \\', below: true });
    expect(folderLine(line, '', ordered)).toBe('heron');
  });

  it('are walked by the line, which keeps what else it says', () => {
    const proofs = folderLine('heron ≥4★', 'proofs', folders);
    expect(proofs).toBe(`heron ≥4★ below:${HOME}/proofs`);
    expect(shown(folderLine('', 'proofs', folders))).toBe(2);
    expect(shownFolder(proofs, folders)).toEqual({ path: 'proofs', below: true });
    const second = folderLine(proofs, 'proofs/second round', folders);
    expect(shownFolder(second, folders).path).toBe('proofs/second round');
    expect(shown(folderLine('', 'proofs/second round', folders))).toBe(1);
    expect(folderLine(second, '', folders)).toBe('heron ≥4★');
    for (const line of ['heron', 'below:elsewhere', `folder=${HOME}|${HOME}/proofs`])
      expect(shownFolder(line, folders)).toEqual({ path: '', below: true });
  });

  it('are shown with or without what lies below them', () => {
    const own = folderLine('heron', 'proofs', folders, false);
    expect(shownFolder(own, folders)).toEqual({ path: 'proofs', below: false });
    expect(shown(folderLine('', 'proofs', folders, false))).toBe(1);
    expect(shown(folderLine('', '', folders, false))).toBe(2);
    expect(folderLine(own, '', folders)).toBe('heron');
    expect(shown(folderLine('', '', folders))).toBe(5);
    expect(folders.map((one) => one.own)).toEqual([2, 1, 1, 1]);
  });
});

describe('what stands for a folder', () => {
  const frame = (
    id: string,
    lies: string,
    stars = 0,
    verdict: 'keep' | 'undecided' | 'reject' = 'undecided',
  ) => ({
    ...{ id, lies, picture: `p-${id}`, stars, verdict },
  });
  const frames = [
    frame('a', HOME, 5, 'reject'),
    frame('b', HOME, 1),
    frame('c', `${HOME}/proofs/second round`),
    frame('d', `${HOME}/proofs/second round`, 2, 'keep'),
    frame('e', `${HOME}/finish`, 5),
    frame('f', `${HOME}/finish`),
  ];
  const its = foldersIn(frames.map(({ lies }) => lies));

  it('is the best of it, of what is below it where it holds nothing itself, and what somebody chose before all', () => {
    const pictures = picturesOf(frames, its, ['f']);
    expect(Object.fromEntries(pictures)).toEqual({
      ...{ '': 'p-b', finish: 'p-f', proofs: 'p-d', 'proofs/second round': 'p-d' },
    });
    expect(picturesOf(frames, its, []).get('finish')).toBe('p-e');
    expect(picturesOf([], its, []).size).toBe(0);
  });
});
