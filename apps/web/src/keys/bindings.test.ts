import { ACTIONS, type Action } from './actions';
import { Bindings, keysAsText, keysFromText, SETS, shownKey, tidy } from './bindings';

const action = (id: string): Action => ACTIONS.find((one) => one.id === id)!;
/** Pairs of actions of which one takes the other's key away. */
const clashes = (bindings: Bindings): string[] =>
  ACTIONS.flatMap((one) =>
    bindings
      .keysOf(one)
      .flatMap((key) => bindings.inTheWay(key, one).map((other) => `${one.id} ${key} ${other.id}`)),
  );

describe('the keys of Cull', () => {
  it('are each bound once, as they come and in every set', () => {
    expect(new Set(ACTIONS.map(({ id }) => id)).size).toBe(ACTIONS.length);
    for (const { id, own } of SETS) {
      expect([id, clashes(new Bindings(own))]).toEqual([id, []]);
      // A set names nothing that is not there.
      expect(Object.keys(own).filter((key) => !action(key))).toEqual([]);
    }
  });

  it('that are changed are heard instead of those that the action came with', () => {
    const bindings = new Bindings({ keep: ['k', 'f5'] });
    expect(bindings.boundTo(['k'])?.id).toBe('keep');
    expect(bindings.boundTo(['f'])).toBeUndefined();
    expect(bindings.boundTo(['f5'])?.id).toBe('keep');
  });

  it('say whose key it was before it is taken, the first of two keys too', () => {
    const bindings = new Bindings();
    expect(bindings.inTheWay('d', action('keep')).map(({ id }) => id)).toEqual(['reject']);
    expect(bindings.inTheWay('f6', action('keep'))).toEqual([]);
    // A key alone would hide what begins with it, and one after it could not be reached.
    expect(bindings.inTheWay('l', action('keep')).map(({ id }) => id)).toContain('label-A');
    expect(bindings.inTheWay('d>1', action('keep')).map(({ id }) => id)).toEqual(['reject']);
    expect(bindings.inTheWay('l>9', action('keep'))).toEqual([]);
  });

  it('are taken from whatever had them, and given back when they are as they came', () => {
    const taken = new Bindings().with('d', action('keep'));
    const now = new Bindings(taken);
    expect([now.boundTo(['d'])?.id, now.boundTo(['f'])?.id]).toEqual(['keep', 'keep']);
    expect(now.keysOf(action('reject'))).toEqual(['pad-']);
    const labels = new Bindings(new Bindings().with('l', action('keep')));
    expect(labels.boundTo(['l'])?.id).toBe('keep');
    expect(labels.keysOf(action('label-A'))).toEqual([]);
    expect(clashes(labels)).toEqual([]);
    expect(now.without('d', action('keep'))).toEqual({ reject: ['pad-'] });
    expect(tidy({ keep: [...action('keep').keys] })).toEqual({});
  });

  it('are shown as they are pressed', () =>
    expect(
      ['f', 'shift+arrowup', 'ctrl+shift+z', 'l>1', 'pad+', 'pad-', '-', 'space', '+'].map(shownKey),
    ).toEqual(['F', 'Shift ↑', 'Ctrl Shift Z', 'L then 1', 'Pad +', 'Pad −', '−', 'Space', '+']));

  it('are carried by a file, which says what it names that is unknown', () => {
    const own = { keep: ['k'], reject: [] };
    expect(keysFromText(keysAsText(own))).toEqual({ own, unknown: [] });
    const more = JSON.stringify({
      format: 'arkiv-keys',
      version: 1,
      keys: { keep: ['k'], fly: ['f'], undo: 3 },
    });
    expect(keysFromText(more)).toEqual({ own: { keep: ['k'] }, unknown: ['fly', 'undo'] });
    expect(() => keysFromText('{"keys":{}}')).toThrow('not a file of keys');
    expect(() => keysFromText('keep=k')).toThrow('no JSON');
  });
});
