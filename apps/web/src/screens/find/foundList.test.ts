import { FoundList, headingWords } from './foundList';
import { nearTimeLine } from '../../data/nearTime';
import {
  albumQuestion,
  findAddress,
  NO_QUESTION,
  questionOf,
  questionText,
  type FindQuestion,
} from '../../data/findQuestion';

const group = (key: string | null, from: number, count: number) => ({
  ...{ key, from, count, title: null, date: null },
});
const GROUPS = [group('a', 0, 3), group('b', 3, 4), group('c', 7, 2)];
const list = (folded: readonly string[] = []) =>
  new FoundList(9, GROUPS, 'keyword', new Set(folded), {
    ids: new Map([[3, 'X']]),
    places: new Map([['X', 3]]),
  });

describe('what was found, as a sheet', () => {
  it('names frames that are on their way by their places', () => {
    expect([list().key(3), list().key(4), list().key(9), list().key(-1)]).toEqual([
      'X',
      '#4',
      undefined,
      undefined,
    ]);
    expect([list().indexOf('X'), list().indexOf('#4'), list().indexOf('Y')]).toEqual([3, 4, -1]);
  });

  it.each<[string[], number, number, number]>([
    [[], 0, 1, 1],
    [[], 2, 1, 3],
    [[], 8, 1, 8],
    [[], 5, -99, 0],
    [['b'], 2, 1, 7],
    [['b'], 7, -1, 2],
    [['b'], 4, 1, 8],
    [['a'], 0, 0, 3],
    [['a', 'c'], 5, 99, 6],
    [['a', 'b', 'c'], 4, 1, 4],
  ])('with %j folded away goes from %d by %d to %d', (folded, from, by, to) =>
    expect(list(folded).step(from, by)).toBe(to),
  );

  it('says what its headings mean', () => {
    const said = { ...group('s', 0, 1), title: 'Pier walk', date: '2029-04-18' };
    expect(headingWords('shoot', said)).toMatch(/^Pier walk · .*2029$/);
    expect(headingWords('shoot', group('s', 0, 1))).toBe('a shoot that is gone');
    expect(headingWords('arrival', group(null, 0, 1))).toBe('no arrival known');
    expect(headingWords('stars', group('0', 0, 1))).toBe('no stars');
    expect(headingWords('stars', group('4', 0, 1))).toBe('4★');
    expect(headingWords('month', group('2029-04', 0, 1))).toBe('April 2029');
    expect(headingWords('year', group(null, 0, 1))).toBe('no capture time');
    expect(headingWords('keyword', group(null, 0, 1))).toBe('no keyword');
    expect(headingWords('none', group(null, 0, 1))).toBe('');
  });
});

describe('a question', () => {
  it.each<Partial<FindQuestion>>([
    {},
    { line: 'heron "North Pier" ≥4★' },
    { rejects: true, bin: true, oldestFirst: true, heading: 'none', fold: true },
    { like: '01HERON', heading: 'month' },
    { album: '01ALBUM', heading: 'album' },
    { album: '01ALBUM', heading: 'month', line: 'heron' },
  ])('stands in the address and is read back: %j', (asked) => {
    const question = { ...NO_QUESTION, ...asked };
    expect(questionOf(questionText(question))).toEqual(question);
    expect(questionOf(`?${questionText(question)}`)).toEqual(question);
  });

  it('that asks for nothing has no address of its own, and a heading that is none is not taken', () => {
    expect(questionText(NO_QUESTION)).toBe('');
    expect(questionOf('?by=moon').heading).toBe(NO_QUESTION.heading);
  });

  it('about an album stands under the album’s own address, and elsewhere says which it is', () => {
    const asked = { ...albumQuestion('01ALBUM'), line: 'heron' };
    expect(findAddress(asked)).toBe('/albums/01ALBUM?q=heron');
    expect(questionOf('?q=heron', '01ALBUM')).toEqual(asked);
    expect(questionText(asked)).toBe('in=01ALBUM&q=heron');
    expect(findAddress({ ...NO_QUESTION, line: 'heron' })).toBe('/find?q=heron');
    // Nothing stands as it is arranged where no album is looked into.
    expect(questionOf('?by=album').heading).toBe(NO_QUESTION.heading);
  });

  it('that asks for nothing leaves nothing of the one before it: neither its picture nor its album', () => {
    const before = { ...albumQuestion('01ALBUM'), like: '01HERON', line: 'fish' };
    expect(findAddress({ ...before, ...NO_QUESTION })).toBe('/find');
  });

  it('of an hour around a frame goes over midnight', () => {
    expect(nearTimeLine('2029-12-31T23:30:07.320')).toBe('2029-12-31T22:30..2030-01-01T00:30 ');
  });
});
