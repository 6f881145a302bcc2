import type { Measures } from '../vision/measures';
import { meritsOf } from './merit';

const measures = (change: Partial<Measures> = {}): Measures => ({
  ...{ sharp: 60, shake: { strength: 0.1, angle: 0 }, x: 0.5, y: 0.5, blown: 0, white: 0, level: -2.4 },
  ...{ brightest: 240, blue: 1, red: -1, tilt: null },
  ...change,
});

const judged = (
  all: readonly (Partial<Measures> | null)[],
  kind: Parameters<typeof meritsOf>[1] = 'burst',
) => {
  const merits = meritsOf(
    all.map((change, i) => ({ id: `${i}`, measures: change && measures(change) })),
    kind,
  );
  return all.map((_, i) => merits.get(`${i}`)!);
};
const words = (...args: Parameters<typeof judged>) => judged(...args).map((merit) => merit.words.join('; '));
const places = (...args: Parameters<typeof judged>) => judged(...args).map(({ place }) => place);

describe('the order of merit in a take', () => {
  it('puts the sharpest first, and says of each how it differs', () => {
    const take = [
      { sharp: 40, x: 0.3 },
      { sharp: 61, x: 0.5 },
      { sharp: 15 },
      { sharp: 30, shake: { strength: 1.3, angle: 4 } },
      { sharp: 58 },
      { sharp: 35, x: 0.9, y: 0.9 },
    ];
    expect(places(take)).toEqual([3, 1, 6, 5, 1, 4]);
    expect(words(take)).toEqual([
      'softer',
      'sharpest',
      'out of focus',
      'shaken sideways',
      '',
      'softer, its focus at the lower right',
    ]);
  });

  it('says which way a hand shook, beside the sharpest: what both have is what is seen', () => {
    const way = (angle: number, other = { strength: 0, angle: 0 }) =>
      words([
        { sharp: 80, shake: other },
        { sharp: 40, shake: { strength: 1, angle } },
      ])[1];
    expect([0, 45, 90, 135, 175].map((angle) => way(angle))).toEqual([
      ...['shaken sideways', 'shaken slantwise', 'shaken up and down', 'shaken slantwise'],
      'shaken sideways',
    ]);
    expect(way(90, { strength: 0.9, angle: 92 })).toBe('softer');
  });

  it('weighs what is blown, too dark or of another colour beside the others', () => {
    const take = [
      { blown: 0.01 },
      { blown: 0.06, sharp: 62 },
      { level: -3.4 },
      { blue: -8, red: 0 },
      { level: -2, tilt: 2.4 },
      { tilt: 0.1, blown: 0.007 },
    ];
    expect(words(take)).toEqual([
      '1 % more is blown',
      'sharpest; 6 % more is blown',
      '1.0 stops darker',
      'yellower',
      'tilted 2.4°; 0.4 stops brighter',
      'a little more is blown',
    ]);
    expect(places([{ blown: 0.06, sharp: 62 }, {}])).toEqual([2, 1]);
  });

  it('names each colour that a lamp can give', () => {
    const cast = (blue: number, red: number) =>
      words([{}, { sharp: 55 }, { sharp: 55, blue: 1 + blue, red: -1 + red }])[2];
    expect([cast(8, 0), cast(5, 7), cast(-4, 8), cast(-8, 1), cast(-5, -7), cast(4, -8)]).toEqual([
      ...['bluer', 'more purple', 'redder', 'yellower', 'greener', 'more cyan'],
    ]);
  });

  it('is none in a bracket, where exposure differs on purpose, nor in a panorama', () => {
    const bracket = [
      { level: -4, blown: 0 },
      { level: -2, blown: 0.1, sharp: 20 },
      { level: 0, blown: 0.4 },
    ];
    expect(places(bracket, 'bracket')).toEqual([null, null, null]);
    expect(words(bracket, 'bracket')).toEqual(['sharpest', 'out of focus', '']);
    expect(words([{ sharp: 90 }, { sharp: 50 }, { sharp: 10 }], 'panorama')).toEqual([
      ...['', '', 'soft: nothing is in focus'],
    ]);
  });

  it('says of a frame alone what is seen of it, and nothing of what was not measured', () => {
    expect(words([{ white: 0.3, tilt: -3 }], null)).toEqual(['over-exposed; the horizon is tilted']);
    expect(judged([null, {}])).toMatchObject([
      { place: null, softer: null, words: [] },
      { place: null, softer: 0 },
    ]);
    expect(words([{ sharp: null }, { sharp: null }])).toEqual(['', '']);
  });
});
