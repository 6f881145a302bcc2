import { EMPTY_HISTORY, record, redone, undone } from './history';
import { applyMark, invertGroup, markFrames, UNMARKED, type MarkOperation, type Marks } from './marks';

let n = 0;
const stamp = { newId: () => `id-${++n}`, at: 1000, window: 'w' };

/** A tiny shoot to play marks on. */
function shoot(ids: string[]) {
  const marks = new Map<string, Marks>(ids.map((id) => [id, { ...UNMARKED }]));
  return {
    marks,
    frames: (...wanted: string[]) => wanted.map((id) => ({ id, marks: marks.get(id)! })),
    apply: (operations: readonly MarkOperation[]) =>
      operations.forEach((o) => marks.set(o.frameId, applyMark(marks.get(o.frameId)!, o))),
    current: (id: string) => marks.get(id),
  };
}

describe('marks', () => {
  it('change only frames that do not have the value yet', () => {
    const s = shoot(['a', 'b']);
    s.apply(markFrames(s.frames('a'), 'stars', 4, stamp));
    const operations = markFrames(s.frames('a', 'b'), 'stars', 4, stamp);
    expect(operations.map((o) => o.frameId)).toEqual(['b']);
  });

  it('keep the stars under a reject and give them back', () => {
    const s = shoot(['a']);
    s.apply(markFrames(s.frames('a'), 'stars', 3, stamp));
    s.apply(markFrames(s.frames('a'), 'verdict', 'reject', stamp));
    s.apply(markFrames(s.frames('a'), 'verdict', 'undecided', stamp));
    expect(s.current('a')).toEqual({ verdict: 'undecided', stars: 3, label: null });
  });

  it.each([
    ['stars', 6],
    ['stars', 2.5],
    ['verdict', 'maybe'],
    ['label', 'Z'],
  ] as const)('refuse %s = %s', (field, to) =>
    expect(() => applyMark(UNMARKED, { field, to: to as never })).toThrow(TypeError),
  );

  it('are taken back by their own inverse, as a group', () => {
    const s = shoot(['a', 'b']);
    const group = markFrames(s.frames('a', 'b'), 'verdict', 'keep', stamp);
    s.apply(group);
    const { operations, skipped } = invertGroup(group, s.current, stamp);
    s.apply(operations);
    expect([...s.marks.values()]).toEqual([UNMARKED, UNMARKED]);
    expect(skipped).toBe(0);
  });

  it('leave alone what somebody else changed since', () => {
    const s = shoot(['a', 'b']);
    const group = markFrames(s.frames('a', 'b'), 'verdict', 'keep', stamp);
    s.apply(group);
    s.apply(markFrames(s.frames('b'), 'verdict', 'reject', { ...stamp, window: 'other' }));
    const { operations, skipped } = invertGroup(group, s.current, stamp);
    s.apply(operations);
    expect(s.current('a')!.verdict).toBe('undecided');
    expect(s.current('b')!.verdict).toBe('reject');
    expect(skipped).toBe(1);
  });
});

describe('history', () => {
  it('goes back and forth any number of steps, and ends where it began', () => {
    const s = shoot(['a', 'b', 'c']);
    let history = EMPTY_HISTORY;
    const steps = 300;
    for (let i = 0; i < steps; i++) {
      const id = ['a', 'b', 'c'][i % 3]!;
      const operations = markFrames(s.frames(id), 'stars', (s.current(id)!.stars + 1 + (i % 4)) % 6, stamp);
      s.apply(operations);
      history = record(history, operations);
    }
    const end = [...s.marks.values()];
    for (let i = 0; i < steps; i++) {
      const { operations } = invertGroup(history.done.at(-1)!, s.current, stamp);
      s.apply(operations);
      history = undone(history, operations);
    }
    expect(history.done).toEqual([]);
    expect([...s.marks.values()]).toEqual([UNMARKED, UNMARKED, UNMARKED]);
    for (let i = 0; i < steps; i++) {
      const { operations } = invertGroup(history.undone.at(-1)!, s.current, stamp);
      s.apply(operations);
      history = redone(history, operations);
    }
    expect([...s.marks.values()]).toEqual(end);
  });

  it('forgets what was undone when something new is decided', () => {
    const s = shoot(['a']);
    const first = markFrames(s.frames('a'), 'stars', 1, stamp);
    s.apply(first);
    const { operations } = invertGroup(first, s.current, stamp);
    s.apply(operations);
    const history = undone(record(EMPTY_HISTORY, first), operations);
    expect(record(history, markFrames(s.frames('a'), 'stars', 2, stamp)).undone).toEqual([]);
  });
});
