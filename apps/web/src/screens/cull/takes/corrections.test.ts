import { takesOf } from '@arkiv/core';
import type { LoadedFrame } from '../../../data/frames';
import { corrected, type TakeDeed } from './corrections';
import { Takes } from './takes';

const ID = (letter: string) => letter.toUpperCase().padEnd(26, '0');
/** Letters, and a time in seconds each: one body but for `x` and `y`. */
const shoot = (times: Record<string, number>, said: Record<string, string> = {}): LoadedFrame[] =>
  Object.entries(times)
    .sort(([, a], [, b]) => a - b)
    .map(
      ([letter, at]) =>
        ({
          id: ID(letter),
          instant: at * 1000,
          serial: 'xy'.includes(letter) ? 'other' : 'one',
          ...{ body: null, take: said[letter] ?? null, close: null, dx: null, dy: null },
        }) as LoadedFrame,
    );

/** The takes after something was said of a frame, and what was said. */
function after(frames: readonly LoadedFrame[], asked: TakeDeed, current: string, targets = [current]) {
  const byId = new Map(frames.map((frame) => [frame.id, frame]));
  const takes = Takes.of(frames, { strictness: 0, bodiesTogether: false });
  const on = { takes, frames, byId, current: ID(current), targets: targets.map(ID) };
  const { changes, words } = corrected(asked, on);
  const to = new Map(changes.map(({ id, to: take }) => [id, take as string | null]));
  const now = frames.map((frame) => (to.has(frame.id) ? { ...frame, take: to.get(frame.id)! } : frame));
  const of = takesOf(now.map((frame) => ({ ...frame, body: frame.serial })));
  return { takes: of.map(({ ids }) => ids.map((id) => id[0]!.toLowerCase()).join('')), words, of, changes };
}

/** a b c | d e, and of another body x y beside a and b. */
const TWO = { a: 0, x: 0.05, b: 0.2, y: 0.25, c: 0.4, d: 9, e: 9.2 };

describe('what somebody says of takes', () => {
  it('puts frames into the take that they are let go over, and leaves those that belong to it', () => {
    const to = (id: string, targets: string[]) =>
      after(shoot(TWO), { deed: 'to', id: ID(id) }, targets[0]!, targets);
    expect(to('d', ['c']).takes).toEqual(['ab', 'xy', 'cde']);
    expect(to('e', ['a', 'd']).takes).toEqual(['ade', 'xy', 'bc']);
    expect(to('a', ['x']).takes).toEqual(['axbc', 'y', 'de']);
    expect(to('b', ['a', 'c'])).toMatchObject({ changes: [], words: 'They are one take already' });
  });

  it('begins a new take at a frame', () => {
    expect(after(shoot(TWO), { deed: 'split' }, 'b').takes).toEqual(['a', 'xy', 'bc', 'de']);
  });

  it('says that a take begins there already, and changes nothing', () => {
    const { changes, words } = after(shoot(TWO), { deed: 'split' }, 'd');
    expect([changes, words]).toEqual([[], 'A take begins here already']);
  });

  it('joins a take with the one before it, from any of its frames', () => {
    const only = shoot({ a: 0, b: 0.2, d: 9, e: 9.2 });
    expect(after(only, { deed: 'join' }, 'e').takes).toEqual(['abde']);
    expect(after(only, { deed: 'join' }, 'e').changes).toHaveLength(1);
  });

  it('joins takes of two bodies', () => {
    expect(after(shoot(TWO), { deed: 'join' }, 'y').takes).toEqual(['axbyc', 'de']);
  });

  it('joins what was split, without a trace', () => {
    const split = shoot(TWO, { b: 'cut' });
    expect(after(split, { deed: 'join' }, 'b').takes).toEqual(['abc', 'xy', 'de']);
    const plain = shoot({ a: 0, b: 0.2, c: 0.4 }, { b: 'cut' });
    expect(after(plain, { deed: 'join' }, 'b').takes).toEqual(['abc']);
  });

  it('takes frames out, each to stand alone', () => {
    expect(after(shoot(TWO), { deed: 'out' }, 'b', ['b', 'e']).takes).toEqual(['ac', 'xy', 'b', 'd', 'e']);
  });

  it('puts what belongs together where the first of it is', () => {
    expect(after(shoot(TWO), { deed: 'together' }, 'e', ['e', 'b']).takes).toEqual(['abce', 'xy', 'd']);
    expect(after(shoot(TWO), { deed: 'together' }, 'c', ['c']).words).toBe(
      'Select the frames that belong together',
    );
    expect(after(shoot(TWO), { deed: 'together' }, 'c', ['c', 'a']).words).toBe('They are one take already');
  });

  it('has one frame stand for a take, and no other any more', () => {
    const { of } = after(shoot(TWO, { a: 'lead' }), { deed: 'lead' }, 'c');
    expect(of[0]).toMatchObject({ lead: ID('c') });
  });

  it('gives a take its kind, and a frame alone none', () => {
    expect(after(shoot(TWO), { deed: 'kind', kind: 'panorama' }, 'c').of[0]).toMatchObject({
      kind: 'panorama',
    });
    expect(after(shoot({ a: 0 }), { deed: 'kind', kind: 'panorama' }, 'a').changes).toEqual([]);
  });

  it('leaves a take to the machine again', () => {
    const frames = shoot(TWO, { a: 'lead', b: `with:${ID('a')} burst`, c: 'join' });
    const { of } = after(frames, { deed: 'machine' }, 'a');
    expect(of.find(({ ids }) => ids.includes(ID('a')))).toMatchObject({ corrected: false });
  });
});
