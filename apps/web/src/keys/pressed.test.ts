import { Bindings } from './bindings';
import { pressNames, type Press } from './pressed';

const press = (code: string, key: string, more: Partial<Press> = {}): Press => ({
  code,
  key,
  ctrlKey: false,
  metaKey: false,
  shiftKey: false,
  altKey: false,
  ...more,
});
const SHIFT = { shiftKey: true };
const CTRL = { ctrlKey: true };

/** What Cull does on a press. */
const does = (pressed: Press): string | undefined => new Bindings().boundTo(pressNames(pressed))?.does;

describe('a key press', () => {
  it.each([
    ['US', press('KeyF', 'f'), 'keep'],
    ['a dead or Greek layout', press('KeyF', 'φ'), 'keep'],
    ['AZERTY, where Q is written on the place of A', press('KeyA', 'q'), 'step on after marking, on or off'],
    ['QWERTZ, 2', press('Digit2', '2'), '2★'],
    ['AZERTY, 2 without Shift', press('Digit2', 'é'), '2★'],
    ['AZERTY, 2 with Shift', press('Digit2', '2', SHIFT), '2★'],
    ['Caps Lock', press('KeyD', 'D'), 'reject'],
  ])('goes by the place for letters and digits: %s', (_, pressed, wanted) =>
    expect(does(pressed)).toBe(wanted),
  );

  it.each([
    ['US ?', press('Slash', '?', SHIFT), 'all keys'],
    ['QWERTZ ?', press('Minus', '?', SHIFT), 'all keys'],
    ['AZERTY ?', press('KeyM', '?', SHIFT), 'all keys'],
    ['US /', press('Slash', '/'), 'filter'],
    ['QWERTZ /', press('Digit7', '/', SHIFT), 'filter'],
    ['AZERTY /', press('Period', '/', SHIFT), 'filter'],
    ['US + without Shift', press('Equal', '='), 'larger'],
    ['US +', press('Equal', '+', SHIFT), 'larger'],
    ['QWERTZ +', press('BracketRight', '+'), 'larger'],
    ['US −', press('Minus', '-'), 'smaller'],
    ['QWERTZ −', press('Slash', '-'), 'smaller'],
    ['AZERTY −', press('Digit6', '-'), 'smaller'],
  ])('goes by what is typed for characters: %s', (_, pressed, wanted) => expect(does(pressed)).toBe(wanted));

  it.each([
    ['Ctrl', press('KeyZ', 'z', CTRL), 'undo'],
    ['Cmd', press('KeyZ', 'z', { metaKey: true }), 'undo'],
    ['QWERTZ', press('KeyY', 'z', CTRL), 'undo'],
    ['AZERTY', press('KeyW', 'z', CTRL), 'undo'],
    ['a Cyrillic layout', press('KeyZ', 'я', CTRL), 'undo'],
    ['QWERTZ, Cmd', press('KeyY', 'Z', { metaKey: true, shiftKey: true }), 'redo'],
    ['AZERTY, all', press('KeyQ', 'a', CTRL), 'select all shown'],
    // The place of Z on QWERTZ writes Y: no undo.
    ['QWERTZ, the other key', press('KeyZ', 'y', CTRL), undefined],
  ])('goes by what is written with Ctrl or Cmd: %s', (_, pressed, wanted) =>
    expect(does(pressed)).toBe(wanted),
  );

  it.each([
    ['5', press('Numpad5', '5'), '5★'],
    ['5 with the lock off', press('Numpad5', 'Clear'), '5★'],
    ['1 with the lock off', press('Numpad1', 'End'), '1★'],
    ['0 with the lock off', press('Numpad0', 'Insert'), 'no stars'],
    ['+', press('NumpadAdd', '+'), 'keep'],
    ['−', press('NumpadSubtract', '-'), 'reject'],
    ['. with the lock off', press('NumpadDecimal', 'Delete'), 'back to undecided'],
    ['Enter', press('NumpadEnter', 'Enter'), 'single'],
  ])('of the number pad goes by place: %s', (_, pressed, wanted) => expect(does(pressed)).toBe(wanted));

  it('that nothing is bound to does nothing, and Ctrl goes its own way', () => {
    expect(does(press('KeyU', 'u', { altKey: true }))).toBeUndefined();
    expect(does(press('KeyG', 'g', CTRL))).toBeUndefined();
    expect(does(press('KeyF', 'f', CTRL))).toBe('find in the whole archive');
    expect(does(press('ShiftLeft', 'Shift', SHIFT))).toBeUndefined();
  });
});
