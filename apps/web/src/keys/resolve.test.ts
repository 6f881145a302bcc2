import { Bindings } from './bindings';
import { resolve as resolved } from './resolve';

const BOUND = new Bindings();
const resolve = (pressed: { names: string[]; repeat: boolean }, prefix: string | null) =>
  resolved(pressed, prefix, BOUND);

const press = (name: string, repeat = false) => ({ names: [name], repeat });

describe('what a press means', () => {
  it('is the command that it is bound to, and nothing for a key that is bound to none', () => {
    expect(resolve(press('f'), null)).toMatchObject({ mine: true, command: { do: 'verdict', to: 'keep' } });
    expect(resolve(press('f20'), null)).toEqual({ mine: false, command: null, prefix: null, words: null });
  });

  it('goes on while a moving key is held, and never marks twice', () => {
    expect(resolve(press('arrowright', true), null).command).toEqual({ do: 'step', by: 1 });
    expect(resolve(press('f', true), null)).toMatchObject({ mine: true, command: null });
  });

  it('after the label’s key is a label for a digit, and no stars', () => {
    const begun = resolve(press('l'), null);
    expect(begun).toMatchObject({ mine: true, command: null, prefix: 'l' });
    expect(resolve(press('2'), begun.prefix)).toMatchObject({ command: { do: 'label' }, prefix: null });
    expect(resolve(press('0'), 'l').command).toEqual({ do: 'label', to: null });
    expect(resolve(press('9'), 'l')).toMatchObject({ command: null, words: 'L then 9 does nothing' });
    expect(resolve(press('2'), null).command).toEqual({ do: 'stars', to: 2 });
  });

  it('after the label’s key stays open while that is held, and is left by Escape or by any other command', () => {
    expect(resolve(press('l', true), 'l')).toMatchObject({ mine: true, prefix: 'l' });
    expect(resolve(press('escape'), 'l')).toMatchObject({ mine: true, command: null, prefix: null });
    expect(resolve(press('d'), 'l')).toMatchObject({
      ...{ command: { do: 'verdict', to: 'reject' }, prefix: null },
    });
    expect(resolve(press('l'), 'l').prefix).toBe('l');
  });

  it('is what somebody chose, whatever Arkiv comes with at that key', () => {
    expect(resolved(press('v'), null, new Bindings()).command).toEqual({ do: 'pile' });
    const own = new Bindings({ run: ['v'], 'label-A': ['t>b'] });
    expect(resolved(press('v'), null, own).command).toEqual({ do: 'view', to: 'run' });
    expect(resolved(press('t'), null, own).prefix).toBe('t');
  });

  it('goes by the bindings that are given', () => {
    const own = new Bindings({ undo: ['f2'], keep: [], 'label-A': ['m>b'] });
    expect(resolved(press('f2'), null, own).command).toEqual({ do: 'undo' });
    expect(resolved(press('f'), null, own).mine).toBe(false);
    expect(resolved(press('m'), null, own).prefix).toBe('m');
    expect(resolved(press('b'), 'm', own).command).toEqual({ do: 'label', to: 'A' });
  });
});
