import {
  applyMark,
  markFrames,
  UNMARKED,
  markOf,
  type MarkKind,
  type MarkOperation,
  type Marks,
} from '../marks/marks';
import { History } from './history';
import { invertGroup, PROGRAM, STUDIO } from './operation';

let n = 0;
const stamp = (window = 'w', by = STUDIO) => ({ newId: () => `id-${++n}`, at: 1000, window, by });

/** A shoot, its journal, and windows that all hear of it. */
function played(ids: string[]) {
  const marks = new Map<string, Marks>(ids.map((id) => [id, { ...UNMARKED }]));
  const journal: MarkOperation[] = [];
  const apply = (operations: readonly MarkOperation[]): void => {
    for (const operation of operations)
      marks.set(operation.subject, applyMark(marks.get(operation.subject)!, operation));
    journal.push(...operations);
  };
  const current = (id: string, kind: MarkKind) => marks.has(id) && markOf(marks.get(id)!, kind);
  const mark = (wanted: string[], stars: number, by = stamp()): MarkOperation[] => {
    const frames = wanted.map((id) => ({ id, marks: marks.get(id)! }));
    const operations = markFrames(frames, 'stars', stars, by);
    apply(operations);
    return operations;
  };
  /** One step back or forth, by what the journal alone says. */
  const step = (which: 'lastDone' | 'lastUndone', window = 'w'): number | null => {
    const history = new History<MarkOperation>(STUDIO);
    history.take(journal);
    const group = history[which];
    if (!group) return null;
    const { operations, skipped } = invertGroup(group.operations, current, stamp(window));
    apply(operations);
    return skipped;
  };
  const stars = () => ids.map((id) => marks.get(id)!.stars);
  return { journal, mark, step, stars };
}

describe('history', () => {
  it('goes back and forth any number of steps by the journal alone, and ends where it began', () => {
    const s = played(['a', 'b', 'c']);
    for (let i = 0; i < 60; i++) s.mark([['a', 'b', 'c'][i % 3]!], (s.stars()[i % 3]! + 1 + (i % 4)) % 6);
    const end = s.stars();
    for (let i = 0; i < 60; i++) expect(s.step('lastDone')).toBe(0);
    expect(s.step('lastDone')).toBeNull();
    expect(s.stars()).toEqual([0, 0, 0]);
    for (let i = 0; i < 60; i++) expect(s.step('lastUndone')).toBe(0);
    expect(s.step('lastUndone')).toBeNull();
    expect(s.stars()).toEqual(end);
  });

  it('takes back the newest group of all windows first, and does it again from any of them', () => {
    const s = played(['a', 'b']);
    s.mark(['a'], 1, stamp('one'));
    s.mark(['a', 'b'], 3, stamp('two'));
    s.step('lastDone', 'one');
    expect(s.stars()).toEqual([1, 0]);
    s.step('lastDone', 'two');
    expect(s.stars()).toEqual([0, 0]);
    s.step('lastUndone', 'two');
    s.step('lastUndone', 'one');
    expect(s.stars()).toEqual([3, 3]);
    s.step('lastDone', 'one');
    expect(s.stars()).toEqual([1, 0]);
  });

  it('forgets what was undone when something new is decided', () => {
    const s = played(['a']);
    s.mark(['a'], 1);
    s.step('lastDone');
    s.mark(['a'], 2);
    expect(s.step('lastUndone')).toBeNull();
    s.step('lastDone');
    expect(s.stars()).toEqual([0]);
    expect(s.step('lastDone')).toBeNull();
  });

  it('leaves to others what is theirs', () => {
    const s = played(['a']);
    s.mark(['a'], 1);
    s.mark(['a'], 4, stamp('sidecar', PROGRAM));
    // The newest of the studio's is the first one, and what somebody else changed since stays.
    expect(s.step('lastDone')).toBe(1);
    expect(s.stars()).toEqual([4]);
  });

  it('takes each operation once, in parts or again', () => {
    const s = played(['a', 'b', 'c']);
    const group = s.mark(['a', 'b', 'c'], 5);
    const history = new History<MarkOperation>(STUDIO);
    expect(history.take(group.slice(0, 1))).toHaveLength(1);
    expect(history.take(group)).toHaveLength(2);
    expect(history.take(group)).toEqual([]);
    expect(history.lastDone).toEqual({ id: group[0]!.group, operations: group });
  });

  it('knows what was taken back of a group that is older than what it knows', () => {
    const s = played(['a']);
    s.mark(['a'], 1);
    s.step('lastDone');
    const history = new History<MarkOperation>(STUDIO);
    history.take(s.journal.slice(1));
    expect(history.lastDone).toBeNull();
    expect(history.lastUndone?.operations).toEqual(s.journal.slice(1));
  });
});
