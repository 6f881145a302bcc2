import type { CullCommand, KeyEntry } from './cullKeys';
import { resolve } from './resolve';

const press = (name: string, repeat = false) => ({ names: [name], repeat });

describe('what a press means', () => {
  it('is the command that it is bound to, and nothing for a key that is bound to none', () => {
    expect(resolve(press('f'), false)).toMatchObject({ mine: true, command: { do: 'verdict', to: 'keep' } });
    expect(resolve(press('y'), false)).toEqual({ mine: false, command: null, prefix: false, words: null });
  });

  it('goes on while a moving key is held, and never marks twice', () => {
    expect(resolve(press('arrowright', true), false).command).toEqual({ do: 'step', by: 1 });
    expect(resolve(press('f', true), false)).toMatchObject({ mine: true, command: null });
  });

  it('after the label’s key is a label for a digit, and no stars', () => {
    const begun = resolve(press('l'), false);
    expect(begun).toMatchObject({ mine: true, command: null, prefix: true });
    expect(resolve(press('2'), begun.prefix)).toMatchObject({ command: { do: 'label' }, prefix: false });
    expect(resolve(press('0'), true).command).toEqual({ do: 'label', to: null });
    expect(resolve(press('9'), true)).toMatchObject({ command: null, words: 'There is no label 9' });
    expect(resolve(press('2'), false).command).toEqual({ do: 'stars', to: 2 });
  });

  it('after the label’s key stays open while that is held, and is left by Escape or by any other command', () => {
    expect(resolve(press('l', true), true)).toMatchObject({ mine: true, prefix: true });
    expect(resolve(press('escape'), true)).toMatchObject({ mine: true, command: null, prefix: false });
    expect(resolve(press('d'), true)).toMatchObject({
      ...{ command: { do: 'verdict', to: 'reject' }, prefix: false },
    });
    expect(resolve(press('l'), true).prefix).toBe(true);
  });

  it('goes by the bindings that are given', () => {
    const command: CullCommand = { do: 'undo' };
    const own: KeyEntry[] = [{ hotkey: 'u', shown: 'U', does: 'undo', group: 'Undo', command }];
    expect(resolve(press('u'), false, own).command).toBe(command);
    expect(resolve(press('f'), false, own).mine).toBe(false);
  });
});
