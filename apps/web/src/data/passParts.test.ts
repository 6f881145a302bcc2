import { nextPart, passAddress, seenIn, shootOf } from './passParts';

const pass = {
  frames: ['a1', 'a2', 'b1', 'c1', 'c2'],
  parts: [
    { shootId: 'A', title: 'first', frames: 2 },
    { shootId: 'B', title: 'second', frames: 1 },
    { shootId: 'C', title: 'third', frames: 2 },
  ],
};
const next = (seen: number[], shootId: string) => nextPart({ ...pass, seen: new Set(seen) }, shootId);

describe('a pass over several shoots', () => {
  it('goes on in the next one with frames that were not seen, at the first of them', () => {
    expect(next([], 'A')).toEqual({ shootId: 'B', title: 'second', left: 1, frame: 'b1' });
    expect(next([2, 3], 'A')).toEqual({ shootId: 'C', title: 'third', left: 1, frame: 'c2' });
  });

  it('begins again from the first after the last, and ends where all others are seen', () => {
    expect(next([0], 'C')).toEqual({ shootId: 'A', title: 'first', left: 1, frame: 'a2' });
    expect(next([0, 1, 2], 'C')).toBeNull();
    expect(
      nextPart({ frames: ['x'], parts: [{ ...pass.parts[0]!, frames: 1 }], seen: new Set() }, 'A'),
    ).toBeNull();
  });

  it('knows the shoot of each frame, and of a strange one none', () => {
    expect(['a2', 'b1', 'c2'].map((frame) => shootOf(pass, frame))).toEqual(['A', 'B', 'C']);
    expect(shootOf(pass, 'z')).toBeNull();
  });

  it('keeps what was seen once its frames stand in another order, and nothing of what it has no more', () => {
    const placeOf = new Map([...'cab'].map((frame, place) => [frame, place]));
    expect(seenIn({ placeOf }, { frames: [...'abxc'], seen: new Set([0, 2, 3]) }).sort()).toEqual([0, 1]);
  });

  it('is gone on with by an address that names shoot, frame and pass', () =>
    expect(passAddress('B', 'P1', 'b1')).toBe('/shoots/B/cull?view=single&frame=b1&pass=P1'));
});
