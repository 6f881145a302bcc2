import fc from 'fast-check';
import { regrouped, type PassFrames } from './regroup';

const pass = (frames: string, stretches: string, seen: number[] = []): PassFrames => ({
  frames: [...frames],
  stretches: stretches.split(' ').map((its) => ({ shootId: its[0]!, frames: Number(its.slice(1)) })),
  seen: new Set(seen),
});
const in_ = (shoots: Record<string, string>) => (id: string) =>
  Object.keys(shoots).find((shoot) => shoots[shoot]!.includes(id));

describe('a pass whose frames went into another shoot', () => {
  it('goes over that shoot, and nothing was seen less', () =>
    expect(regrouped(pass('abcd', 'X2 Y2', [1, 2]), in_({ Y: 'abcd' }))).toEqual(pass('abcd', 'Y4', [1, 2])));

  it('has the frames of a shoot together again, with the place of each that was seen', () =>
    expect(regrouped(pass('abcdef', 'X2 Y2 Z2', [0, 2, 5]), in_({ X: 'abef', Y: 'cd' }))).toEqual(
      pass('abefcd', 'X4 Y2', [0, 3, 4]),
    ));

  it('takes along what lies in the bin, or is not there any more, with its neighbours', () => {
    expect(regrouped(pass('abcd', 'X2 Y2'), in_({ Y: 'acd' }))).toEqual(pass('abcd', 'Y4'));
    expect(regrouped(pass('abcd', 'X2 Y2'), in_({ Y: 'bcd' }))).toEqual(pass('abcd', 'Y4'));
    // Of all that it has nothing is here: it stays where it was.
    expect(regrouped(pass('abcd', 'X2 Y2'), in_({ Y: 'cd' }))).toBeNull();
  });

  it('stays as it is where nothing of it went', () =>
    expect(regrouped(pass('abcd', 'X2 Y2', [3]), in_({ X: 'ab', Y: 'cd' }))).toBeNull());

  it('is told of where two frames changed places', () =>
    expect(regrouped(pass('abcd', 'X2 Y2', [0]), in_({ X: 'cb', Y: 'ad' }))).toEqual(
      pass('adbc', 'Y2 X2', [0]),
    ));

  it('always has each frame once, each seen one seen, and stretches as the shoots say', () => {
    const shoot = fc.constantFrom('X', 'Y', 'Z');
    const frame = fc.record({ was: shoot, is: fc.option(shoot, { nil: undefined }), seen: fc.boolean() });
    fc.assert(
      fc.property(fc.array(frame, { maxLength: 30 }), (list) => {
        const all = ['X', 'Y', 'Z'].flatMap((was) => list.filter((its) => its.was === was));
        const names = all.map((_, n) => `f${n}`);
        const before: PassFrames = {
          frames: names,
          stretches: ['X', 'Y', 'Z'].flatMap((shootId) => {
            const { length } = all.filter(({ was }) => was === shootId);
            return length > 0 ? [{ shootId, frames: length }] : [];
          }),
          seen: new Set(all.flatMap((its, n) => (its.seen ? [n] : []))),
        };
        const of = (id: string) => all[names.indexOf(id)]!;
        const after = regrouped(before, (id) => of(id).is) ?? before;
        expect([...after.frames].sort()).toEqual([...names].sort());
        expect(after.frames.filter((_, n) => after.seen.has(n)).every((id) => of(id).seen)).toBe(true);
        expect(after.seen.size).toBe(before.seen.size);
        const shoots = after.stretches.flatMap(({ shootId, frames }) => Array<string>(frames).fill(shootId));
        after.frames.forEach((id, n) => expect(of(id).is ?? shoots[n]).toBe(shoots[n]));
        expect(new Set(after.stretches.map(({ shootId }) => shootId)).size).toBe(after.stretches.length);
      }),
    );
  });
});
