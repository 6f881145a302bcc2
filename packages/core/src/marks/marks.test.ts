import { invertAll, invertGroup } from '../journal/operation';
import { saidIn, textsIn } from '../description/texts';
import {
  applyMark,
  keywordKind,
  markEach,
  markFrames,
  markOf,
  pileKind,
  personKind,
  pilesOf,
  textKind,
  UNMARKED,
  wordChanges,
  type MarkKind,
  type MarkOperation,
  type Marks,
} from './marks';

let n = 0;
const stamp = { newId: () => `id-${++n}`, at: 1000, window: 'w' };

/** A tiny shoot to play marks on. */
function shoot(ids: string[]) {
  const marks = new Map<string, Marks>(ids.map((id) => [id, { ...UNMARKED }]));
  return {
    marks,
    frames: (...wanted: string[]) => wanted.map((id) => ({ id, marks: marks.get(id)! })),
    apply: (operations: readonly MarkOperation[]) =>
      operations.forEach((o) => marks.set(o.subject, applyMark(marks.get(o.subject)!, o))),
    current: (id: string, kind: MarkKind) => marks.has(id) && markOf(marks.get(id)!, kind),
    of: (id: string) => marks.get(id),
  };
}

describe('marks', () => {
  it('change only frames that do not have the value yet', () => {
    const s = shoot(['a', 'b']);
    s.apply(markFrames(s.frames('a'), 'stars', 4, stamp));
    const operations = markFrames(s.frames('a', 'b'), 'stars', 4, stamp);
    expect(operations.map((o) => o.subject)).toEqual(['b']);
  });

  it('keep the stars under a reject and give them back', () => {
    const s = shoot(['a']);
    s.apply(markFrames(s.frames('a'), 'stars', 3, stamp));
    s.apply(markFrames(s.frames('a'), 'verdict', 'reject', stamp));
    s.apply(markFrames(s.frames('a'), 'verdict', 'undecided', stamp));
    expect(s.of('a')).toEqual({ ...UNMARKED, stars: 3 });
  });

  it.each([
    ['stars', 6],
    ['stars', 2.5],
    ['verdict', 'maybe'],
    ['label', 'Z'],
    ['pile 00P00000000000000000000001', 'in'],
    ['pile so-and-so', true],
    ['caption', ' blanks around '],
    ['caption', ''],
    ['keyword  heron', true],
    ['keyword grey  heron', true],
    ['keyword heron', 'yes'],
    ['text city', ' Hafen'],
    ['text city', 4],
    ['text town', 'Hafen'],
    ['person ', true],
  ] as const)('refuse %s = %s', (kind, to) =>
    expect(() => applyMark(UNMARKED, { kind: kind as MarkKind, to: to as never })).toThrow(TypeError),
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

  it('give frames keywords one by one, each once whatever its case, and take them back to where they were', () => {
    const s = shoot(['a', 'b']);
    s.apply(markFrames(s.frames('a'), keywordKind('Heron'), true, stamp));
    const group = markEach(
      ['heron', 'grey heron'].flatMap((word) =>
        s.frames('a', 'b').map((frame) => ({ ...frame, field: keywordKind(word), to: true })),
      ),
      stamp,
    );
    s.apply(group);
    expect([s.of('a')!.keywords, s.of('b')!.keywords]).toEqual(['Heron\ngrey heron', 'heron\ngrey heron']);
    // Given again by another window it stays where it stands, as it was written first.
    const two = { ...UNMARKED, keywords: 'Heron\nfish' };
    expect(applyMark(two, { kind: keywordKind('heron'), to: true })).toEqual(two);
    // What it had already it keeps.
    s.apply(invertGroup(group, s.current, stamp).operations);
    expect([s.of('a')!.keywords, s.of('b')!.keywords]).toEqual(['Heron', '']);
    s.apply(markFrames(s.frames('a'), keywordKind('HERON'), false, stamp));
    expect(s.of('a')).toEqual(UNMARKED);
  });

  it('say several texts of a frame, each for itself, and who is shown', () => {
    const s = shoot(['a', 'b']);
    s.apply(markFrames(s.frames('a', 'b'), textKind('city'), 'Hafen', stamp));
    const group = markFrames(s.frames('a'), textKind('credit'), 'A. B.', stamp);
    s.apply(group);
    expect(textsIn(s.of('a')!.texts)).toEqual({ credit: 'A. B.', city: 'Hafen' });
    expect(s.current('a', textKind('city'))).toBe('Hafen');
    s.apply(invertGroup(group, s.current, stamp).operations);
    // What is said alike is kept alike, in whatever order it was said.
    expect(s.of('a')!.texts).toBe(s.of('b')!.texts);
    s.apply(markFrames(s.frames('a'), textKind('city'), null, stamp));
    expect(s.of('a')).toEqual(UNMARKED);
    s.apply(markFrames(s.frames('a', 'b'), personKind('Ana Pinto'), true, stamp));
    s.apply(markFrames(s.frames('b'), personKind('ana pinto'), false, stamp));
    expect([s.of('a')!.persons, s.of('b')!.persons]).toEqual(['Ana Pinto', '']);
    expect(wordChanges('persons', 'Ana Pinto\nBo', 'Bo\nCy')).toEqual([
      { kind: 'person Ana Pinto', from: true, to: false },
      { kind: 'person Cy', from: false, to: true },
    ]);
  });

  it('hold a caption of several lines as a sidecar gives it back', () => {
    const caption = saidIn('  The pier,\r\nat low tide. ');
    expect(caption).toBe('The pier,\nat low tide.');
    expect(applyMark(UNMARKED, { kind: 'caption', to: caption })).toEqual({ ...UNMARKED, caption });
    expect(saidIn(' \n ')).toBeNull();
  });

  it('put a frame into several piles, each for itself, and take it out of one alone', () => {
    const [picks, print] = [pileKind('00P00000000000000000000002'), pileKind('00P00000000000000000000001')];
    const s = shoot(['a', 'b']);
    s.apply(markFrames(s.frames('a', 'b'), picks, true, stamp));
    const printed = markFrames(s.frames('a'), print, true, stamp);
    s.apply(printed);
    expect(pilesOf(s.of('a')!)).toEqual(['00P00000000000000000000001', '00P00000000000000000000002']);
    // Another window took it out of the other pile meanwhile: that is no reason to leave it in this one.
    s.apply(markFrames(s.frames('a'), picks, false, { ...stamp, window: 'other' }));
    const { operations, skipped } = invertGroup(printed, s.current, stamp);
    s.apply(operations);
    expect([skipped, s.of('a')!.piles, s.of('b')!.piles]).toEqual([0, '', '00P00000000000000000000002']);
    expect(markFrames(s.frames('b'), picks, true, stamp)).toEqual([]);
  });

  it('of a whole piece of work are taken back to what was before it, but where they were changed since', () => {
    const s = shoot(['a', 'b', 'c']);
    s.apply(markFrames(s.frames('a'), 'stars', 2, stamp));
    const work = [
      ...[
        markFrames(s.frames('a', 'b'), 'stars', 3, stamp),
        markFrames(s.frames('b'), 'verdict', 'keep', stamp),
      ],
    ].flat();
    s.apply(work);
    const more = markFrames(s.frames('a', 'c'), 'stars', 5, stamp);
    s.apply(more);
    s.apply(markFrames(s.frames('c'), 'stars', 1, { ...stamp, window: 'other' }));
    const { operations, skipped } = invertAll([...work, ...more], s.current, stamp);
    s.apply(operations);
    expect(['a', 'b', 'c'].map((id) => s.of(id)!.stars)).toEqual([2, 0, 1]);
    expect([s.of('b')!.verdict, skipped]).toEqual(['undecided', 1]);
    expect(new Set(operations.map(({ group, undoes }) => `${group} ${undoes}`)).size).toBe(1);
  });

  it('leave alone what somebody else changed since', () => {
    const s = shoot(['a', 'b']);
    const group = markFrames(s.frames('a', 'b'), 'verdict', 'keep', stamp);
    s.apply(group);
    s.apply(markFrames(s.frames('b'), 'verdict', 'reject', { ...stamp, window: 'other' }));
    const { operations, skipped } = invertGroup(group, s.current, stamp);
    s.apply(operations);
    expect(s.of('a')!.verdict).toBe('undecided');
    expect(s.of('b')!.verdict).toBe('reject');
    expect(skipped).toBe(1);
  });
});
