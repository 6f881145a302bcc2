import { planNamed, type NamedPlace } from './named';
import type { MoveFrame } from './plan';

const frame = (id: string, name: string): MoveFrame => ({
  ...{ id, name, original: name, card: '', folder: 'day', place: 'day/originals' },
  ...{ capture: null, model: '', serial: '', stars: 0 },
  files: [
    { assetId: `${id}-raw`, path: `day/originals/${name}.dng`, role: 'original' },
    { assetId: `${id}-jpeg`, path: `day/originals/${name}.jpg`, role: 'original' },
  ],
});
const as = (id: string, name: string): NamedPlace => ({ id, name, folder: 'day', place: 'day/originals' });
const called = (moves: { id: string | null; to: { name: string } }[]) =>
  moves.map(({ id, to }) => `${id} ${to.name}`);

describe('names that are given one by one', () => {
  it('take all files of a frame along, and leave what is called so already', () => {
    const { moves, taken } = planNamed([frame('1', 'a'), frame('2', 'b')], [as('1', 'gala'), as('2', 'b')]);
    expect(taken).toEqual([]);
    expect(moves).toHaveLength(1);
    expect(moves[0]!.files).toEqual([
      { assetId: '1-raw', from: 'day/originals/a.dng', to: 'day/originals/gala.dng' },
      { assetId: '1-jpeg', from: 'day/originals/a.jpg', to: 'day/originals/gala.jpg' },
    ]);
  });

  it('may be those of frames that get others, in a row or in a circle', () => {
    const frames = [frame('1', 'a'), frame('2', 'b'), frame('3', 'c')];
    expect(called(planNamed(frames, [as('1', 'b'), as('2', 'c'), as('3', 'd')]).moves)).toEqual([
      '1 b',
      '2 c',
      '3 d',
    ]);
    expect(planNamed(frames, [as('1', 'b'), as('2', 'a')]).taken).toEqual([]);
  });

  it('stay where another frame has the name, and so do those that wait for these', () => {
    const frames = [frame('1', 'a'), frame('2', 'b'), frame('3', 'c')];
    // The third keeps its name: the second cannot have it, nor the first that of the second.
    const { moves, taken } = planNamed(frames, [as('1', 'B'), as('2', 'c')]);
    expect(moves).toEqual([]);
    expect(taken.sort()).toEqual(['1', '2']);
    expect(planNamed(frames, [as('1', 'x'), as('2', 'X')])).toMatchObject({ taken: ['2'] });
    expect(planNamed(frames, [as('9', 'x')])).toEqual({ moves: [], taken: [] });
  });
});
