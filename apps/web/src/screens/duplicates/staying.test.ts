import { goingBeside, stayingOf, type DuplicateFrame } from './staying';

const frame = (id: string, more: Partial<DuplicateFrame> = {}): DuplicateFrame =>
  ({
    ...{ id, verdict: 'undecided', stars: 0, piles: [], note: null, handedOff: 0, delivered: 0, files: 1 },
    ...{ within: [], bytes: 10 },
    ...more,
  }) as unknown as DuplicateFrame;

describe('of frames with equal content', () => {
  it('the one stays of which most would be missed: delivered, with its raw, marked, and then the first', () => {
    expect(stayingOf([frame('a'), frame('b')]).id).toBe('a');
    expect(stayingOf([frame('a'), frame('b', { stars: 2 })]).id).toBe('b');
    expect(stayingOf([frame('a', { stars: 5 }), frame('b', { files: 2 })]).id).toBe('b');
    expect(stayingOf([frame('a', { files: 2, verdict: 'keep' }), frame('b', { delivered: 1 })]).id).toBe('b');
  });

  it('only those go of which every file is held by the one that stays', () => {
    const both = frame('both', { files: 2 });
    const frames = [both, frame('jpeg', { within: ['both'] }), frame('raw', { within: [] })];
    expect(goingBeside(frames, 'both').map(({ id }) => id)).toEqual(['jpeg']);
    // The picture alone does not hold the raw.
    expect(goingBeside(frames, 'jpeg')).toEqual([]);
  });
});
